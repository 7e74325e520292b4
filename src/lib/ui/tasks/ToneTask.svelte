<script lang="ts">
	import { onDestroy, type ComponentProps } from 'svelte';
	import { flattenedAlong, turnOf } from '$lib/core/page/effective';
	import { turnCorners } from '$lib/core/sheet/turn';
	import { adviceFor, describeReasons, placeName } from '$lib/core/legibility/describe';
	import { capital } from '$lib/core/rules/finding';
	import { suggestTone, type ToneMeasures } from '$lib/core/tone/suggestTone';
	import { TONES, type Tone, type ToneName } from '$lib/core/tone/tone';
	import { PagePreview } from '$lib/workers/pagePreview';
	import PageAndSettings from '../page/PageAndSettings.svelte';
	import PageLayer from '../page/PageLayer.svelte';
	import WeakPlaces from '../page/WeakPlaces.svelte';
	import WipeEdge from '../page/WipeEdge.svelte';
	import ZoomPane from '../page/ZoomPane.svelte';
	import { usePacket } from '../packet/context';
	import NoPage from './NoPage.svelte';
	import ReadThrough from './ReadThrough.svelte';
	import ToneChoice from './ToneChoice.svelte';
	import ToneSettings from './ToneSettings.svelte';

	const store = usePacket();
	const previews = new PagePreview();
	onDestroy(() => previews.close());

	const allowed = $derived(store.sheet.tone ?? TONES);
	const page = $derived(store.current ? store.packet.pages[store.current] : undefined);
	const known = $derived(page && store.view.pages[page.id]);
	const picture = $derived(known?.picture ?? null);
	const prepared = $derived(known?.prepared ?? null);
	const src = $derived(page ? store.image(page.id, 'source') : null);
	const view = $derived(page ? store.image(page.id, 'view') : null);
	const flat = $derived(page ? store.image(page.id, 'flat') : null);
	const tone = $derived(page?.tone ?? store.usualTone);

	let pane: ReturnType<typeof ZoomPane> | undefined = $state();
	let look: ComponentProps<typeof ZoomPane>['look'] = $state(null);
	let wipe = $state(50);
	let weakShown = $state(true);
	let chosenPlace = $state<number | null>(null);
	let reading = $state(false);
	let samples = $state.raw<Partial<Record<ToneName, ImageData>>>({});
	let measured = $state.raw<{ page: string; measures: ToneMeasures } | null>(null);

	$effect(() => {
		if (!page || !picture || !src) return;
		const wish = {
			url: src,
			pictureWidth: picture.width,
			corners: flattenedAlong(page, picture),
			turn: turnOf(page, picture),
			level: page.level ?? true
		};
		let stale = false;
		void (async () => {
			for (const name of TONES) {
				const done = await previews.show({ ...wish, tone: { ...tone, name }, longest: 1300 });
				if (stale) return;
				if (done) samples = { ...samples, [name]: done.image };
			}
		})();
		return () => (stale = true);
	});

	// What a tone does to the writing does not depend on the tone in force.
	const made = $derived(page && prepared ? `${page.id} ${JSON.stringify([page.corners, page.turn])}` : null);
	let measuredFor = '';
	$effect(() => {
		if (!made || !flat || !prepared || !page || !picture || made === measuredFor) return;
		measuredFor = made;
		const id = page.id;
		chosenPlace = null;
		const { legibility, dotsPerInch } = prepared;
		const wish = {
			url: flat,
			picture,
			corners: turnCorners(flattenedAlong(page, picture), turnOf(page, picture)),
			dotsPerInch,
			score: legibility.inGreys ?? legibility.score
		};
		void previews.tones(wish).then((measures) => {
			if (measures) measured = { page: id, measures };
			else measuredFor = '';
		});
	});
	const suggestion = $derived(
		measured && measured.page === page?.id && !prepared?.blank
			? suggestTone(measured.measures, allowed)
			: null
	);

	/** Brightness and contrast are asked for as they are; 0 is left out, as nobody asked. */
	function set(next: Partial<Tone>): void {
		if (!page) return;
		const { brightness, contrast, ...rest } = { ...tone, ...next };
		const asked = { ...(brightness ? { brightness } : {}), ...(contrast ? { contrast } : {}) };
		store.edit({ kind: 'setTone', page: page.id, tone: { ...rest, ...asked } });
	}
	function useOn(pages: readonly string[]): void {
		store.edit({ kind: 'together', changes: pages.map((id) => ({ kind: 'setTone', page: id, tone })) });
	}
	const others = $derived(store.packet.strip.filter((id) => store.marked.includes(id) && id !== page?.id));

	function goTo(i: number): void {
		const place = prepared?.legibility.places[i];
		if (!place) return;
		weakShown = true;
		chosenPlace = i;
		pane?.showAt((place.left + place.right) / 2, (place.top + place.bottom) / 2, 0.8);
	}
	function key(event: KeyboardEvent): void {
		const target = event.target as HTMLElement;
		if (event.ctrlKey || event.metaKey || event.altKey || target.matches('input, select, textarea')) return;
		if (event.key === 'r') reading = true;
		if (event.key === 'w') weakShown = !weakShown;
	}
