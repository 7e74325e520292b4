<script lang="ts">
	import PageCanvas from './PageCanvas.svelte';
	import WipeEdge from './WipeEdge.svelte';

	interface Props {
		/** The page as photographed, flattened only; null until it is there. */
		before: ImageData | null;
		image: ImageData | null;
		label: string;
	}
	let { before, image, label }: Props = $props();
	let wipe = $state(50);
</script>

<!-- The page, and over it as it was photographed, up to an edge that is drawn across. -->
<div class="over">
	<div class="layer"><PageCanvas {image} {label} /></div>
	{#if image && before}
		<div class="layer" style:clip-path="inset(0 {100 - wipe}% 0 0)">
			<PageCanvas image={before} label="The page as photographed" />
		</div>
		<WipeEdge bind:at={wipe} />
	{/if}
</div>

<style>
	.over {
		position: relative;
		width: 100%;
		height: 100%;
		min-height: 0;
	}
	.layer {
		position: absolute;
		inset: 0;
		display: grid;
		place-items: center;
		grid-template: minmax(0, 1fr) / minmax(0, 1fr);
	}
</style>
