import { goto } from '$app/navigation';
import type { Fix } from '$lib/core/rules/finding';
import type { PacketStore } from '../packet/packetStore.svelte';

/** Does what mends a finding, or goes to where it is mended. */
export function takeFix(store: PacketStore, fix: Fix | null | undefined): void {
	if (!fix) return;
	if (fix.change) store.edit(fix.change);
	else {
		if (fix.page) store.current = fix.page;
		void goto(`/packets/${store.view.id}/${fix.task}`);
	}
}
