<script lang="ts">
	import { scaleLinear } from 'd3-scale';
	import { area, curveMonotoneY } from 'd3-shape';
	import { CLEAR, UNREADABLE, type Legibility } from '$lib/core/legibility/legibility';

	interface Props {
		legibility: Legibility;
		/** Of the page, in pixels. */
		width: number;
		height: number;
		chosen: number | null;
	}
	let { legibility, width, height, chosen }: Props = $props();

	/** The profile down the page stands in a band along its right side, this wide. */
	const BAND = 0.055;
	const bands = $derived(legibility.profile.map((score, i) => ({ score: Math.max(0, score), y: i + 0.5 })));
	const y = $derived(scaleLinear([0, legibility.profile.length], [0, height]));
	const x = $derived(scaleLinear([0, 1], [width, width * (1 - BAND)]));
	const profile = $derived(
		area<{ score: number; y: number }>()
			.y((d) => y(d.y))
			.x0(width)
			.x1((d) => x(d.score))
			.curve(curveMonotoneY)(bands) ?? ''
	);
	const stroke = $derived(width / 500);
</script>

<svg viewBox="0 0 {width} {height}" style:width="{width}px" style:height="{height}px" aria-hidden="true">
	<path class="profile" d={profile} />
	<line
		class="bar"
		x1={x(CLEAR)}
		x2={x(CLEAR)}
		y1="0"
		y2={height}
		stroke-width={stroke / 2}
		stroke-dasharray="{stroke * 4} {stroke * 4}"
	/>
	<!-- What the shape at the side means. -->
	<text
		class="legend"
		font-size={stroke * 10}
		text-anchor="middle"
		transform="translate({width * (1 - BAND) - stroke * 6} {height / 2}) rotate(90)">how well it reads</text
	>
	{#each legibility.places as place, i (i)}
		<g class:hopeless={place.score < UNREADABLE} class:chosen={chosen === i}>
			<rect
				x={place.left * width}
				y={place.top * height}
				width={(place.right - place.left) * width}
				height={(place.bottom - place.top) * height}
				stroke-width={stroke * (chosen === i ? 3 : 1.5)}
			/>
			<text x={place.left * width + stroke * 5} y={place.top * height + stroke * 17} font-size={stroke * 15}
				>{i + 1}</text
			>
		</g>
	{/each}
</svg>

<style>
	.legend {
		fill: var(--ink-soft);
	}
	svg {
		position: absolute;
		inset: 0;
		pointer-events: none;
	}
	.profile {
		fill: var(--lichen-fill);
		opacity: 0.35;
	}
	.bar {
		stroke: var(--ink-soft);
	}
	rect {
		fill: var(--ochre-fill);
		fill-opacity: 0.1;
		stroke: var(--ochre-fill);
	}
	.hopeless rect {
		stroke: var(--brick);
	}
	text {
		fill: var(--ink);
		font-weight: 600;
		paint-order: stroke;
		stroke: #fff;
		stroke-width: 0.25em;
	}
</style>
