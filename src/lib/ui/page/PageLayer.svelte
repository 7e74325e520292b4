<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		/** As a pane gives it. */
		transform: string;
		src: string | null | undefined;
		alt: string;
		/** Of the page in its own pixels. */
		width: number;
		height: number;
		/** What lies over it, in the page's pixels. */
		children?: Snippet;
	}
	let { transform, src, alt, width, height, children }: Props = $props();
</script>

<!-- A page in a pane, with what lies over it. -->
<div class="layer" style:transform>
	<img {src} {alt} {width} {height} draggable="false" />
	{@render children?.()}
</div>

<style>
	.layer {
		position: absolute;
		left: 0;
		top: 0;
		transform-origin: 0 0;
	}
	img {
		display: block;
		background: #fff;
		user-select: none;
		-webkit-user-drag: none;
	}
</style>
