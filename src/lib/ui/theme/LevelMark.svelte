<script lang="ts">
	import type { CellState } from '$lib/core/board/summarise';

	// Each has a shape and a word of its own; colour only repeats them.
	let { level, size = 18 }: { level: CellState; size?: number } = $props();
	const words: Record<CellState, string> = {
		clear: 'Clear',
		look: 'Look',
		blocks: 'Blocks',
		open: 'Not known yet',
		absent: 'Not there',
		skipped: 'Not attempted'
	};
</script>

<svg width={size} height={size} viewBox="0 0 18 18" role="img" aria-label={words[level]} class={level}>
	{#if level === 'clear'}
		<path d="M3 9.5 7 13.5 15 4.5" fill="none" stroke="currentColor" stroke-width="2.2" />
	{:else if level === 'look'}
		<path
			d="M1.5 9c3.6-5.6 11.4-5.6 15 0-3.6 5.6-11.4 5.6-15 0z"
			fill="none"
			stroke="currentColor"
			stroke-width="1.8"
		/>
		<circle cx="9" cy="9" r="2.5" fill="currentColor" />
	{:else if level === 'blocks'}
		<rect x="2" y="2" width="14" height="14" fill="currentColor" />
		<path d="M5 9h8" stroke="var(--white)" stroke-width="2.4" />
	{:else if level === 'open'}
		<circle
			cx="9"
			cy="9"
			r="6"
			fill="none"
			stroke="currentColor"
			stroke-width="1.8"
			stroke-dasharray="2.4 2.3"
		/>
	{:else if level === 'absent'}
		<path d="M4 3.5h10v11H4z" fill="none" stroke="currentColor" stroke-width="1.6" />
	{:else}
		<path d="M4 9h10" stroke="currentColor" stroke-width="2" />
	{/if}
</svg>

<style>
	svg {
		flex: none;
	}
	.clear {
		color: var(--lichen);
	}
	.look {
		color: var(--ochre);
	}
	.blocks {
		color: var(--brick);
	}
	.open,
	.absent,
	.skipped {
		color: var(--ink-soft);
	}
</style>
