<script lang="ts">
	let { image, label }: { image: ImageData | null; label: string } = $props();
	let canvas: HTMLCanvasElement | undefined = $state();

	$effect(() => {
		if (!canvas || !image) return;
		canvas.width = image.width;
		canvas.height = image.height;
		canvas.getContext('2d')!.putImageData(image, 0, 0);
	});
</script>

<canvas bind:this={canvas} class:empty={!image}>{label}</canvas>

<style>
	canvas {
		display: block;
		max-width: 100%;
		max-height: 100%;
		background: #fff;
		box-shadow: 0 1px 4px rgb(42 31 61 / 0.25);
	}
	.empty {
		visibility: hidden;
	}
</style>