</script>

<svelte:window onkeydown={reading ? undefined : key} />

{#if page && picture && src}
	<PageAndSettings>
		{#snippet stage()}
			{#if view && prepared}
				<ZoomPane
					bind:this={pane}
					bind:look
					width={prepared.width}
					height={prepared.height}
					label="The page. Plus and minus zoom, arrow keys move it, 0 shows all of it, 1 every pixel."
				>
					{#snippet children(transform)}
						<PageLayer
							{transform}
							src={view}
							alt="The page as it will be"
							width={prepared.width}
							height={prepared.height}
						>
							{#if weakShown}
								<WeakPlaces
									legibility={prepared.legibility}
									width={prepared.width}
									height={prepared.height}
									chosen={chosenPlace}
								/>
							{/if}
						</PageLayer>
						<div class="before" style:clip-path="inset(0 {100 - wipe}% 0 0)">
							<PageLayer {transform} src={flat} alt="" width={prepared.width} height={prepared.height} />
						</div>
						<WipeEdge bind:at={wipe} />
					{/snippet}
				</ZoomPane>
			{:else}
				<NoPage title="Making the page" text="It shows here as soon as it is made." busy />
			{/if}
		{/snippet}
		{#snippet settings()}
			{#if page.encoding}
				<p class="smaller">
					Kept at {page.encoding.dotsPerInch} dots an inch in the file, to stay under the size limit.
					<button
						class="textual"
						onclick={() => store.edit({ kind: 'setEncoding', page: page.id, encoding: null })}
						>As fine as it is here</button
					>
				</p>
			{/if}
			<ToneChoice {tone} {allowed} {samples} {suggestion} {set} />
			{#if prepared}
				<section class="reads" aria-label="Legibility">
					<h2>How it reads</h2>
					{#if prepared.blank}
						<p>This page is blank.</p>
					{:else}
						<p>
							<b>{Math.round(prepared.legibility.score * 100)} of 100.</b>
							{capital(describeReasons(prepared.legibility))}
							{#if prepared.legibility.readRight !== undefined}
								Reading it by machine gets about {Math.round(prepared.legibility.readRight * 100)} letters in 100
								right.
							{/if}
						</p>
						{#if prepared.legibility.places.length > 0}
							<label><input type="checkbox" bind:checked={weakShown} /> Show where it is weak</label>
							<ol>
								{#each prepared.legibility.places as place, i (i)}
									<li>
										<button class="textual" aria-pressed={chosenPlace === i} onclick={() => goTo(i)}>
											{placeName(place)}</button
										>: {adviceFor(place.reason)}
									</li>
								{/each}
							</ol>
						{/if}
					{/if}
				</section>
			{/if}
			<button class="quiet wide" onclick={() => (reading = true)} title="Key: r"
				>{store.packet.strip.length === 1
					? 'Read the page through'
					: `Read through all ${store.packet.strip.length} pages`}</button
			>
			<ToneSettings {tone} {set} />
			<div class="use">
				{#if others.length > 0}
					<button class="quiet" onclick={() => useOn([page.id, ...others])}
						>Use on the {others.length + 1} marked pages</button
					>
				{/if}
				<button class="quiet" onclick={() => useOn(store.packet.strip)}
					>Use on all {store.packet.strip.length} pages</button
				>
			</div>
		{/snippet}
	</PageAndSettings>
	{#if reading}<ReadThrough onclose={() => (reading = false)} />{/if}
{:else if page}
	<NoPage
		title="Looking at the picture"
		text={known?.problem ?? 'It shows here as soon as it is made.'}
		busy={!known?.problem}
	/>
{:else}
	<NoPage />
{/if}

<style>
	.before {
		position: absolute;
		inset: 0;
		overflow: hidden;
		pointer-events: none;
	}
	.use {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem;
	}
	h2 {
		margin-bottom: 0.25rem;
		font-size: 1rem;
	}
	.reads,
	.reads p {
		font-size: 0.875rem;
		line-height: 1.4;
	}
	.reads label {
		display: flex;
		gap: 0.5rem;
		align-items: center;
		margin-top: 0.5rem;
	}
	.reads input {
		accent-color: var(--violet);
	}
	ol {
		display: grid;
		gap: 0.375rem;
		margin: 0.5rem 0 0;
		padding-left: 1.25rem;
		list-style: decimal;
	}
	.wide {
		justify-content: center;
	}
</style>
