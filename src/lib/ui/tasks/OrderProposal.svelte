<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { UNSURE } from '$lib/core/mapping/proposeSeams';
	import { acceptMove, acceptOrder, orderKey, type ProposedMove } from '$lib/core/order/acceptOrder';
	import { list, plural } from '$lib/core/rules/finding';
	import { usePacket } from '../packet/context';

	// What was read off the pages, as a proposal: nothing moves until a person says so.
	const store = usePacket();
	const moved = $derived(store.moves.filter((m) => m.to !== 'tray').length);
	const aside = $derived(store.moves.length - moved);
	const missing = $derived(store.order?.missing ?? []);
	const position = (page: string) => store.packet.strip.indexOf(page) + 1;

	function takeAll(): void {
		const change = store.order && acceptOrder(store.packet, store.order);
		if (change) store.edit(change);
	}
	function putAway(): void {
		if (store.order) store.edit({ kind: 'setDeclined', key: orderKey(store.order), declined: true });
	}
	function take(move: ProposedMove): void {
		if (store.order) store.edit(acceptMove(store.packet, store.order, move));
	}
	const declined = $derived(store.order && store.packet.declined?.includes(orderKey(store.order)));
</script>

<section aria-labelledby="order-proposal-title" aria-live="polite">
	{#if store.unread > 0}
		<h2 id="order-proposal-title">
			Reading page {store.readingAt}
		</h2>
		<p class="quiet-line">An order is proposed once every page has been read. You need not wait for it.</p>
	{:else if store.moves.length > 0}
		<h2 id="order-proposal-title">
			Going by what is written: {[moved && `move ${plural(moved, 'page')}`, aside && `set ${aside} aside`]
				.filter(Boolean)
				.join(', ')}
		</h2>
		<div class="both">
			<Button size="small" on:click={takeAll}>Put in this order</Button>
			<button class="quiet" onclick={putAway}>Keep mine</button>
		</div>
		<ul>
			{#each store.moves as move (move.page)}
				<li>
					<button class="go" onclick={() => (store.current = move.page)} title="Look at this page">
						Page {position(move.page)}
						<span aria-hidden="true">→</span>
						<span class="out-of-sight">goes to</span>
						{move.to === 'tray' ? 'side tray' : `place ${move.to}`}
					</button>
					<span class="why">
						{move.reason}
						{#if move.to !== 'tray' && move.confidence < UNSURE}<b>Unsure.</b>{/if}
					</span>
					<button class="textual" onclick={() => take(move)}>
						{move.to === 'tray' ? 'Set this one aside' : 'Move this one'}
					</button>
				</li>
			{/each}
		</ul>
	{:else if store.order}
		<h2 id="order-proposal-title">
			{declined ? 'You keep your own order' : 'In order, as far as can be read'}
		</h2>
	{/if}
	{#if missing.length > 0}
		<p class="missing">
			No page reads {list(missing.map(String))}.
			<a href="/packets/{store.view.id}/gather">Bring in what is missing</a>
		</p>
	{/if}
</section>

<style>
	section {
		display: flex;
		flex-direction: column;
		gap: 0.5rem;
		padding: 0.75rem;
		background: var(--white);
		border: 1px dashed var(--violet);
	}
	h2 {
		font-size: 0.9375rem;
	}
	.both {
		display: flex;
		flex-wrap: wrap;
		gap: 0.375rem;
	}
	ul {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		padding: 0.5rem 0;
		border-top: 1px solid var(--rule);
		font-size: 0.875rem;
		line-height: 1.35;
	}
	.go {
		display: block;
		padding: 0;
		border: 0;
		background: none;
		font: inherit;
		font-weight: 600;
		color: var(--ink);
		cursor: pointer;
	}
	.why {
		display: block;
		color: var(--ink-soft);
	}
	.why b {
		color: var(--ochre);
	}
	.quiet-line,
	.missing {
		font-size: 0.875rem;
	}
	.quiet-line {
		color: var(--ink-soft);
	}
</style>
