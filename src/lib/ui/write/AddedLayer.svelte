<script lang="ts">
	import { inkOf, MARK_LIMITS, type Mark, type MarkColour, type StrokePoint } from '$lib/core/marks/mark';
	import {
		boundsOf,
		drawnOn,
		movedBy,
		pathOf,
		rounded,
		simplified,
		stripOver,
		toPage,
		toPicture,
		type PageShape
	} from '$lib/core/marks/onPage';
	import type { Point } from '$lib/core/sheet/geometry';
	import Ink from '../page/Ink.svelte';
	import type { Tool } from './tools';

	interface Props {
		marks: readonly Mark[];
		shape: PageShape;
		tool: Tool;
		colour: MarkColour;
		/** Of strokes, in millimetres. */
		width: number;
		chosen: string | null;
		/** Fields of a form, in pixels of the page, and the one that is being filled in. */
		boxes: readonly { readonly id: string; readonly outline: readonly Point[] }[];
		current: string | null;
		/** Being typed and not added yet. */
		typed: Extract<Mark, { kind: 'words' }> | null;
		onadd: (marks: Mark[]) => void;
		onchoose: (id: string | null) => void;
		onmoved: (mark: Mark) => void;
		/** Where words are to begin, in pixels of the picture. */
		onwords: (at: Point) => void;
	}
	let {
		marks,
		shape,
		tool,
		colour,
		width,
		chosen,
		typed,
		boxes,
		current,
		onadd,
		onchoose,
		onmoved,
		onwords
	}: Props = $props();

	let svg: SVGSVGElement | undefined = $state();
	/** The stroke or the box that is being drawn, in pixels of the page. */
	let drawing = $state.raw<StrokePoint[]>([]);
	/** What is being moved, and how far. */
	let moving = $state.raw<{ mark: Mark; from: Point; by: Point } | null>(null);
	/** Once a pen was seen, a hand that rests on the screen draws nothing. */
	let hasPen = false;

	/** Points nearer to the line than this, in pixels of the page, tell nothing. */
	const TOLERANCE = 0.3;
	/** A box smaller than this, in pixels of the page, was a slip of the hand. */
	const LEAST_BOX = 6;
	const HANDLE = $derived(shape.dotsPerInch / 30);
	const EDGE = $derived(shape.width / 500);

	const back = $derived(toPicture(shape));
	const shown = $derived.by((): Mark[] => {
		const all = typed ? [...marks.filter((m) => m.id !== typed.id), typed] : [...marks];
		if (!moving) return all;
		const { mark, by } = moving;
		return all.map((m) => (m.id === mark.id ? movedBy(mark, shape, by[0], by[1]) : m));
	});
	const ink = $derived(drawnOn(shape, inkOf(shown)));
	const strips = $derived.by(() => {
		const map = toPage(shape);
		return shown.flatMap((m) =>
			m.kind === 'strip' ? [{ id: m.id, outline: m.corners.map((c) => map(c)) }] : []
		);
	});
	const stroke = $derived(
		(tool === 'pen' || tool === 'marker') && drawing.length > 0
			? drawnOn(shape, [strokeOf(drawing)])[0]
			: null
	);
	const box = $derived(tool === 'strip' && drawing.length > 1 ? boxOf(drawing) : null);
	const around = $derived.by(() => {
		const one = ink.find((d) => d.id === chosen);
		if (one) return boundsOf(one);
		const strip = strips.find((s) => s.id === chosen);
		if (!strip) return null;
		const [xs, ys] = [strip.outline.map(([x]) => x), strip.outline.map(([, y]) => y)];
		return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)] as const;
	});

	function strokeOf(points: readonly StrokePoint[]): Extract<Mark, { kind: 'pen' | 'marker' }> {
		return {
			id: crypto.randomUUID(),
			kind: tool === 'marker' ? 'marker' : 'pen',
			colour,
			width,
			points: points.map(([x, y, pressure]) => [...rounded(back([x, y])), pressure] as const)
		};
	}
	function boxOf(points: readonly StrokePoint[]) {
		const [[x0, y0], [x1, y1]] = [points[0]!, points.at(-1)!];
		return { x: Math.min(x0, x1), y: Math.min(y0, y1), width: Math.abs(x1 - x0), height: Math.abs(y1 - y0) };
	}

	function at(event: { clientX: number; clientY: number }): Point {
		const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(
			svg!.getScreenCTM()!.inverse()
		);
		return [x, y];
	}
	/** A mouse presses half as hard as a pen can. */
	const pointOf = (event: PointerEvent): StrokePoint => [
		...at(event),
		event.pointerType === 'pen' ? Math.round(100 * event.pressure) / 100 : 0.5
	];

	function down(event: PointerEvent): void {
		if (event.button !== 0 || (event.pointerType === 'touch' && hasPen)) return;
		hasPen ||= event.pointerType === 'pen';
		const hit = (event.target as Element).closest('[data-mark]')?.getAttribute('data-mark') ?? null;
		if (tool === 'look') {
			onchoose(hit);
			const mark = marks.find((m) => m.id === hit);
			if (!mark) return;
			moving = { mark, from: at(event), by: [0, 0] };
		} else if (tool === 'words') {
			event.preventDefault();
			onwords(rounded(back(at(event))));
			return;
		} else drawing = [pointOf(event)];
		svg!.setPointerCapture(event.pointerId);
	}
	function move(event: PointerEvent): void {
		if (moving) {
			const [x, y] = at(event);
			moving = { ...moving, by: [x - moving.from[0], y - moving.from[1]] };
		} else if (drawing.length > 0) {
			const all = event.getCoalescedEvents?.() ?? [];
			drawing = [...drawing, ...(all.length > 0 ? all : [event]).map(pointOf)];
		}
	}
	function up(): void {
		if (moving) {
			const { mark, by } = moving;
			moving = null;
			if (Math.hypot(...by) > 1) onmoved(movedBy(mark, shape, by[0], by[1]));
		} else if (drawing.length > 0) {
			const points = drawing;
			drawing = [];
			if (tool === 'strip') {
				const drawn = boxOf(points);
				if (Math.min(drawn.width, drawn.height) >= LEAST_BOX) {
					onadd([stripOver(shape, crypto.randomUUID(), drawn)]);
				}
			} else onadd(strokesOf(simplified(points, TOLERANCE)));
		}
	}
	/** A long stroke as several, each going on where the one before ends. */
	function strokesOf(points: readonly StrokePoint[]): Mark[] {
		const most = MARK_LIMITS.points - 1;
		const count = Math.max(1, Math.ceil((points.length - 1) / most));
		return Array.from({ length: count }, (_, i) => strokeOf(points.slice(i * most, (i + 1) * most + 1)));
	}
