<script lang="ts">
	import { page as route } from '$app/state';
	import { Button } from 'carbon-components-svelte';
	import { nextStep } from '$lib/core/check/nextStep';
	import { usePacket } from '../packet/context';
	import { takeFix } from './takeFix';

	// What to do next, in one sentence, with its button.
	const store = usePacket();
	const handedIn = $derived(
		store.waiting === 0 &&
			store.view.deliveries.some((d) => d.state === 'received' && d.packetVersion === store.view.version)
	);
	const stands = $derived(!handedIn ? null : store.returned ? 'given-back' : 'handed-in');
	const next = $derived(
		nextStep(store.findings, { pages: store.packet.strip.length, unread: store.unread, stands })
	);
	/** A button that only leads to where one is does nothing. */
	const leads = $derived(
		next.fix !== null &&
			(next.fix.change ||
				route.params.task !== next.fix.task ||
				(next.fix.page !== undefined && next.fix.page !== store.current))
	);
</script>

{#if !store.unjudged}
	<div class="next" aria-live="polite">
		<p>{next.text}</p>
		{#if next.fix && leads}<Button size="small" on:click={() => takeFix(store, next.fix)}
				>{next.fix.label}</Button
			>{/if}
	</div>
{/if}

<style>
	.next {
		display: grid;
		gap: 0.5rem;
		justify-items: start;
	}
	.next :global(.bx--btn) {
		max-width: 100%;
		padding-right: 1rem;
	}
	@media (max-width: 700px) {
		.next {
			gap: 0.25rem;
		}
		.next p {
			font-size: 0.875rem;
		}
		.next :global(.bx--btn) {
			width: 100%;
			min-height: 2.75rem;
			align-items: center;
		}
	}
</style>
