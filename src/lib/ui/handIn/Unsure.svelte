<script lang="ts">
	import type { DeliveryRow } from '$lib/server/store/deliveries';
	import LevelMark from '../theme/LevelMark.svelte';
	import { whereTo, moment } from './state';

	interface Props {
		delivery: DeliveryRow;
		busy: boolean;
		/** The person knows that it arrived. */
		onarrived: () => void;
		/** The person wants it sent once more. */
		onagain: () => void;
	}
	let { delivery, busy, onarrived, onagain }: Props = $props();
</script>

<section class="unsure" aria-labelledby="unsure-{delivery.id}">
	<h2 id="unsure-{delivery.id}"><LevelMark level="look" size={28} /> Probably sent</h2>
	<p>{delivery.problem}</p>
	<p>
		{delivery.fileName}.{delivery.type} to {whereTo(delivery)}{delivery.sentAt
			? `, ${moment(delivery.sentAt)}`
			: ''}
	</p>
	<p class="soft">
		Sending it again may bring it there twice, so that is yours to decide. Ask whether it arrived.
	</p>
	<div class="buttons">
		<button class="quiet" disabled={busy} onclick={onarrived}>It arrived</button>
		<button class="quiet" disabled={busy} onclick={onagain}>Send it once more</button>
	</div>
</section>

<style>
	.unsure {
		display: grid;
		gap: 0.75rem;
		padding: 1.5rem;
		background: var(--white);
		border: 2px solid var(--ochre-fill);
	}
	h2 {
		display: flex;
		align-items: center;
		gap: 0.75rem;
		font-size: 1.5rem;
		font-weight: 400;
	}
	.soft {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.buttons {
		display: flex;
		flex-wrap: wrap;
		gap: 0.625rem;
	}
</style>
