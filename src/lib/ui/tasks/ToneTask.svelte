<script lang="ts">
	import { onDestroy } from 'svelte';
	import { Slider, Toggle } from 'carbon-components-svelte';
	import { cornersOf, turnOf } from '$lib/core/page/effective';
	import { describeReasons } from '$lib/core/legibility/describe';
	import { TONES, type Tone, type ToneName } from '$lib/core/tone/tone';
	import { PagePreview } from '$lib/workers/pagePreview';
	import PageCanvas from '../page/PageCanvas.svelte';
	import { usePacket } from '../packet/context';
	import NoPage from './NoPage.svelte';

	const store = usePacket();
	const previews = new PagePreview();
	const samples = new PagePreview();
	onDestroy(() => {
		previews.close();
		samples.close();
	});

	const WORDS: Record<ToneName, string> = {
		colour: 'Colour',
		greyscale: 'Greyscale',
		'black-and-white': 'Black and white'
	};
	const allowed = $derived(store.sheet.tone ?? TONES);
	const page = $derived(store.current ? store.packet.pages[store.current] : undefined);
	const known = $derived(page && store.view.pages[page.id]);
	const picture = $derived(known?.picture ?? null);
	const src = $derived(page ? store.image(page.id, 'source') : null);
	const tone = $derived(page?.tone ?? store.usualTone);
	const legibility = $derived(known?.prepared?.legibility);

	let wipe = $state(50);
	let original = $state.raw<{ page: string; image: ImageData } | null>(null);
	let small = $state.raw<Partial<Record<ToneName, ImageData>>>({});

	$effect(() => {
		if (!page || !picture || !src) return;
		const id = page.id;
		const wish = {
			url: src,
			pictureWidth: picture.width,
			corners: cornersOf(page, picture),
			turn: turnOf(page, picture)
		};
		void previews.show({ ...wish, tone: null, longest: 1500 }).then((done) => {
			if (done) original = { page: id, image: done.image };
		});
		let stale = false;
		void (async () => {
			for (const name of TONES) {
				const done = await samples.show({ ...wish, tone: { ...tone, name }, longest: 1300 });
				if (stale) return;
				if (done) small = { ...small, [name]: done.image };
			}
		})();
		return () => (stale = true);
	});

	const view = $derived(page ? store.image(page.id, 'view') : null);

	function set(next: Partial<Tone>): void {
		if (page) store.edit({ kind: 'setTone', page: page.id, tone: { ...tone, ...next } });
	}
	function everywhere(): void {
		store.edit({
			kind: 'together',
			changes: store.packet.strip.map((id) => ({ kind: 'setTone', page: id, tone }))
		});
	}
</script>

{#if page && picture && src}
	<div class="tone">
		<div class="stage">
			<div class="compare">
				{#if view}
					<img src={view} alt="The page as it will be" />
				{:else}
					<p class="making">Making the page …</p>
				{/if}
				{#if view && original?.page === page.id}
					<div class="before" style:clip-path="inset(0 {100 - wipe}% 0 0)">
						<PageCanvas image={original.image} label="The page as photographed" />
					</div>
					<div class="edge" style:left="{wipe}%" aria-hidden="true"></div>
				{/if}
			</div>
			<label class="wipe">
				<span>as photographed</span>
				<input type="range" min="0" max="100" bind:value={wipe} aria-label="Compare with the photograph" />
				<span>as handed in</span>
			</label>
		</div>
		<div class="settings">
			<h2>Tone</h2>
			<div class="choices" role="radiogroup" aria-label="Tone">
				{#each TONES as name (name)}
					<button
						role="radio"
						aria-checked={tone.name === name}
						class:chosen={tone.name === name}
						onclick={() => set({ name })}
					>
						<span class="sample"><PageCanvas image={small[name] ?? null} label="" /></span>
						<span>{WORDS[name]}</span>
						{#if !allowed.includes(name)}<small>not allowed here</small>{/if}
					</button>
				{/each}
			</div>
			<Toggle
				labelText="Even light"
				labelA="Shadows stay"
				labelB="Shadows taken out"
				toggled={tone.evenLight}
				on:toggle={(e) => {
					if (e.detail.toggled !== tone.evenLight) set({ evenLight: e.detail.toggled });
				}}
			/>
			<Slider
				labelText="Ink weight, thin to heavy"
				min={-2}
				max={2}
				step={0.5}
				value={tone.inkWeight}
				minLabel=" "
				maxLabel=" "
				hideTextInput
				fullWidth
				on:change={(e) => {
					if (e.detail !== tone.inkWeight) set({ inkWeight: Number(e.detail) });
				}}
			/>
			<button class="quiet" onclick={everywhere}
				>Use this tone on all {store.packet.strip.length} pages</button
			>
			{#if legibility && known?.prepared}
				<p class="reads">
					{#if known.prepared.blank}
						This page is blank.
					{:else}
						Legibility {Math.round(legibility.score * 100)} of 100: {describeReasons(legibility)}
					{/if}
				</p>
			{/if}
		</div>
	</div>
{:else if page}
	<NoPage
		title="Looking at the picture"
		text={known?.problem ?? 'This takes a second or two.'}
		busy={!known?.problem}
	/>
{:else}
	<NoPage />
{/if}

<style>
	.tone {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 19rem;
		gap: 1.25rem;
		height: 100%;
		padding: 1rem;
		box-sizing: border-box;
	}
	.stage {
		display: grid;
		grid-template-rows: minmax(0, 1fr) auto;
		gap: 0.5rem;
		min-height: 0;
	}
	.compare {
		position: relative;
		justify-self: center;
		height: 100%;
		min-height: 0;
		overflow: hidden;
	}
	.compare img {
		display: block;
		max-width: 100%;
		height: 100%;
		object-fit: contain;
		background: #fff;
	}
	.before {
		position: absolute;
		inset: 0;
	}
	.before :global(canvas) {
		width: 100%;
		height: 100%;
		max-width: none;
		max-height: none;
		box-shadow: none;
	}
	.edge {
		position: absolute;
		top: 0;
		bottom: 0;
		width: 2px;
		margin-left: -1px;
		background: var(--violet);
		outline: 1px solid #fff;
	}
	.making {
		padding: 3rem;
		color: var(--ink-soft);
	}
	.wipe {
		display: flex;
		align-items: center;
		justify-content: center;
		gap: 0.75rem;
		color: var(--ink-soft);
		font-size: 0.8125rem;
	}
	.wipe input {
		width: 16rem;
		accent-color: var(--violet);
	}
	.settings {
		display: flex;
		flex-direction: column;
		align-items: flex-start;
		gap: 1rem;
		overflow: auto;
	}
	h2 {
		font-size: 1.125rem;
	}
	.choices {
		display: grid;
		grid-template-columns: repeat(3, 1fr);
		gap: 0.5rem;
		width: 100%;
	}
	.choices button {
		display: flex;
		flex-direction: column;
		align-items: center;
		gap: 0.25rem;
		padding: 0.375rem 0.25rem;
		border: 1px solid var(--rule);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 0.8125rem;
		cursor: pointer;
	}
	.choices button.chosen {
		outline: 3px solid var(--violet);
		outline-offset: -1px;
		font-weight: 600;
	}
	.sample {
		display: block;
		width: 100%;
		height: 6.5rem;
		overflow: hidden;
	}
	/* The upper left of the page, large enough to judge the strokes. */
	.sample :global(canvas) {
		width: 280%;
		max-width: none;
		margin: -12% 0 0 -34%;
		max-height: none;
		box-shadow: none;
	}
	small {
		color: var(--brick);
	}
	.reads {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
</style>
