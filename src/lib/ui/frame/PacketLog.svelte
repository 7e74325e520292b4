<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import { describeChange } from '$lib/core/packet/describeChange';
	import type { LogLine } from '$lib/server/store/packets';

	interface Props {
		open: boolean;
		packetId: string;
		version: number;
	}
	let { open = $bindable(false), packetId, version }: Props = $props();
	let lines = $state.raw<LogLine[]>([]);

	$effect(() => {
		if (!open) return;
		void version;
		void fetch(`/api/packets/${packetId}/log`)
			.then((response) => (response.ok ? response.json() : []))
			.then((found: LogLine[]) => (lines = found));
	});
	const VERBS = { edit: '', machine: '', undo: 'Undone: ', redo: 'Done again: ' };
</script>

<Modal passiveModal bind:open modalHeading="History" hasScrollingContent>
	<ol>
		{#each lines as line (line.version)}
			<li>
				<time>{new Date(line.at).toLocaleString('en-GB', { dateStyle: 'short', timeStyle: 'short' })}</time>
				<b>{line.by ?? 'Membrana'}</b>
				<span>{VERBS[line.kind]}{describeChange(line.change)}</span>
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
