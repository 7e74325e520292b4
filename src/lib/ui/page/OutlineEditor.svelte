<script lang="ts">
	import { bracket } from './bracket';
	import { isConvex, type Point, type Quadrilateral } from '$lib/core/sheet/geometry';

	interface Props {
		src: string;
		/** Size of the full picture; corners are in its pixels. */
		width: number;
		height: number;
		corners: Quadrilateral;
		/** While dragging. */
		onmove: (corners: Quadrilateral) => void;
		/** When let go, or after a key. `moved`: the sides that were moved by dragging them freely, to be snapped. */
		onset: (corners: Quadrilateral, moved?: readonly number[]) => void;
		/** The side that is the fold of a picture of two pages. */
		fold?: number | null;
		/** Another outline to take, drawn dashed. */
		perhaps?: Quadrilateral | null;
	}
	let { src, width, height, corners, onmove, onset, fold = null, perhaps = null }: Props = $props();

	const CORNERS = ['top left', 'top right', 'bottom right', 'bottom left'];
	const SIDES = ['top', 'right', 'bottom', 'left'];
	const ZOOM = 3;
	const LENS = 132;

	let boxWidth = $state(1);
	let boxHeight = $state(1);
	let dragged = $state<{ what: 'corner' | 'side' | 'whole'; index: number; from: Point } | null>(null);
	let start: Quadrilateral | null = null;

	// The picture is as large as the box allows, keeping its proportions.
	const fit = $derived(Math.min(boxWidth / width, boxHeight / height));
	const shownWidth = $derived(width * fit);
	const shownHeight = $derived(height * fit);
	const unit = $derived(1 / Math.max(fit, 1e-6));

	/** Corners a little outside the picture are allowed: the sheet may run out of it. */
	function held([x, y]: Point): Point {
		const over = 0.06 * Math.max(width, height);
		return [Math.min(Math.max(x, -over), width + over), Math.min(Math.max(y, -over), height + over)];
	}

	function moved(
		base: Quadrilateral,
		which: readonly number[],
		dx: number,
		dy: number
	): Quadrilateral | null {
		const next = base.map((c, i) => (which.includes(i) ? held([c[0] + dx, c[1] + dy]) : c));
		return isConvex(next) ? (next as unknown as Quadrilateral) : null;
	}

	const parts = {
		corner: (i: number) => [i],
		side: (i: number) => [i, (i + 1) % 4],
		whole: () => [0, 1, 2, 3]
	};

	function grab(event: PointerEvent, what: 'corner' | 'side' | 'whole', index: number): void {
		if (event.button !== 0) return;
		event.preventDefault();
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		(event.currentTarget as HTMLElement).focus();
		start = corners;
		dragged = { what, index, from: [event.clientX, event.clientY] };
	}

	function drag(event: PointerEvent): void {
		if (!dragged || !start) return;
		const dx = (event.clientX - dragged.from[0]) * unit;
		const dy = (event.clientY - dragged.from[1]) * unit;
		const next = moved(start, parts[dragged.what](dragged.index), dx, dy);
		if (next) onmove(next);
	}

	/** The sides that change with a part: a corner's two, or the side itself. */
	const sidesOf = {
		corner: (i: number) => [i, (i + 3) % 4],
		side: (i: number) => [i],
		whole: () => [0, 1, 2, 3]
	};

	function drop(event: PointerEvent): void {
		// With Alt it stays where it is let go.
		const snapping = event.altKey || !dragged ? undefined : sidesOf[dragged.what](dragged.index);
		if (dragged && start && start !== corners) onset(corners, snapping);
		dragged = null;
		start = null;
	}

	function key(event: KeyboardEvent, what: 'corner' | 'side', index: number): void {
		const steps: Record<string, Point> = {
			ArrowLeft: [-1, 0],
			ArrowRight: [1, 0],
			ArrowUp: [0, -1],
			ArrowDown: [0, 1]
		};
		const step = steps[event.key];
		if (!step || event.altKey) return;
		event.preventDefault();
		event.stopPropagation();
		const by = event.shiftKey ? 10 : 1;
		const next = moved(corners, parts[what](index), step[0] * by, step[1] * by);
		if (next) onset(next);
	}

	const lens = $derived(dragged?.what === 'corner' ? corners[dragged.index]! : null);
</script>

