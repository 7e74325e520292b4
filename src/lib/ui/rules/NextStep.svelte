<script lang="ts">
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
	const next = $derived(nextStep(store.findings, store.packet.strip.length, handedIn));
</script>

{#if !store.unjudged}
	<div class="next" aria-live="polite">
		<p>{next.text}</p>
		{#if next.fix}<Button size="small" on:click={() => takeFix(store, next.fix)}>{next.fix.label}</Button
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