</script>

<!-- Everything here can be done in the list beside the page with the keyboard. -->
<svg
	bind:this={svg}
	class={tool}
	viewBox="0 0 {shape.width} {shape.height}"
	style:width="{shape.width}px"
	style:height="{shape.height}px"
	data-no-drag={tool === 'look' ? undefined : ''}
	aria-hidden="true"
	onpointerdown={down}
	onpointermove={move}
	onpointerup={up}
	onpointercancel={() => {
		drawing = [];
		moving = null;
	}}
>
	{#each boxes as { id, outline } (id)}
		<path class="box" class:current={id === current} d={pathOf(outline)} stroke-width={EDGE} />
	{/each}
	{#each strips as { id, outline } (id)}
		<path
			class="strip"
			data-mark={id}
			data-no-drag={tool === 'look' ? '' : undefined}
			d={pathOf(outline)}
			stroke-width={EDGE}
			stroke-dasharray="{4 * EDGE} {3 * EDGE}"
		/>
	{/each}
	{#each ink as one (one.id)}
		<g data-mark={one.id} data-no-drag={tool === 'look' ? '' : undefined}>
			<Ink {one} />
		</g>
	{/each}
	{#if stroke}<Ink one={stroke} />{/if}
	{#if box}<rect class="strip" {...box} stroke-width={EDGE} stroke-dasharray="{4 * EDGE} {3 * EDGE}" />{/if}
	{#if around}
		{@const [x0, y0, x1, y1] = around}
		<rect
			class="chosen"
			x={x0 - HANDLE}
			y={y0 - HANDLE}
			width={x1 - x0 + 2 * HANDLE}
			height={y1 - y0 + 2 * HANDLE}
			stroke-width={shape.width / 350}
		/>
	{/if}
</svg>

<style>
	svg {
		position: absolute;
		left: 0;
		top: 0;
		overflow: visible;
		touch-action: none;
	}
	.pen,
	.marker,
	.strip {
		cursor: crosshair;
	}
	.words {
		cursor: text;
	}
	.look g,
	.look path.strip {
		cursor: move;
	}
	/* On the screen one sees where a strip lies; in the file it is bare paper. */
	path.strip,
	rect.strip {
		fill: #fff;
		stroke: #6b3fa0;
	}
	.box {
		fill: none;
		stroke: #8a7bb0;
		stroke-dasharray: 6 6;
		pointer-events: none;
	}
	.box.current {
		fill: #6b3fa0;
		fill-opacity: 0.1;
		stroke: #6b3fa0;
		stroke-dasharray: none;
	}
	.chosen {
		fill: none;
		stroke: #6b3fa0;
		pointer-events: none;
	}
</style>
