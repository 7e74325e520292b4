<script lang="ts">
	import { addedTo } from '$lib/core/page/effective';
	import { usePacket } from '../packet/context';
	import Ink from './Ink.svelte';

	/** What a person added to a page, over its picture: both fill the same box, in the page's proportions. */
	let { page, style = '' }: { page: string; style?: string } = $props();
	const store = usePacket();
	const prepared = $derived(store.view.pages[page]?.prepared);
	const drawn = $derived.by(() => {
		const [state, record] = [store.packet.pages[page], store.view.pages[page]];
		return state && record ? addedTo(state, record) : [];
	});
</script>

{#if prepared && drawn.length > 0}
	<svg viewBox="0 0 {prepared.width} {prepared.height}" aria-hidden="true" {style}>
		{#each drawn as one (one.id)}<Ink {one} />{/each}
	</svg>
{/if}

<style>
	svg {
		position: absolute;
		left: 0;
		top: 0;
		width: 100%;
		height: 100%;
		pointer-events: none;
	}
</style>
