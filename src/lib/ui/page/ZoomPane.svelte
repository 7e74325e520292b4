<script lang="ts">
	import { untrack, type Snippet } from 'svelte';
	import { select } from 'd3-selection';
	import { zoom, zoomIdentity, type D3ZoomEvent, type ZoomTransform } from 'd3-zoom';

	/** What stands in the middle of the pane, as fractions of the page, and screen pixels for one of the page's. */
	interface Look {
		readonly x: number;
		readonly y: number;
		readonly scale: number;
	}

	interface Props {
		/** Size of what is shown, in its own pixels. */
		width: number;
		height: number;
		label: string;
		/** Where the person looks; null is the whole page. It outlasts a pane that is resized or made anew. */
		look?: Look | null;
		/** Drawn in the pane's pixels, to be placed with the transform given. */
		children: Snippet<[string]>;
	}
	let { width, height, label, look = $bindable(null), children }: Props = $props();

	/** Beyond three screen pixels for one of the page there is nothing more to see. */
	const CLOSEST = 3;
	const STEP = 1.4;
	const PAN = 60;

	let pane: HTMLDivElement | undefined = $state();
	let paneWidth = $state(0);
	let paneHeight = $state(0);
	let transform = $state.raw<ZoomTransform>(zoomIdentity);
	/** A little air around the page. */
	const AIR = 0.94;
	const fit = $derived(AIR * Math.min(paneWidth / width, paneHeight / height) || 0.1);

	const behaviour = zoom<HTMLDivElement, unknown>()
		.filter((event: Event) => {
			const target = event.target as Element;
			// What is drawn on is zoomed by the wheel like everything else, and not moved.
			return (
				!target.closest('[data-no-pan]') && (event.type === 'wheel' || !target.closest('[data-no-drag]'))
			);
		})
		.on('zoom', ({ transform: now }: D3ZoomEvent<HTMLDivElement, unknown>) => {
			transform = now;
			if (isPlacing) return;
			const [x, y] = now.invert([paneWidth / 2, paneHeight / 2]);
			look = { x: x / width, y: y / height, scale: now.k };
		});
	/** Whether the pane moves by itself, to keep what is looked at in its middle. */
	let isPlacing = false;

	$effect(() => {
		if (!pane) return;
		select(pane).call(behaviour).on('dblclick.zoom', null);
	});
	$effect(() => {
		if (!pane || paneWidth === 0) return;
		behaviour
			.scaleExtent([Math.min(fit, 1), CLOSEST])
			.extent([
				[0, 0],
				[paneWidth, paneHeight]
			])
			.translateExtent([
				[-40 / fit, -40 / fit],
				[width + 40 / fit, height + 40 / fit]
			]);
		untrack(place);
	});

	/** Moves the page to where it is looked at. */
	function place(): void {
		if (!pane) return;
		const { x, y, scale } = look ?? { x: 0.5, y: 0.5, scale: fit };
		const at = zoomIdentity
			.translate(paneWidth / 2 - x * width * scale, paneHeight / 2 - y * height * scale)
			.scale(scale);
		isPlacing = true;
		behaviour.transform(select(pane), at);
		isPlacing = false;
	}
	/** The whole page. */
	export function showAll(): void {
		look = null;
		place();
	}
	/** One pixel of the page on one of the screen, around a point of the page (fractions of it). */
	export function showAt(x = 0.5, y = 0.3, scale = 1): void {
		look = { x, y, scale };
		place();
	}
	function zoomBy(factor: number): void {
		if (pane) behaviour.scaleBy(select(pane), factor);
	}
	function pan(x: number, y: number): void {
		if (pane) behaviour.translateBy(select(pane), x / transform.k, y / transform.k);
	}

	function key(event: KeyboardEvent): void {
		if (event.ctrlKey || event.metaKey || event.altKey) return;
		if ((event.target as HTMLElement).closest('[data-no-pan]')) return;
		const actions: Record<string, () => void> = {
			'+': () => zoomBy(STEP),
			'=': () => zoomBy(STEP),
			'-': () => zoomBy(1 / STEP),
			'0': showAll,
			'1': () => showAt(),
			ArrowLeft: () => pan(PAN, 0),
			ArrowRight: () => pan(-PAN, 0),
			ArrowUp: () => pan(0, PAN),
			ArrowDown: () => pan(0, -PAN)
		};
		const action = actions[event.key];
		if (!action) return;
		event.preventDefault();
		action();
	}
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
<div
	class="pane"
	bind:this={pane}
	bind:clientWidth={paneWidth}
	bind:clientHeight={paneHeight}
	role="group"
	tabindex="0"
	aria-label={label}
	onkeydown={key}
>
	{@render children(`translate(${transform.x}px, ${transform.y}px) scale(${transform.k})`)}
	<div class="zoom" data-no-pan>
		<button class="quiet" onclick={() => zoomBy(1 / STEP)} aria-label="Smaller" title="Key: −">−</button>
		<span>{Math.round(transform.k * 100)} %</span>
		<button class="quiet" onclick={() => zoomBy(STEP)} aria-label="Larger" title="Key: +">+</button>
		<button class="quiet" onclick={showAll} title="Key: 0">Whole page</button>
		<button class="quiet" onclick={() => showAt()} title="Key: 1">Every pixel</button>
	</div>
</div>

<style>
	.pane {
		position: relative;
		width: 100%;
		height: 100%;
		min-height: 0;
		overflow: hidden;
		cursor: grab;
		touch-action: none;
	}
	.pane:focus-visible {
		outline: 2px solid var(--violet);
		outline-offset: -2px;
	}
	.zoom {
		position: absolute;
		right: 0.5rem;
		bottom: 0.5rem;
		display: flex;
		align-items: center;
		gap: 0.25rem;
		padding: 0.25rem;
		background: var(--white);
		border: 1px solid var(--rule);
		cursor: default;
	}
	.zoom span {
		min-width: 3.25rem;
		text-align: center;
		font-size: 0.8125rem;
	}
	.zoom .quiet {
		min-height: 1.75rem;
		padding: 0 0.5rem;
	}
</style>
