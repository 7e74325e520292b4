<script lang="ts">
	import { plural } from '$lib/core/rules/finding';
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import { usePacket } from '../packet/context';
	import { ask } from '../packet/ask';
	import { whereTo, moment, stateOf } from './state';

	const store = usePacket();
	const deliveries = $derived(store.view.deliveries);
	let changes = $state.raw<Record<string, string[]>>({});
	const seen = $derived(deliveries.map((d) => d.id).join());
	$effect(() => {
		void seen;
		ask<Record<string, string[]>>(store.view.id, 'versions').then(
			(got) => (changes = got),
			() => undefined
		);
	});
</script>

<section class="card" aria-labelledby="deliveries">
	<h2 id="deliveries">What was handed in</h2>
	<ol reversed start={deliveries.length}>
		{#each deliveries as delivery, i (delivery.id)}
			<li>
				<div class="head">
					<b>Version {deliveries.length - i}</b>
					<span class="state {delivery.state}">{stateOf(delivery)}</span>
					<time datetime={delivery.handedInAt}>{moment(delivery.handedInAt)}</time>
				</div>
				<p>
					<a href="/api/packets/{store.view.id}/files/{delivery.fileId}?open" target="_blank" rel="noopener"
						>{delivery.fileName}.{delivery.type}</a
					>, {plural(delivery.pages, 'page')}, {formatBytes(delivery.bytes)}, to {whereTo(delivery)}, by {delivery.by}
				</p>
				<p>
					{#if delivery.receipt}
						Receipt <a href="/packets/{store.view.id}/receipts/{delivery.id}">{delivery.receipt.number}</a>,
					{/if}
					<a download href="/api/packets/{store.view.id}/deliveries/{delivery.id}/proof"
						>proof of when it was handed in</a
					>
					(<a href="/proof">check a proof</a>)
				</p>
				{#if delivery.problem && delivery.state !== 'sending'}<p class="soft">{delivery.problem}</p>{/if}
				{#if delivery.comment}<p class="soft">“{delivery.comment}”</p>{/if}
				{#if changes[delivery.id]}
					<p class="changes">
						{changes[delivery.id]!.length > 0
							? `Since version ${deliveries.length - i - 1}: ${changes[delivery.id]!.join('; ')}`
							: `The same as version ${deliveries.length - i - 1}`}
					</p>
				{/if}
			</li>
		{/each}
	</ol>
</section>

<style>
	.card {
		padding: 1.25rem 1.5rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	h2 {
		font-size: 1.25rem;
		font-weight: 400;
	}
	ol {
		margin: 0.5rem 0 0;
		padding: 0;
		list-style: none;
	}
	li {
		display: grid;
		gap: 0.25rem;
		padding: 0.75rem 0;
		border-top: 1px solid var(--rule);
		font-size: 0.9375rem;
		overflow-wrap: anywhere;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		gap: 0.25rem 0.75rem;
		align-items: baseline;
	}
	.head b {
		font-weight: 600;
	}
	.state {
		padding: 0 0.5rem;
		border: 1px solid var(--ink-soft);
		font-size: 0.8125rem;
	}
	.state.received {
		border-color: var(--lichen-fill);
		color: var(--lichen);
		font-weight: 600;
	}
	.state.refused {
		border-color: var(--brick);
		color: var(--brick);
		font-weight: 600;
	}
	time,
	.soft {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.changes {
		padding-left: 0.75rem;
		border-left: 2px solid var(--violet);
	}
	a {
		color: var(--violet);
	}
</style>
