<script lang="ts">
	import { InlineLoading } from 'carbon-components-svelte';
	import { usePacket } from '../packet/context';

	interface Props {
		title?: string;
		text?: string;
		busy?: boolean;
	}
	let {
		title = 'No page yet',
		text = 'Bring in photographs or scans of the pages first.',
		busy = false
	}: Props = $props();
	const store = usePacket();
	const isEmpty = $derived(Object.keys(store.packet.pages).length === 0);
</script>

<div class="none">
	<h2>{title}</h2>
	<p>{text}</p>
	{#if busy}<InlineLoading />{/if}
	{#if isEmpty}
		<a class="quiet" href="/packets/{store.view.id}/gather">Bring in pages</a>
	{/if}
</div>

<style>
	.none {
		display: grid;
		place-content: center;
		justify-items: center;
		gap: 0.75rem;
		height: 100%;
		padding: 2rem;
		box-sizing: border-box;
		text-align: center;
	}
	h2 {
		font-size: 1.25rem;
	}
	p {
		max-width: 32rem;
		color: var(--ink-soft);
	}
	/* As wide as the turning ring, which then stands in the middle as well. */
	.none :global(.bx--inline-loading) {
		width: auto;
	}
</style>
