<script lang="ts">
	import type { Change } from '$lib/core/packet/change';
	import { byName } from '$lib/core/order/byName';
	import { likeness, SAME_PAGE } from '$lib/core/page/fingerprint';
	import { interleave } from '$lib/core/order/interleave';
	import { positionOf, type TrayReason } from '$lib/core/packet/packet';
	import { usePacket } from '../packet/context';
	import NoPage from './NoPage.svelte';
	import NumberOnPage from './NumberOnPage.svelte';
	import AddedOn from '../page/AddedOn.svelte';
	import OrderProposal from './OrderProposal.svelte';
	import TwoAlike from './TwoAlike.svelte';

	const store = usePacket();
	const id = $derived(store.current);
	const position = $derived(id ? positionOf(store.packet, id) : null);
	const last = $derived(store.packet.strip.length);
	const src = $derived(id ? store.image(id, 'view') : null);
	const known = $derived(id ? store.view.pages[id] : undefined);

	const placed = $derived(id ? store.order?.strip.find((s) => s.page === id) : undefined);
	const moves = $derived(store.moves.find((m) => m.page === id));

	/** The other picture of the same writing, when there is one. */
	const twin = $derived.by(() => {
		const mine = known?.prepared?.fingerprint;
		if (!id || !mine) return null;
		const others = Object.keys(store.packet.pages).filter((page) => page !== id);
		const like = (page: string) => likeness(mine, store.view.pages[page]?.prepared?.fingerprint ?? '');
		return others.find((page) => like(page) >= SAME_PAGE) ?? null;
	});
	let alike = $state<TwoAlike | null>(null);

	function key(event: KeyboardEvent): void {
		const target = event.target as HTMLElement;
		if (target.matches('input, select, textarea') || event.ctrlKey || event.metaKey || event.altKey) return;
		if (event.key === 's' && alike) alike.swap();
	}

	function move(to: number): void {
		if (!id || to < 1 || to > last) return;
		store.edit({ kind: 'place', page: id, to: { on: 'strip', index: to - 1 } });
	}
	function setAside(reason: TrayReason): void {
		if (!id) return;
		const next = store.packet.strip[position ?? 0] ?? store.packet.strip[(position ?? 2) - 2] ?? null;
		store.edit({ kind: 'place', page: id, to: { on: 'tray', index: store.packet.tray.length, reason } });
		store.current = next;
	}
	/** Puts the whole strip into a new sequence, as one edit. */
	function arrange(sequence: readonly string[]): void {
		const changes: Change[] = sequence.map((page, index) => ({
			kind: 'place',
			page,
			to: { on: 'strip', index }
		}));
		if (changes.length > 0) store.edit({ kind: 'together', changes });
	}
	const nameOf = (page: string) => store.view.pages[page]?.sourceName ?? '';
</script>

<svelte:window onkeydown={key} />

{#if id && known}
	<div class="order">
		<div class="view">
			{#if twin}<TwoAlike bind:this={alike} pages={[id, twin]} />{:else if src}<img
					{src}
					alt="Page {position ?? 'set aside'}"
				/><AddedOn page={id} />{:else}<p>
					{known.problem ?? 'Being prepared …'}
				</p>{/if}
		</div>
		<div class="tools">
			<OrderProposal />
			<h2>{position ? `Page ${position} of ${last}` : 'In the side tray'}</h2>
			<p class="from">from {known.sourceName}</p>
			{#if placed && !moves}<p class="reason">{placed.reason}</p>{/if}
			<NumberOnPage page={id} />
			{#if twin}<p class="hint">The same page is there twice. s swaps the two.</p>{/if}
			{#if position}
				<div class="group" role="group" aria-label="Move this page">
					<button class="quiet" disabled={position === 1} onclick={() => move(1)}>To the front</button>
					<button class="quiet" disabled={position === 1} onclick={() => move(position - 1)}>Earlier</button>
					<button class="quiet" disabled={position === last} onclick={() => move(position + 1)}>Later</button>
					<button class="quiet" disabled={position === last} onclick={() => move(last)}>To the end</button>
					<label class="to">
						To place
						<input
							class="small-field"
							type="number"
							min="1"
							max={last}
							value={position}
							onchange={(e) =>
								move(Math.min(last, Math.max(1, Math.round(e.currentTarget.valueAsNumber || position))))}
						/>
					</label>
				</div>
				<h3>Not part of the answer?</h3>
				<div class="group" role="group" aria-label="Set this page aside">
					<button class="quiet" onclick={() => setAside('duplicate')}>Same page twice</button>
					<button class="quiet" onclick={() => setAside('blank')}>Blank</button>
					<button class="quiet" onclick={() => setAside('extra')}>Set aside</button>
				</div>
			{:else}
				<div class="group">
					<button
						class="quiet"
						onclick={() => store.edit({ kind: 'place', page: id, to: { on: 'strip', index: last } })}
					>
						Bring back to the strip
					</button>
				</div>
			{/if}
			<h3>All pages</h3>
			<div class="group" role="group" aria-label="All pages">
				<button class="quiet" disabled={last < 2} onclick={() => arrange([...store.packet.strip].reverse())}>
					Turn the order round
				</button>
				<button
					class="quiet"
					disabled={last < 2}
					onclick={() => arrange([...store.packet.strip].sort((a, b) => byName(nameOf(a), nameOf(b))))}
				>
					By file name
				</button>
				<button
					class="quiet"
					disabled={last < 3}
					title="Pages 1, 2, 3 … hold all fronts and then all backs: put each back behind its front"
					onclick={() => arrange(interleave(store.packet.strip, 'same'))}
				>
					Fronts, then backs
				</button>
				<button
					class="quiet"
					disabled={last < 3}
					title="All fronts and then all backs, the last back first, as when the pile was turned over"
					onclick={() => arrange(interleave(store.packet.strip, 'reversed'))}
				>
					Fronts, then backs from the last
				</button>
			</div>
			<p class="hint">
				Drag pages on the strip below. With the keyboard: arrow keys choose a page, Alt with an arrow key
				moves it, Delete sets it aside.
			</p>
		</div>
	</div>
{:else}
	<NoPage />
{/if}

<style>
	.order {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 17rem;
		gap: 1.25rem;
		height: 100%;
		padding: 1rem;
		box-sizing: border-box;
	}
	.view {
		position: relative;
		display: grid;
		place-items: center;
		grid-template: minmax(0, 1fr) / minmax(0, 1fr);
		min-height: 0;
	}
	.view img {
		max-width: 100%;
		max-height: 100%;
		background: #fff;
		box-shadow: 0 1px 4px rgb(42 31 61 / 0.25);
	}
	.tools {
		display: flex;
		flex-direction: column;
		gap: 0.625rem;
		overflow: auto;
	}
	h2 {
		font-size: 1.25rem;
	}
	h3 {
		margin-top: 0.5rem;
		font-size: 0.9375rem;
	}
	.reason {
		font-size: 0.875rem;
	}
	.to {
		display: inline-flex;
		align-items: center;
		gap: 0.375rem;
		font-size: 0.875rem;
	}
	.from,
	.hint {
		color: var(--ink-soft);
		font-size: 0.875rem;
		overflow-wrap: anywhere;
	}
	.group {
		display: flex;
		flex-wrap: wrap;
		gap: 0.375rem;
	}
</style>
