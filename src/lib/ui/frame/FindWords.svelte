<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import { findText } from '$lib/core/reading/findText';
	import { plural } from '$lib/core/rules/finding';
	import { usePacket } from '../packet/context';
	import CutOut from '../page/CutOut.svelte';

	// Looks for words in what was read off the pages, and shows each place as it is written.
	let { open = $bindable(false) }: { open: boolean } = $props();
	const store = usePacket();
	let query = $state('');
	let field = $state<HTMLInputElement | null>(null);
	const pages = $derived(
		[...store.packet.strip, ...store.packet.tray.map((t) => t.page)].map((page) => ({
			page,
			lines: store.view.pages[page]?.reading?.lines ?? []
		}))
	);
	const found = $derived(findText(pages, query));
	const position = (page: string) => store.packet.strip.indexOf(page) + 1;
	/** Room above and below a line, as a fraction of the page's height. */
	const ROOM = 0.006;

	function go(page: string): void {
		store.current = page;
		open = false;
	}
	$effect(() => {
		if (open) setTimeout(() => field?.select(), 50);
	});
</script>

<Modal passiveModal bind:open modalHeading="Find words on the pages" size="sm">
	<label>
		Words to look for
		<input bind:this={field} bind:value={query} type="search" autocomplete="off" />
	</label>
	<p aria-live="polite">
		{#if pages.length === 0}There are no pages yet.
		{:else if store.textUnread > 0}{plural(store.textUnread, 'page')} not read yet: what is on them cannot be found
			so far.
		{/if}
		{#if query.trim().length >= 2}{found.length === 0
				? store.textUnread === pages.length
					? ''
					: 'Not found. Handwriting is sometimes misread; try another word.'
				: `Found on ${plural(found.length, 'line')}.`}{/if}
	</p>
	<ul>
		{#each found as place (`${place.page} ${place.line.box.join()}`)}
			{@const [, y0, , y1] = place.line.box}
			<li>
				<button onclick={() => go(place.page)}>
					<b>{position(place.page) ? `Page ${position(place.page)}` : 'Side tray'}</b>
					<span class="text">
						{place.line.text.slice(0, place.from)}<mark>{place.line.text.slice(place.from, place.to)}</mark
						>{place.line.text.slice(place.to)}
					</span>
					<CutOut page={place.page} top={Math.max(0, y0 - ROOM)} bottom={Math.min(1, y1 + ROOM)} alt="" />
				</button>
			</li>
		{/each}
	</ul>
</Modal>

<style>
	label {
		display: grid;
		gap: 0.375rem;
		font-size: 0.875rem;
	}
	input {
		height: 2.5rem;
		padding: 0 0.75rem;
		border: 1px solid var(--ink-soft);
		background: var(--white);
		font: inherit;
		font-size: 1rem;
	}
	p {
		min-height: 1.5rem;
		margin: 0.5rem 0;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	ul {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li button {
		display: grid;
		gap: 0.25rem;
		width: 100%;
		padding: 0.625rem 0;
		border: 0;
		border-top: 1px solid var(--rule);
		background: none;
		color: var(--ink);
		font: inherit;
		font-size: 0.875rem;
		text-align: left;
		cursor: pointer;
	}
	li button:hover .text {
		color: var(--violet);
	}
	mark {
		background: var(--selected);
		color: inherit;
		font-weight: 600;
	}
</style>
