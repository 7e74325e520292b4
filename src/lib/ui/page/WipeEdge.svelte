<script lang="ts">
	/** Where the edge is, in percent from the left. */
	let { at = $bindable(50) }: { at: number } = $props();
	let edge: HTMLDivElement | undefined = $state();

	function drag(event: PointerEvent): void {
		if (!edge?.hasPointerCapture(event.pointerId)) return;
		const { left, width } = edge.parentElement!.getBoundingClientRect();
		at = Math.min(100, Math.max(0, ((event.clientX - left) / width) * 100));
	}
	function key(event: KeyboardEvent): void {
		const by = { ArrowLeft: -2, ArrowRight: 2, PageDown: -20, PageUp: 20, Home: -100, End: 100 }[event.key];
		if (by === undefined) return;
		event.preventDefault();
		event.stopPropagation();
		at = Math.min(100, Math.max(0, at + by));
	}
</script>

<div
	class="edge"
	bind:this={edge}
	style:left="{at}%"
	data-no-pan
	role="slider"
	tabindex="0"
	aria-label="Compare with the photograph"
	aria-valuemin="0"
	aria-valuemax="100"
	aria-valuenow={Math.round(at)}
	aria-valuetext="{Math.round(at)} % as photographed"
	onpointerdown={(e) => edge?.setPointerCapture(e.pointerId)}
	onpointermove={drag}
	onkeydown={key}
>
	<span class="before" aria-hidden="true">photographed</span>
	<span class="after" aria-hidden="true">handed in</span>
</div>

<style>
	.edge {
		position: absolute;
		top: 0;
		bottom: 0;
		width: 24px;
		margin-left: -12px;
		cursor: ew-resize;
		touch-action: none;
	}
	.edge::before {
		content: '';
		position: absolute;
		top: 0;
		bottom: 0;
		left: 11px;
		width: 2px;
		background: var(--fill);
		outline: 1px solid #fff;
	}
	.edge:focus-visible::before {
		width: 4px;
		left: 10px;
	}
	.edge:focus-visible {
		outline: none;
	}
	span {
		position: absolute;
		top: 0.5rem;
		padding: 0.125rem 0.375rem;
		background: var(--white);
		border: 1px solid var(--violet);
		color: var(--ink);
		font-size: 0.75rem;
		white-space: nowrap;
		user-select: none;
	}
	.before {
		right: 18px;
	}
	.after {
		left: 18px;
	}
</style>
