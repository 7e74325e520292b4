<script lang="ts">
	import { InlineLoading } from 'carbon-components-svelte';
	import { plural } from '$lib/core/rules/finding';
	import type { DeliveryRow } from '$lib/server/store/deliveries';
	import LevelMark from '../theme/LevelMark.svelte';
	import { whereTo } from './state';

	interface Props {
		delivery: DeliveryRow;
		busy: boolean;
		/** Tries again at once. */
		ontry: () => void;
		onstop: () => void;
	}
	let { delivery, busy, ontry, onstop }: Props = $props();
	const words = $derived(
		delivery.state === 'recalling'
			? 'Taking it back'
			: delivery.sentAt
				? 'Sent; waiting for it to be confirmed'
				: 'Still on its way'
	);
</script>

<section class="card" aria-live="polite" data-delivery={delivery.state}>
	<h2><InlineLoading /> {words}</h2>
	<p>{delivery.fileName}.{delivery.type} to {whereTo(delivery)}</p>
	{#if delivery.problem && delivery.tries > 0}
		<p class="trouble">
			<LevelMark level="look" />
			<span>
				{delivery.problem} It is tried again by itself ({plural(delivery.tries, 'try', 'tries')} so far).
			</span>
			<button class="quiet" disabled={busy} onclick={ontry}>Try now</button>
		</p>
	{/if}
	<p class="soft">
		You may close this page: it goes on by itself. It is not handed in until a receipt stands here.
	</p>
	{#if delivery.state === 'sending'}
		<div><button class="quiet" disabled={busy} onclick={onstop}>Call it off</button></div>
	{/if}
</section>

<style>
	.card {
		display: grid;
		gap: 0.75rem;
		padding: 1.5rem;
		background: var(--white);
		border: 2px solid var(--violet);
	}
	h2 {
		display: flex;
		align-items: center;
		gap: 0.75rem;
		font-size: 1.5rem;
		font-weight: 400;
	}
	h2 :global(.bx--inline-loading) {
		width: auto;
		min-height: 0;
		margin: 0;
	}
	.trouble {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.5rem;
	}
	.soft {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
</style>
