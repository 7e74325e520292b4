<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import type { PacketReturn } from '$lib/core/packet/returned';
	import { describeChange } from '$lib/core/packet/describeChange';
	import type { LogLine } from '$lib/server/store/packets';

	interface Props {
		open: boolean;
		packetId: string;
		version: number;
		returns: readonly PacketReturn[];
	}
	let { open = $bindable(false), packetId, version, returns }: Props = $props();
	let lines = $state.raw<LogLine[]>([]);

	$effect(() => {
		if (!open) return;
		void version;
		void fetch(`/api/packets/${packetId}/log`)
			.then((response) => (response.ok ? response.json() : []))
			.then((found: LogLine[]) => (lines = found));
	});
	/** What was done to the packet, and when it was given back; latest first. */
	const events = $derived(
		[
			...lines.map((l) => ({
				key: String(l.version),
				at: l.at,
				by: l.by ?? 'Membrana',
				text: `${VERBS[l.kind]}${describeChange(l.change)}`
			})),
			...returns.flatMap((r) => [
				{
					key: r.id,
					at: r.at,
					by: r.by,
					text: `Gave it back: ${[...r.reasons.map((x) => x.text), r.words].filter(Boolean).join(' ')}`
				},
				...(r.takenBackAt ? [{ key: `${r.id}-`, at: r.takenBackAt, by: r.by, text: 'Took that back' }] : [])
			])
		].sort((a, b) => Date.parse(b.at) - Date.parse(a.at))
	);
	const VERBS = { edit: '', machine: '', undo: 'Undone: ', redo: 'Done again: ' };
</script>

<Modal passiveModal bind:open modalHeading="History" hasScrollingContent>
	<ol>
		{#each events as event (event.key)}
			<li>
				<time>{new Date(event.at).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'short' })}</time>
				<b>{event.by}</b>
				<span>{event.text}</span>
			</li>
		{:else}
			<li>Nothing has happened yet.</li>
		{/each}
	</ol>
</Modal>

<style>
	ol {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		display: flex;
		flex-wrap: wrap;
		gap: 0.25rem 0.75rem;
		padding: 0.5rem 0;
		border-top: 1px solid var(--rule);
	}
	time {
		color: var(--ink-soft);
	}
</style>
