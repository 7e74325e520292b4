<script lang="ts">
	import type { Seen } from '$lib/workers/liveOutline';
	import { bracket } from '../page/bracket';

	/** The outline over the live picture, where `object-fit: contain` puts it. */
	let { video, seen }: { video: HTMLVideoElement; seen: Seen | null } = $props();
	const corners = $derived(seen?.corners ?? null);
	const unit = $derived.by(() => {
		if (!seen) return 1;
		return Math.max(seen.width / (video.clientWidth || 1), seen.height / (video.clientHeight || 1));
	});
</script>

{#if seen}
	<svg viewBox="0 0 {seen.width} {seen.height}" preserveAspectRatio="xMidYMid meet" aria-hidden="true">
		{#if corners}
			{@const points = corners.map((c) => c.join(',')).join(' ')}
			<polygon class="casing" {points} />
			<polygon class="line" {points} />
			{#each corners as _, i (i)}
				<path class="casing wide" d={bracket(corners, i, 26 * unit)} />
				<path class="line wide" d={bracket(corners, i, 26 * unit)} />
			{/each}
		{/if}
	</svg>
{/if}

<style>
	svg {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
		pointer-events: none;
	}
	polygon,
	path {
		fill: none;
		vector-effect: non-scaling-stroke;
		stroke-linejoin: round;
	}
	.casing {
		stroke: #fff;
		stroke-width: 4.5px;
	}
	.line {
		stroke: #8a57cc;
		stroke-width: 2px;
	}
	.casing.wide {
		stroke-width: 9px;
	}
	.line.wide {
		stroke-width: 5px;
	}
</style>
