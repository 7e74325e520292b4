<script lang="ts">
	import { onMount, tick } from 'svelte';
	import type { Proofread } from '$lib/core/packet/packet';
	import { verdictInForce } from '$lib/core/packet/proofread';
	import AddedOn from '../page/AddedOn.svelte';
	import { usePacket } from '../packet/context';

	let { onclose }: { onclose: () => void } = $props();
	const store = usePacket();

	const strip = $derived(store.packet.strip);
	/** Begins with the first page that has not been read through. */
	let current = $state<string | null>(null);
	let ended = $state(false);
	let dialog: HTMLDialogElement | undefined = $state();
	let scroll: HTMLDivElement | undefined = $state();

	const index = $derived(current === null ? -1 : strip.indexOf(current));
	const known = $derived(current === null ? undefined : store.view.pages[current]);
	const src = $derived(current === null ? null : store.image(current, 'view'));
	const said = (id: string) => verdictInForce(store.packet.pages[id], store.view.pages[id]?.key);
	const done = $derived(strip.filter((id) => said(id) !== null).length);
	const needWork = $derived(strip.filter((id) => said(id) === 'needs-work'));

	onMount(() => {
		current = strip.find((id) => said(id) === null) ?? strip[0] ?? null;
		dialog?.showModal();
		void focusPage();
	});
	async function focusPage(): Promise<void> {
		await tick();
		scroll?.scrollTo({ top: 0 });
		scroll?.focus();
	}

	function go(to: number): void {
		if (to >= strip.length) {
			ended = true;
			return;
		}
		ended = false;
		current = strip[Math.max(0, to)] ?? null;
		if (current) store.current = current;
		void focusPage();
	}
	function say(verdict: Proofread['verdict']): void {
		if (!current || !known?.prepared) return;
		store.edit({ kind: 'setProofread', page: current, proofread: { verdict, seen: known.key } });
		go(index + 1);
	}
	function setAside(): void {
		if (!current) return;
		const at = index;
		const to = { on: 'tray', index: store.packet.tray.length, reason: 'extra' } as const;
		store.edit({ kind: 'place', page: current, to });
		// The next page has come to where this one was.
		go(at);
	}
	function key(event: KeyboardEvent): void {
		if (event.ctrlKey || event.metaKey || event.altKey) return;
		const actions: Record<string, () => void> = {
			f: () => say('fine'),
			w: () => say('needs-work'),
			x: setAside,
			ArrowRight: () => go(index + 1),
			ArrowLeft: () => go(ended ? strip.length - 1 : index - 1)
		};
		const action = actions[event.key];
		if (!action) return;
		event.preventDefault();
		event.stopPropagation();
		action();
	}
</script>

