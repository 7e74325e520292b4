<script lang="ts">
	import { pathOf, type Drawn } from '$lib/core/marks/onPage';

	/** What is drawn, inside an svg whose units are the page's pixels. */
	let { one }: { one: Drawn } = $props();
	const fill = $derived(`rgb(${one.rgb.join(' ')})`);
</script>

{#if one.kind === 'area'}
	<path class:through={one.seeThrough} {fill} d={pathOf(one.outline)} />
{:else}
	<text {fill} font-size={one.size}>
		{#each one.lines as line, i (i)}<tspan x={one.x} y={one.y + i * one.pitch}>{line}</tspan>{/each}
	</text>
{/if}

<style>
	.through {
		mix-blend-mode: multiply;
	}
	text {
		font-family: 'IBM Plex Sans', sans-serif;
		user-select: none;
	}
</style>