<div class="box" bind:clientWidth={boxWidth} bind:clientHeight={boxHeight}>
	<div class="picture" style:width="{shownWidth}px" style:height="{shownHeight}px">
		<img {src} alt="As photographed" draggable="false" />
		<svg viewBox="0 0 {width} {height}" role="group" aria-label="Outline of the sheet">
			<path
				class="outside"
				fill-rule="evenodd"
				d="M0 0H{width}V{height}H0Z M{corners.map((c) => c.join(' ')).join('L')}Z"
			/>
			<!-- svelte-ignore a11y_no_static_element_interactions -->
			<polygon
				class="inside"
				points={corners.map((c) => c.join(',')).join(' ')}
				onpointerdown={(e) => grab(e, 'whole', 0)}
				onpointermove={drag}
				onpointerup={drop}
				onpointercancel={drop}
			/>
			{#if perhaps}<polygon class="perhaps" points={perhaps.map((c) => c.join(',')).join(' ')} />{/if}
			<polygon class="casing" points={corners.map((c) => c.join(',')).join(' ')} />
			<polygon class="line" points={corners.map((c) => c.join(',')).join(' ')} />
			{#each corners as corner, i (i)}
				{@const next = corners[(i + 1) % 4]!}
				<line
					class="side"
					class:fold={i === fold}
					x1={corner[0]}
					y1={corner[1]}
					x2={next[0]}
					y2={next[1]}
					role="button"
					tabindex="0"
					aria-label={i === fold ? 'Fold' : `Side at the ${SIDES[i]}`}
					onpointerdown={(e) => grab(e, 'side', i)}
					onpointermove={drag}
					onpointerup={drop}
					onpointercancel={drop}
					onkeydown={(e) => key(e, 'side', i)}
				/>
			{/each}
			{#if fold !== null}
				{@const [from, to] = [corners[fold]!, corners[(fold + 1) % 4]!]}
				<line class="folded" x1={from[0]} y1={from[1]} x2={to[0]} y2={to[1]} />
			{/if}
			{#each corners as corner, i (i)}
				<g
					class="corner"
					role="button"
					tabindex="0"
					aria-label="Corner {CORNERS[i]}"
					onpointerdown={(e) => grab(e, 'corner', i)}
					onpointermove={drag}
					onpointerup={drop}
					onpointercancel={drop}
					onkeydown={(e) => key(e, 'corner', i)}
				>
					<circle cx={corner[0]} cy={corner[1]} r={18 * unit} fill="transparent" />
					<path class="casing" d={bracket(corners, i, 22 * unit)} />
					<path class="bracket" d={bracket(corners, i, 22 * unit)} />
				</g>
			{/each}
		</svg>
		{#if lens}
			<div
				class="lens"
				aria-hidden="true"
				style:left={lens[0] < width / 2 ? 'auto' : '8px'}
				style:right={lens[0] < width / 2 ? '8px' : 'auto'}
				style:background-image="url('{src}')"
				style:background-size="{shownWidth * ZOOM}px {shownHeight * ZOOM}px"
				style:background-position="{LENS / 2 - lens[0] * fit * ZOOM}px {LENS / 2 - lens[1] * fit * ZOOM}px"
			></div>
		{/if}
	</div>
</div>

<style>
	.box {
		display: grid;
		place-items: center;
		width: 100%;
		height: 100%;
		min-height: 0;
		overflow: hidden;
	}
	.picture {
		position: relative;
	}
	img,
	svg {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
	}
	svg {
		overflow: visible;
		touch-action: none;
	}
	.outside {
		fill: rgb(42 31 61 / 0.38);
		pointer-events: none;
	}
	.inside {
		fill: transparent;
		cursor: move;
	}
	.casing,
	.line,
	.perhaps,
	.bracket {
		fill: none;
		vector-effect: non-scaling-stroke;
		pointer-events: none;
	}
	.folded {
		stroke: #fff;
		stroke-width: 2.5px;
		stroke-dasharray: 9 7;
		vector-effect: non-scaling-stroke;
		pointer-events: none;
	}
	.casing {
		stroke: #fff;
		stroke-width: 4.5px;
	}
	.line {
		stroke: var(--violet);
		stroke-width: 2px;
	}
	.perhaps {
		stroke: var(--violet);
		stroke-width: 3px;
		stroke-dasharray: 9 6;
		filter: drop-shadow(0 0 1px #fff) drop-shadow(0 0 1px #fff);
	}
	.corner .casing {
		stroke-width: 9px;
	}
	.bracket {
		stroke: var(--violet);
		stroke-width: 5px;
	}
	.side {
		stroke: transparent;
		stroke-width: 18px;
		vector-effect: non-scaling-stroke;
		cursor: grab;
	}
	.corner {
		cursor: grab;
	}
	.side:focus,
	.corner:focus {
		outline: none;
	}
	.side:focus-visible {
		stroke: rgb(107 63 160 / 0.45);
	}
	.corner:focus-visible circle {
		fill: rgb(107 63 160 / 0.3);
	}
	.lens {
		position: absolute;
		top: 8px;
		width: 132px;
		height: 132px;
		border: 2px solid var(--violet);
		outline: 2px solid #fff;
		background-repeat: no-repeat;
		background-color: var(--bar);
	}
	.lens::before,
	.lens::after {
		content: '';
		position: absolute;
		background: var(--fill);
	}
	.lens::before {
		left: 50%;
		top: 30%;
		width: 1px;
		height: 40%;
	}
	.lens::after {
		top: 50%;
		left: 30%;
		height: 1px;
		width: 40%;
	}
</style>