<dialog bind:this={dialog} {onclose} onkeydown={key} aria-label="Read through">
	<header>
		<h2>{ended || index < 0 ? 'Read through' : `Page ${index + 1} of ${strip.length}`}</h2>
		<ol aria-label="Pages">
			{#each strip as id, i (id)}
				{@const verdict = said(id)}
				<li>
					<button
						class:here={i === index && !ended}
						class:fine={verdict === 'fine'}
						class:work={verdict === 'needs-work'}
						onclick={() => go(i)}
						aria-label="Page {i + 1}, {verdict === null
							? 'not read'
							: verdict === 'fine'
								? 'fine'
								: 'needs work'}">{verdict === 'fine' ? '✓' : verdict === 'needs-work' ? '!' : i + 1}</button
					>
				</li>
			{/each}
		</ol>
		<span class="count" aria-live="polite">{done} of {strip.length} read</span>
		<button class="quiet" onclick={() => dialog?.close()} title="Key: Esc">Close</button>
	</header>
	{#if ended || current === null}
		<div class="end">
			{#if strip.length === 0}
				<p>There is no page on the strip.</p>
			{:else if done < strip.length}
				<p>
					{strip.length - done}
					{strip.length - done === 1 ? 'page has' : 'pages have'} not been read yet.
				</p>
			{:else if needWork.length === 0}
				<p>All {strip.length} pages read through and found fine.</p>
			{/if}
			{#if needWork.length > 0}
				<p>Needs work: page {needWork.map((id) => strip.indexOf(id) + 1).join(', ')}.</p>
				<a class="quiet" href="/packets/{store.view.id}/square" onclick={() => (store.current = needWork[0]!)}
					>Go to page {strip.indexOf(needWork[0]!) + 1}</a
				>
			{/if}
			<button class="quiet" onclick={() => dialog?.close()}>Done</button>
		</div>
	{:else}
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="scroll" bind:this={scroll} tabindex="0" role="region" aria-label="The page">
			{#if src}<span class="sheet"
					><img {src} alt="Page {index + 1} as it will be handed in" /><AddedOn page={current} /></span
				>{:else}<p>The page is being made …</p>{/if}
		</div>
		<footer>
			<button class="quiet" disabled={index <= 0} onclick={() => go(index - 1)}>Back</button>
			<button class="say" disabled={!known?.prepared} onclick={() => say('fine')}><kbd>f</kbd> Fine</button>
			<button class="say" disabled={!known?.prepared} onclick={() => say('needs-work')}
				><kbd>w</kbd> Needs work</button
			>
			<button class="say" onclick={setAside}><kbd>x</kbd> Set aside</button>
			<button class="quiet" onclick={() => go(index + 1)}>Skip</button>
		</footer>
	{/if}
</dialog>

<style>
	dialog {
		display: grid;
		grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr);
		width: 100vw;
		height: 100vh;
		max-width: none;
		max-height: none;
		padding: 0;
		border: 0;
		background: var(--table);
		color: var(--ink);
	}
	header,
	footer {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.75rem;
		padding: 0.625rem 1rem;
		background: var(--white);
	}
	header {
		border-bottom: 1px solid var(--rule);
	}
	footer {
		justify-content: center;
		border-top: 1px solid var(--rule);
	}
	h2 {
		font-size: 1.125rem;
	}
	ol {
		display: flex;
		flex: 1;
		flex-wrap: wrap;
		gap: 0.25rem;
		margin: 0;
		padding: 0;
		list-style: none;
	}
	ol button {
		min-width: 1.75rem;
		height: 1.75rem;
		border: 1px solid var(--rule);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 0.8125rem;
		cursor: pointer;
	}
	ol .fine {
		border-color: var(--lichen);
		color: var(--lichen);
		font-weight: 600;
	}
	ol .work {
		border-color: var(--ochre);
		color: var(--ochre);
		font-weight: 600;
	}
	ol .here {
		outline: 3px solid var(--violet);
	}
	.count {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.scroll {
		overflow: auto;
		text-align: center;
	}
	.scroll:focus-visible {
		outline: 2px solid var(--violet);
		outline-offset: -2px;
	}
	.sheet {
		position: relative;
		display: block;
		width: min(100%, 62rem);
		margin: 1rem auto;
	}
	img {
		display: block;
		width: 100%;
		background: #fff;
		box-shadow: 0 1px 4px rgb(42 31 61 / 0.25);
	}
	.end {
		display: grid;
		place-content: center;
		justify-items: center;
		gap: 1rem;
		font-size: 1.125rem;
	}
	.say {
		display: inline-flex;
		align-items: center;
		gap: 0.5rem;
		min-height: 2.75rem;
		padding: 0 1.25rem;
		border: 1px solid var(--violet);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		cursor: pointer;
	}
	.say:disabled {
		border-color: var(--rule);
		color: var(--ink-soft);
		cursor: default;
	}
	.say:hover:enabled {
		background: var(--selected);
	}
	kbd {
		padding: 0 0.375rem;
		border: 1px solid var(--rule);
		font-family: 'IBM Plex Mono', monospace;
		font-size: 0.875rem;
	}
	/* There are no keys on a phone. */
	@media (hover: none) {
		kbd {
			display: none;
		}
		.say {
			padding: 0 0.875rem;
		}
	}
</style>
