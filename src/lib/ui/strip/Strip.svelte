<script lang="ts">
	import { createVirtualizer } from '@tanstack/svelte-virtual';
	import { tick, untrack, type Snippet } from 'svelte';
	import { dndzone, SHADOW_ITEM_MARKER_PROPERTY_NAME, type DndEvent } from 'svelte-dnd-action';
	import type { Change } from '$lib/core/packet/change';
	import { usePacket, useUploads } from '../packet/context';
	import { verdictInForce } from '$lib/core/packet/proofread';
	import AddedOn from '../page/AddedOn.svelte';
	import LevelMark from '../theme/LevelMark.svelte';
	import OnTheirWay from './OnTheirWay.svelte';
	import Tracks from './Tracks.svelte';

	interface Props {
		/** Width of a page's column in pixels. */
		column?: number;
		/** Height of the pictures in pixels. */
		tall?: number;
		/** What is drawn over a page, in Map. */
		over?: Snippet<[string, number]>;
	}
	let { column = 116, tall = 118, over }: Props = $props();
	/** Tracks are lower where the pictures are. */
	const low = $derived(tall < 90);
	const store = usePacket();
	const uploads = useUploads();

	type Item = { id: string; [SHADOW_ITEM_MARKER_PROPERTY_NAME]?: boolean };
	/** Pages drawn beyond what is seen, on both sides: so far a page can be dragged. */
	const BEYOND = 10;
	let scroller = $state<HTMLElement | null>(null);
	const virtualizer = createVirtualizer<HTMLElement, HTMLElement>({
		horizontal: true,
		count: untrack(() => store.packet.strip.length),
		getScrollElement: () => scroller,
		estimateSize: () => column,
		overscan: BEYOND,
		initialRect: { width: 1280, height: 200 }
	});
	$effect(() => {
		const wide = column;
		const options = {
			count: store.packet.strip.length,
			estimateSize: () => wide,
			getScrollElement: () => scroller
		};
		untrack(() => {
			$virtualizer.setOptions(options);
			$virtualizer.measure();
		});
	});
	/** The pages that are drawn, as places on the strip. */
	const seen = $derived.by(() => {
		const drawn = $virtualizer.getVirtualItems();
		const to = Math.min(store.packet.strip.length, (drawn.at(-1)?.index ?? -1) + 1);
		return { from: Math.min(to, drawn[0]?.index ?? 0), to };
	});
	/** While a page is dragged, what its lists hold; what is drawn stays as it was. */
	let held = $state.raw<{ strip: Item[]; tray: Item[]; seen: { from: number; to: number } } | null>(null);
	const range = $derived(held?.seen ?? seen);
	const strip = $derived<Item[]>(
		held?.strip ?? store.packet.strip.slice(seen.from, seen.to).map((id) => ({ id }))
	);
	const tray = $derived<Item[]>(held?.tray ?? store.packet.tray.map(({ page }) => ({ id: page })));
	// The page that is worked on comes into sight when it is chosen; a person who has scrolled on since is left there.
	$effect(() => {
		const { current } = store;
		untrack(() => {
			const at = current === null ? -1 : store.packet.strip.indexOf(current);
			if (at >= 0) $virtualizer.scrollToIndex(at, { align: 'auto' });
		});
	});
	const reasons = $derived(new Map(store.packet.tray.map((t) => [t.page, t.reason])));
	const marks = $derived.by(() => {
		const worst: Record<number, { level: 'look' | 'blocks'; text: string }> = {};
		for (const { level, pages, message } of store.findings) {
			if (level === 'clear' || level === 'open') continue;
			for (const p of pages) worst[p] ??= { level, text: message };
		}
		return worst;
	});
	let said = $state('');

	const proposed = $derived(new Map(store.moves.map((m) => [m.page, m])));
	/** What the page's own number says, where one was read. */
	const numbers = $derived(
		new Map(store.order?.strip.flatMap((s) => (s.number ? [[s.page, s.number]] : [])))
	);

	function consider(zone: 'strip' | 'tray', event: CustomEvent<DndEvent<Item>>): void {
		held = { ...(held ?? { strip, tray, seen }), [zone]: event.detail.items };
	}

	function finish(zone: 'strip' | 'tray', event: CustomEvent<DndEvent<Item>>): void {
		const { from } = range;
		const { id } = event.detail.info;
		const at = event.detail.items.findIndex((item) => item.id === id);
		held = null;
		// Both zones report; the one that holds the page now says where it went.
		if (at < 0) return;
		const index = zone === 'strip' ? from + at : at;
		const before = store.packet[zone === 'strip' ? 'strip' : 'tray'];
		const same = zone === 'strip' ? before[index] === id : store.packet.tray[index]?.page === id;
		if (!same) place(id, zone, index);
	}

	function place(id: string, zone: 'strip' | 'tray', index: number): void {
		const to: Extract<Change, { kind: 'place' }>['to'] =
			zone === 'strip' ? { on: 'strip', index } : { on: 'tray', index, reason: 'extra' };
		store.edit({ kind: 'place', page: id, to });
		said = zone === 'strip' ? `Moved to place ${index + 1}.` : 'Set aside, into the side tray.';
	}

	/** A click chooses a page; with Ctrl it is marked too, with Shift all up to it. */
	function choose(event: MouseEvent, id: string): void {
		if (event.ctrlKey || event.metaKey) mark(id);
		else if (event.shiftKey) markUpTo(id);
		else {
			store.marked = [];
			store.current = id;
		}
	}
	function mark(id: string): void {
		const before = store.marked.length > 0 || !store.current ? store.marked : [store.current];
		if (!before.includes(id)) store.marked = [...before, id];
		else if (before.length > 1) store.marked = before.filter((other) => other !== id);
		said = `${store.marked.length} pages marked.`;
	}
	function markUpTo(id: string): void {
		const from = Math.max(0, store.packet.strip.indexOf(store.current ?? ''));
		const to = store.packet.strip.indexOf(id);
		store.marked = store.packet.strip.slice(Math.min(from, to), Math.max(from, to) + 1);
		said = `${store.marked.length} pages marked.`;
	}

	/** Brings a page into sight and puts the focus there. */
	async function focus(id: string): Promise<void> {
		const at = store.packet.strip.indexOf(id);
		if (at >= 0) $virtualizer.scrollToIndex(at, { align: 'auto' });
		await tick();
		// What was far away is drawn when the scrolling has been seen.
		for (let frames = 0; frames < 5; frames++) {
			const page = scroller?.querySelector<HTMLElement>(`[data-page="${id}"]`);
			page?.focus();
			if (page && document.activeElement === page) return;
			await new Promise(requestAnimationFrame);
		}
	}

	function key(event: KeyboardEvent, id: string, index: number): void {
		const last = store.packet.strip.length - 1;
		const go = (to: number) => {
			const next = store.packet.strip[Math.min(Math.max(to, 0), last)];
			if (!next) return;
			store.current = next;
			void focus(next);
		};
		const move = (to: number) => {
			if (to < 0 || to > last || to === index) return;
			place(id, 'strip', to);
			void focus(id);
		};
		const actions: Record<string, () => void> = event.altKey
			? {
					ArrowLeft: () => move(index - 1),
					ArrowRight: () => move(index + 1),
					Home: () => move(0),
					End: () => move(last)
				}
			: {
					ArrowLeft: () => go(index - 1),
					ArrowRight: () => go(index + 1),
					Home: () => go(0),
					End: () => go(last),
					m: () => mark(id),
					Delete: () => place(id, 'tray', store.packet.tray.length)
				};
		const action = actions[event.key];
		if (!action) return;
		event.preventDefault();
		action();
	}

	const options = { flipDurationMs: 120, dropTargetStyle: {}, type: 'page', zoneItemTabIndex: -1 };
