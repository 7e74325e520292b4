<script lang="ts">
	import { usePacket } from '../packet/context';
	import AddedOn from './AddedOn.svelte';

	// A strip of a page, from `top` to `bottom` as fractions of its height.
	let { page, top, bottom, alt }: { page: string; top: number; bottom: number; alt: string } = $props();
	const store = usePacket();
	const src = $derived(store.image(page, 'view'));
	const facts = $derived(store.view.pages[page]?.prepared);
	const ratio = $derived(facts ? facts.height / facts.width : Math.SQRT2);
	const height = $derived(bottom - top);
</script>

{#if src}
	<span class="cut" style:aspect-ratio={1 / (ratio * height)}>
		<img {src} {alt} style:top="{(-top / height) * 100}%" />
		<AddedOn {page} style="top: {(-top / height) * 100}%; height: {100 / height}%" />
	</span>
{/if}

<style>
	.cut {
		position: relative;
		display: block;
		width: 100%;
		overflow: hidden;
		background: #fff;
		/* No border: it would take its width off the height that the picture is shifted by. */
		outline: 1px solid var(--rule);
		outline-offset: -1px;
	}
	img {
		position: absolute;
		left: 0;
		width: 100%;
	}
</style>
