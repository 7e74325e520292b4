<script lang="ts">
	import type { PagePicture } from '$lib/core/packet/earlierPictures';
	import type { Page } from '$lib/core/packet/packet';
	import { usePacket } from '../packet/context';

	let { page }: { page: Page } = $props();
	const store = usePacket();
	let earlier = $state.raw<(PagePicture & { name: string })[]>([]);

	const id = $derived(page.id);
	/** The picture that the server knows the page by: the list changes with it, and with nothing else. */
	const known = $derived.by(() => {
		const there = store.view.packet.pages[id];
		return there && `${there.source}/${there.sourcePage}`;
	});

	$effect(() => {
		void known;
		let stale = false;
		void fetch(`/api/packets/${store.view.id}/pages/${id}/pictures`)
			.then((response) => (response.ok ? response.json() : []))
			.then((found) => {
				if (!stale) earlier = found as typeof earlier;
			})
			.catch(() => undefined);
		return () => (stale = true);
	});

	function bringBack({ source, sourcePage, half }: PagePicture): void {
		const whole = half === undefined ? {} : { half };
		const picture = { source, sourcePage, ...whole, corners: null, turn: null };
		store.edit({ kind: 'setPicture', page: page.id, picture });
	}
</script>

{#each earlier as picture (`${picture.source}/${picture.sourcePage}`)}
	<button class="quiet" onclick={() => bringBack(picture)} title="The picture that this page had before">
		Bring back {picture.name || 'the earlier picture'}
	</button>
{/each}
