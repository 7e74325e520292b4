<script lang="ts">
	import { Modal } from 'carbon-components-svelte';

	let { open = $bindable(false) }: { open: boolean } = $props();
	const KEYS: [string, string][] = [
		['Page Down, Page Up', 'next page, page before'],
		['Ctrl+Z, Ctrl+Shift+Z', 'undo, redo'],
		['Arrow keys on the strip', 'choose a page'],
		['Alt+arrow on the strip', 'move the page'],
		['Delete on the strip', 'set the page aside'],
		['t, Shift+T in Square', 'turn right, turn left'],
		['Arrow keys on a corner or side', 'move it by one pixel; with Shift by ten'],
		['Enter on a page in Map', 'place the chosen question at its top'],
		['Arrow keys on a seam', 'move it; with Shift further'],
		['Delete on a seam', 'remove it'],
		['?', 'this list']
	];
</script>

<Modal passiveModal bind:open modalHeading="Keys" size="sm">
	<dl>
		{#each KEYS as [keys, what] (keys)}
			<div>
				<dt>{keys}</dt>
				<dd>{what}</dd>
			</div>
		{/each}
	</dl>
</Modal>

<style>
	dl {
		margin: 0;
	}
	div {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 1rem;
		padding: 0.5rem 0;
		border-top: 1px solid var(--rule);
	}
	dt {
		font-weight: 600;
	}
	dd {
		margin: 0;
	}
</style>
