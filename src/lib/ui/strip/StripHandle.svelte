<script lang="ts">
	import type { Task } from '$lib/core/rules/finding';
	import { layout, STRIP } from '../frame/layout.svelte';

	// The upper edge of the strip: dragged, or moved with the arrow keys.
	let { task }: { task: Task } = $props();
	const height = $derived(layout.stripHeight(task));
	const STEP = 16;
	let from: { y: number; height: number } | null = null;

	function key(event: KeyboardEvent): void {
		const to = {
			ArrowUp: height + STEP,
			ArrowDown: height - STEP,
			Home: STRIP.least,
			End: STRIP.most
		}[event.key];
		if (to === undefined) return;
		event.preventDefault();
		layout.setStripHeight(task, to);
	}
</script>

<!-- A separator that can be moved takes the keyboard (WAI-ARIA, window splitter). -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
	class="handle"
	role="separator"
	aria-orientation="horizontal"
	aria-label="Height of the strip"
	aria-valuemin={STRIP.least}
	aria-valuemax={STRIP.most}
	aria-valuenow={height}
	tabindex="0"
	title="Drag to make the strip higher or lower; double-click for the usual height"
	onkeydown={key}
	ondblclick={() => layout.resetStripHeight(task)}
	onpointerdown={(e) => {
		from = { y: e.clientY, height };
		e.currentTarget.setPointerCapture(e.pointerId);
	}}
	onpointermove={(e) => from && layout.setStripHeight(task, from.height + from.y - e.clientY)}
	onpointerup={() => (from = null)}
	onpointercancel={() => (from = null)}
></div>

<style>
	.handle {
		position: absolute;
		z-index: 1;
		top: -5px;
		left: 0;
		right: 0;
		height: 10px;
		cursor: ns-resize;
		touch-action: none;
	}
	.handle::after {
		content: '';
		position: absolute;
		top: 3px;
		left: 50%;
		width: 3rem;
		height: 4px;
		margin-left: -1.5rem;
		border-radius: 2px;
		background: var(--soft-edge);
	}
	.handle:hover::after,
	.handle:focus-visible::after {
		background: var(--fill);
	}
</style>
