<script lang="ts">
	import { positionOf } from '$lib/core/packet/packet';
	import { usePacket } from '../packet/context';

	// Two pictures of one page side by side, the one that reads better marked.
	let { pages }: { pages: readonly [string, string] } = $props();
	const store = usePacket();
	const score = (page: string) => store.view.pages[page]?.prepared?.legibility.score ?? 0;
	const better = $derived(score(pages[0]) >= score(pages[1]) ? pages[0] : pages[1]);

	/** Puts a page on the strip, where it or the other one is, and the other one into the side tray. */
	export function keep(page: string): void {
		const other = pages[0] === page ? pages[1] : pages[0];
		const place = store.packet.strip.indexOf(page);
		const otherPlace = store.packet.strip.indexOf(other);
		if (otherPlace < 0 && place >= 0) return;
		const index =
			place >= 0 ? place - Number(otherPlace >= 0 && otherPlace < place) : Math.max(0, otherPlace);
		store.edit({
			kind: 'together',
			changes: [
				{
					kind: 'place',
					page: other,
					to: { on: 'tray', index: store.packet.tray.length, reason: 'duplicate' }
				},
				{ kind: 'place', page, to: { on: 'strip', index } }
			]
		});
		store.current = page;
	}
	export function swap(): void {
		const kept = pages.find((page) => positionOf(store.packet, page) !== null);
		const both = pages.every((page) => positionOf(store.packet, page) !== null);
		if (both) keep(better);
		else if (kept) keep(pages[0] === kept ? pages[1] : pages[0]);
	}
</script>

<div class="alike">
	{#each pages as page (page)}
		{@const position = positionOf(store.packet, page)}
		{@const src = store.image(page, 'view')}
		<figure class:kept={position !== null}>
			<div class="sheet">
				{#if src}<img {src} alt={position ? `Page ${position}` : 'In the side tray'} />{/if}
			</div>
			<figcaption>
				<b>{position ? `Page ${position}` : 'In the side tray'}</b>
				{page === better ? 'reads better' : ''}
				<button class="quiet" onclick={() => keep(page)}>Keep this one</button>
			</figcaption>
		</figure>
	{/each}
</div>

<style>
	.alike {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 1rem;
		height: 100%;
		width: 100%;
	}
	figure {
		display: grid;
		grid-template-rows: minmax(0, 1fr) auto;
		gap: 0.5rem;
		margin: 0;
		min-height: 0;
	}
	.sheet {
		display: grid;
		grid-template: minmax(0, 1fr) / minmax(0, 1fr);
		place-items: center;
		min-height: 0;
	}
	img {
		max-width: 100%;
		max-height: 100%;
		background: #fff;
		box-shadow: 0 1px 4px rgb(42 31 61 / 0.25);
	}
	figure:not(.kept) img {
		opacity: 0.75;
	}
	figcaption {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		justify-content: center;
		gap: 0.25rem 0.75rem;
		font-size: 0.875rem;
	}
</style>