</script>

<section class="strip" class:low aria-label="All pages" style:--column="{column}px" style:--tall="{tall}px">
	<div class="names" aria-hidden="true">
		<span style:margin-top="{tall + (low ? 22 : 30)}px">legible</span>
		<span>questions</span>
	</div>
	<div class="scroll" bind:this={scroller}>
		<div
			class="row"
			style:padding-left="{range.from * column}px"
			style:padding-right="{(store.packet.strip.length - range.to) * column}px"
			use:dndzone={{ ...options, items: strip, dragDisabled: over !== undefined }}
			onconsider={(e) => consider('strip', e)}
			onfinalize={(e) => finish('strip', e)}
		>
			{#each strip as item, drawn (item.id)}
				{@const i = range.from + drawn}
				{@const mark = marks[i + 1]}
				{@const src = store.image(item.id, over ? 'view' : 'thumb')}
				<div class="column">
					{#if over}
						<div class="page" class:current={store.current === item.id}>
							{#if src}<img {src} alt="Page {i + 1}" loading="lazy" draggable="false" />{/if}
							<AddedOn page={item.id} />
							{@render over(item.id, i)}
						</div>
					{:else}
						<button
							class="page"
							class:current={store.current === item.id}
							class:marked={store.marked.includes(item.id)}
							data-page={item.id}
							aria-current={store.current === item.id}
							aria-label="Page {i + 1}, {store.view.pages[item.id]?.sourceName}{mark ? `. ${mark.text}` : ''}"
							title="Alt+arrow moves the page, Delete sets it aside, Ctrl+click or m marks it"
							onclick={(e) => choose(e, item.id)}
							onkeydown={(e) => key(e, item.id, i)}
						>
							{#if src}
								<img {src} alt="" loading="lazy" draggable="false" />
								<AddedOn page={item.id} />
							{:else if store.view.pages[item.id]?.problem}
								<span class="waiting">cannot be made</span>
							{:else}
								<span class="waiting coming">being prepared</span>
							{/if}
						</button>
					{/if}
					<span class="number">
						{#if verdictInForce(store.packet.pages[item.id], store.view.pages[item.id]?.key) === 'fine'}
							<span class="read" title="Read through and found fine">✓</span>
						{/if}
						{#if mark}<span title={mark.text}><LevelMark level={mark.level} size={14} /></span>{/if}
						{i + 1}
						{#if numbers.has(item.id)}
							{@const { number, of } = numbers.get(item.id)!}
							<span
								class="reads"
								class:other={number !== i + 1}
								title="The page reads {number}{of ? ` of ${of}` : ''}"
							>
								“{number}”
							</span>
						{/if}
						{#if !over && proposed.has(item.id)}
							{@const move = proposed.get(item.id)!}
							<span class="to" title={move.reason}>→ {move.to === 'tray' ? 'tray' : move.to}?</span>
						{/if}
					</span>
				</div>
			{/each}
		</div>
		<Tracks {column} {...range} {low} />
	</div>
	{#if !over && uploads.unsent.length > 0}<OnTheirWay lines={uploads.unsent} lineUp={uploads.lineUp} />{/if}
	{#if !over}
		<div class="tray" class:empty={tray.length === 0}>
			<h2>Side tray <span>({store.packet.tray.length})</span></h2>
			<div
				class="aside"
				use:dndzone={{ ...options, items: tray }}
				onconsider={(e) => consider('tray', e)}
				onfinalize={(e) => finish('tray', e)}
			>
				{#each tray as item (item.id)}
					{@const src = store.image(item.id, 'thumb')}
					<div class="kept">
						<button
							class="page"
							class:current={store.current === item.id}
							aria-label="Set aside: {store.view.pages[item.id]?.sourceName}"
							onclick={() => (store.current = item.id)}
						>
							{#if src}<img {src} alt="" draggable="false" /><AddedOn page={item.id} />{/if}
						</button>
						<span>{reasons.get(item.id)}</span>
						<button class="textual" onclick={() => place(item.id, 'strip', store.packet.strip.length)}>
							Bring back
						</button>
					</div>
				{/each}
			</div>
			{#if tray.length === 0}<p title="They are kept, but not handed in.">Pages set aside stay here.</p>{/if}
		</div>
	{/if}
	<p class="out-of-sight" aria-live="polite">{said}</p>
</section>

<style>
	.strip {
		position: relative;
		display: flex;
		gap: 0.5rem;
		padding: 0.625rem 1rem 0.5rem 0.5rem;
		background: var(--white);
		border-top: 1px solid var(--rule);
		min-height: 0;
	}
	.names {
		flex: none;
		display: flex;
		flex-direction: column;
		gap: 17px;
		width: 4.5rem;
		color: var(--ink-soft);
		font-size: 0.8125rem;
		text-align: right;
	}
	.scroll {
		flex: 1;
		min-width: 0;
		overflow: auto hidden;
		margin-top: -0.625rem;
		padding-top: 0.625rem;
	}
	.row {
		display: flex;
		min-height: calc(var(--tall) + 22px);
		outline: none !important;
	}
	.column {
		flex: none;
		width: var(--column);
		display: flex;
		flex-direction: column;
		align-items: center;
	}
	.page {
		position: relative;
		display: grid;
		grid-template: minmax(0, 1fr) / minmax(0, auto);
		place-items: center;
		padding: 0;
		border: 1px solid var(--rule);
		background: #fff;
		height: var(--tall);
		min-width: calc(var(--tall) * 0.6);
		max-width: calc(var(--column) - 8px);
		box-sizing: border-box;
	}
	button.page {
		cursor: grab;
	}
	.page.current {
		outline: 3px solid var(--violet);
		outline-offset: 1px;
	}
	.page.marked {
		border: 2px dashed var(--violet);
	}
	img {
		display: block;
		min-height: 0;
		max-width: 100%;
		max-height: 100%;
	}
	/* On a sheet that stays white by night. */
	.waiting {
		width: 4rem;
		color: #5d5570;
		font-size: 0.75rem;
	}
	.page:has(.coming) {
		animation: wait 1.6s ease-in-out infinite alternate;
	}
	@keyframes wait {
		to {
			background: #ece8e0;
		}
	}
	.number {
		display: flex;
		align-items: center;
		gap: 0.25rem;
		height: 22px;
		font-size: 0.8125rem;
		font-weight: 600;
	}
	.read {
		color: var(--lichen);
	}
	.reads {
		color: var(--ink-soft);
		font-weight: 400;
	}
	.reads.other {
		color: var(--ochre);
		font-weight: 600;
	}
	.to {
		padding: 0 0.25rem;
		border: 1px dashed var(--violet);
		color: var(--violet);
		font-weight: 600;
		white-space: nowrap;
	}
	.tray {
		flex: none;
		max-width: min(24rem, 40%);
		padding: 0.5rem 0.75rem;
		border: 1px dashed var(--soft-edge);
		box-sizing: border-box;
		overflow: auto;
		max-height: calc(var(--tall) + 114px);
	}
	.low .tray {
		max-height: calc(var(--tall) + 82px);
	}
	/* As wide as what it holds. */
	.tray.empty {
		width: 7.5rem;
	}
	@media (max-width: 700px) {
		.tray.empty,
		.names {
			display: none;
		}
	}
	.low .names {
		gap: 4px;
	}
	.low .kept .page {
		height: 52px;
		min-width: 38px;
	}
	.tray h2 {
		font-size: 0.875rem;
	}
	.tray h2 span,
	.tray p {
		color: var(--ink-soft);
		font-weight: 400;
		font-size: 0.8125rem;
	}
	.aside {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem;
		min-height: 2.5rem;
		padding-top: 0.25rem;
		outline: none !important;
	}
	.kept {
		display: flex;
		flex-direction: column;
		align-items: center;
		font-size: 0.75rem;
		color: var(--ink-soft);
	}
	.kept .page {
		height: 76px;
		min-width: 54px;
	}
	.kept .textual {
		font-size: 0.75rem;
	}
</style>
