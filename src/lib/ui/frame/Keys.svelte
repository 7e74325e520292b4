<script lang="ts">
	import { Modal } from 'carbon-components-svelte';

	/** Of the packet workspace. */
	const WORKSPACE: readonly (readonly [string, string])[] = [
		['Page Down, Page Up', 'next page, page before'],
		['Ctrl+Z, Ctrl+Shift+Z', 'undo, redo'],
		['Arrow keys on the strip', 'choose a page'],
		['Alt+arrow on the strip', 'move the page'],
		['Delete on the strip', 'set the page aside'],
		['m on the strip', 'mark the page, to treat several alike'],
		['t, Shift+T in Square', 'turn right, turn left'],
		['Alt+T in Square', 'turn this page and all after it'],
		['Arrow keys on a corner or side', 'move it by one pixel; with Shift by ten'],
		['+ − 0 1 and arrows on the page in Tone', 'zoom, whole page, every pixel, move it'],
		['w in Tone', 'show where the writing is weak'],
		['r in Tone', 'read through all pages: f fine, w needs work, x set aside'],
		[
			'Arrow keys on what was added in Write',
			'move it; with Shift further, with Alt make it larger or smaller'
		],
		['Delete on what was added in Write', 'take it off'],
		['s in Order, where a page is there twice', 'swap the two pictures'],
		['n in Map', 'next seam that was read: Enter confirms, Delete declines, arrows move it'],
		['Enter on a page in Map', 'place the chosen question at its top'],
		['Arrow keys on a seam', 'move it; with Shift further'],
		['Delete on a seam', 'remove it'],
		['p', 'nothing but the page, and back'],
		['b', 'hide the rules, and back'],
		['Arrow keys on the strip’s upper edge', 'make the strip higher or lower'],
		['/', 'find words on the pages'],
		['?', 'this list']
	];
	interface Props {
		open: boolean;
		/** What to press, and what it does. */
		keys?: readonly (readonly [string, string])[];
	}
	let { open = $bindable(false), keys: listed = WORKSPACE }: Props = $props();
</script>

<Modal passiveModal bind:open modalHeading="Keys" size="sm">
	<dl>
		{#each listed as [keys, what] (keys)}
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
