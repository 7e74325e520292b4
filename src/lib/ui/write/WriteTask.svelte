<script lang="ts">
	import { tick, type ComponentProps } from 'svelte';
	import { COLOURS, MARK_COLOURS, MARK_LIMITS, type Mark, type MarkColour } from '$lib/core/marks/mark';
	import { movedBy, resizedBy, rounded, stripOver, toPage, toPicture } from '$lib/core/marks/onPage';
	import { shapeOf } from '$lib/core/page/effective';
	import type { PageFacts } from '$lib/core/page/preparePage';
	import type { Point } from '$lib/core/sheet/geometry';
	import type { Change } from '$lib/core/packet/change';
	import PageAndSettings from '../page/PageAndSettings.svelte';
	import PageLayer from '../page/PageLayer.svelte';
	import ZoomPane from '../page/ZoomPane.svelte';
	import { usePacket } from '../packet/context';
	import NoPage from '../tasks/NoPage.svelte';
	import type { FormField } from '$lib/core/marks/formFields';
	import AddedLayer from './AddedLayer.svelte';
	import FormFields from './FormFields.svelte';
	import { COLOUR_WORDS, HINTS, nameOf, TOOL_WORDS, TOOLS, WIDTHS, type Tool } from './tools';

	const store = usePacket();
	const page = $derived(store.current ? store.packet.pages[store.current] : undefined);
	const known = $derived(page && store.view.pages[page.id]);
	const picture = $derived(known?.picture ?? null);
	const view = $derived(page ? store.image(page.id, 'view') : null);

	/** Under a new strip the page is prepared anew; until then it is seen as it was. */
	let latest = $state.raw<{ page: string; prepared: PageFacts; view: string } | null>(null);
	$effect(() => {
		if (page && known?.prepared && view) latest = { page: page.id, prepared: known.prepared, view };
	});
	const seen = $derived(latest && latest.page === page?.id ? latest : null);
	const shape = $derived(page && picture && seen ? shapeOf(page, picture, seen.prepared) : null);
	const marks = $derived(page?.marks ?? []);

	/** Of a page that came as a PDF with a form. */
	let form = $state.raw<{ page: string; fields: FormField[] } | null>(null);
	/** The page whose fields could not be had. */
	let unread = $state<string | null>(null);
	let tries = $state(0);
	let current = $state<string | null>(null);
	const fields = $derived(form && form.page === page?.id ? form.fields : []);
	const asked = $derived(page && known && /\.pdf$/i.test(known.sourceName) ? page.id : null);
	$effect(() => {
		const id = asked;
		void tries;
		if (id === null) return;
		let stale = false;
		void fetch(`/api/packets/${store.view.id}/pages/${id}/fields`)
			.then((response) => {
				if (!response.ok) throw new Error(response.statusText);
				return response.json();
			})
			.then((found: { fields: FormField[] }) => {
				if (!stale) [form, unread] = [{ page: id, fields: found.fields }, null];
			})
			.catch(() => {
				if (!stale) unread = id;
			});
		return () => (stale = true);
	});
	/** Where a field lies on the page, in its pixels. */
	function outlineOf({ box: [x, y, wide, high] }: FormField): Point[] {
		const map = toPage(shape!);
		const { width, height } = picture!;
		return [
			[x, y],
			[x + wide, y],
			[x + wide, y + high],
			[x, y + high]
		].map(([u, v]) => map([u! * width, v! * height]));
	}
	const boxes = $derived(shape && picture ? fields.map((f) => ({ id: f.id, outline: outlineOf(f) })) : []);

	let look: ComponentProps<typeof ZoomPane>['look'] = $state(null);
	let tool = $state<Tool>('pen');
	let colours = $state<Record<'pen' | 'marker' | 'words', MarkColour>>({
		pen: 'ink',
		marker: 'yellow',
		words: 'ink'
	});
	let widths = $state<Record<'pen' | 'marker', number>>({
		pen: WIDTHS.pen[1][1],
		marker: WIDTHS.marker[0][1]
	});
	/** Millimetres from line to line. */
	const SIZES = [
		['small', 5],
		['as writing', 7],
		['large', 11]
	] as const;
	let size = $state<number>(7);
	let chosen = $state<string | null>(null);

	/** Words that are being typed: new ones, or others over those that are there. */
	let typed = $state.raw<Extract<Mark, { kind: 'words' }> | null>(null);
	let field: HTMLTextAreaElement | undefined = $state();

	const has = (t: Tool): t is 'pen' | 'marker' | 'words' => t === 'pen' || t === 'marker' || t === 'words';
	const isStroke = (t: Tool): t is 'pen' | 'marker' => t === 'pen' || t === 'marker';

	function change(changes: readonly Change[]): void {
		if (changes.length > 0) store.edit(changes.length === 1 ? changes[0]! : { kind: 'together', changes });
	}
	function add(added: readonly Mark[]): void {
		if (!page) return;
		const id = page.id;
		if (marks.length + added.length > MARK_LIMITS.marks) {
			store.notice = `A page holds at most ${MARK_LIMITS.marks} things that were added.`;
			return;
		}
		change(added.map((m) => ({ kind: 'setMark', page: id, mark: m })));
	}
	function put(next: Mark): void {
		if (page) store.edit({ kind: 'setMark', page: page.id, mark: next });
	}
	function takeOff(ids: readonly string[]): void {
		if (!page) return;
		const id = page.id;
		change(ids.map((m) => ({ kind: 'removeMark', page: id, mark: m })));
		chosen = null;
	}

	/** The middle of what is looked at, for whoever adds something without pointing. */
	function middle(): Point {
		const { width, height } = shape!;
		return [(look?.x ?? 0.5) * width, (look?.y ?? 0.5) * height];
	}
	function beginWords(at: Point): void {
		keepWords();
		chosen = null;
		typed = { id: crypto.randomUUID(), kind: 'words', colour: colours.words, size, at, text: '' };
		void tick().then(() => field?.focus());
	}
	function keepWords(): void {
		if (typed && typed.text.trim() !== '') {
			const words = { ...typed, text: typed.text.trimEnd() };
			put(words);
			chosen = words.id;
		}
		typed = null;
	}
	function putStrip(): void {
		if (!shape) return;
		const [x, y] = middle();
		const [wide, high] = [shape.width / 4, shape.height / 30];
		const id = crypto.randomUUID();
		add([stripOver(shape, id, { x: x - wide / 2, y: y - high / 2, width: wide, height: high })]);
		chosen = id;
	}
	function choose(id: string | null): void {
		keepWords();
		chosen = id;
		const one = marks.find((m) => m.id === id);
		if (one?.kind === 'words') typed = one;
	}

	const ARROWS: Readonly<Record<string, Point>> = {
		ArrowLeft: [-1, 0],
		ArrowRight: [1, 0],
		ArrowUp: [0, -1],
		ArrowDown: [0, 1]
	};
	/** On something in the list: it is moved, made larger or taken off. */
	function key(event: KeyboardEvent, one: Mark): void {
		if (event.ctrlKey || event.metaKey || !shape) return;
		const arrow = ARROWS[event.key];
		if (arrow) {
			const step = (shape.dotsPerInch / 25.4) * (event.shiftKey ? 10 : 1);
			const [x, y] = [arrow[0] * step, arrow[1] * step];
			put(event.altKey ? resizedBy(one, shape, x, y) : movedBy(one, shape, x, y));
		} else if (event.key === 'Delete' || event.key === 'Backspace') takeOff([one.id]);
		else return;
		event.preventDefault();
	}

	const strokes = $derived(marks.filter((m) => m.kind === 'pen' || m.kind === 'marker'));
	const anywhere = $derived(
		store.packet.strip.some((id) => (store.packet.pages[id]?.marks ?? []).some((m) => m.kind !== 'strip'))
	);
</script>

{#if page && known?.problem}
	<NoPage title="This page cannot be made" text={known.problem} />
{:else if page && seen && shape}
	<PageAndSettings>
		{#snippet stage()}
			<ZoomPane
				bind:look
				width={shape.width}
				height={shape.height}
				label="The page. Plus and minus zoom, arrow keys move it, 0 shows all of it, 1 every pixel."
			>
				{#snippet children(transform)}
					<PageLayer {transform} src={seen.view} alt="The page" width={shape.width} height={shape.height}>
						<AddedLayer
							{marks}
							{shape}
							{tool}
							colour={has(tool) ? colours[tool] : 'ink'}
							width={isStroke(tool) ? widths[tool] : 1}
							{chosen}
							{typed}
							{boxes}
							{current}
							onadd={add}
							onchoose={choose}
							onmoved={put}
							onwords={beginWords}
						/>
					</PageLayer>
				{/snippet}
			</ZoomPane>
		{/snippet}
		{#snippet settings()}
			{#if fields.length > 0 && picture}
				<FormFields {fields} {marks} {shape} {picture} page={page.id} bind:current onchange={change} />
			{:else if unread === page.id}
				<p role="alert">
					Whether this worksheet has fields to fill in could not be told.
					<button class="textual" onclick={() => (tries += 1)}>Try again</button>
				</p>
			{/if}
			<div class="tools" role="radiogroup" aria-label="What you do on the page">
				{#each TOOLS as name (name)}
					<label class:on={tool === name}>
						<input
							type="radio"
							name="tool"
							value={name}
							bind:group={tool}
							onchange={() => {
								keepWords();
								if (name !== 'look') chosen = null;
							}}
						/>
						{TOOL_WORDS[name]}
					</label>
				{/each}
			</div>
			<p class="hint">{HINTS[tool]}</p>
			{#if has(tool)}
				{@const kind = tool}
				<fieldset>
					<legend>Colour</legend>
					{#each MARK_COLOURS as name (name)}
						<label class:on={colours[kind] === name}>
							<input
								type="radio"
								name="colour"
								value={name}
								bind:group={colours[kind]}
								onchange={() => {
									if (typed) typed = { ...typed, colour: name };
								}}
							/>
							<span class="ink" style:background="rgb({COLOURS[name].join(' ')})"></span>
							{COLOUR_WORDS[name]}
						</label>
					{/each}
				</fieldset>
			{/if}
			{#if isStroke(tool)}
				{@const kind = tool}
				<fieldset>
					<legend>How broad</legend>
					{#each WIDTHS[kind] as [words, millimetres] (words)}
						<label class:on={widths[kind] === millimetres}>
							<input type="radio" name="width" value={millimetres} bind:group={widths[kind]} />
							{words}
						</label>
					{/each}
				</fieldset>
			{/if}
			{#if tool === 'words' || typed}
				<fieldset>
					<legend>How large</legend>
					{#each SIZES as [words, millimetres] (words)}
						<label class:on={(typed?.size ?? size) === millimetres}>
							<input
								type="radio"
								name="size"
								value={millimetres}
								checked={(typed?.size ?? size) === millimetres}
								onchange={() => {
									size = millimetres;
									if (typed) typed = { ...typed, size: millimetres };
								}}
							/>
							{words}
						</label>
					{/each}
				</fieldset>
				{#if typed}
					<label class="field">
						The words
						<textarea
							bind:this={field}
							rows="3"
							maxlength={MARK_LIMITS.letters}
							value={typed.text}
							oninput={(e) => (typed = { ...typed!, text: e.currentTarget.value })}
							onkeydown={(e) => {
								if (e.key === 'Escape') typed = null;
								if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) keepWords();
							}}
						></textarea>
					</label>
					<div class="row">
						<button
							class="quiet main"
							disabled={typed.text.trim() === ''}
							onclick={keepWords}
							title="Ctrl+Enter">Keep these words</button
						>
						<button class="quiet" onclick={() => (typed = null)}>Leave it</button>
					</div>
				{:else}
					<button class="quiet" onclick={() => beginWords(rounded(toPicture(shape)(middle())))}
						>Begin in the middle of what is shown</button
					>
				{/if}
			{/if}
			{#if tool === 'strip'}
				<button class="quiet" onclick={putStrip}>Put one in the middle of what is shown</button>
			{/if}
			<section aria-label="What was added to this page">
				<h2>Added to this page</h2>
				{#if marks.length === 0}
					<p class="hint">Nothing so far.</p>
				{:else}
					<ul>
						{#each marks as one (one.id)}
							<li class:on={one.id === chosen}>
								<button
									class="textual"
									aria-pressed={one.id === chosen}
									onclick={() => choose(one.id)}
									onkeydown={(e) => key(e, one)}>{nameOf(one)}</button
								>
								<button class="quiet" onclick={() => takeOff([one.id])} aria-label="Take off: {nameOf(one)}"
									>Take off</button
								>
							</li>
						{/each}
					</ul>
					{#if strokes.length > 1}
						<button class="quiet" onclick={() => takeOff(strokes.map((s) => s.id))}
							>Take off all {strokes.length} strokes</button
						>
					{/if}
				{/if}
			</section>
			{#if anywhere}
				<label class="apart">
					<input
						type="checkbox"
						checked={store.packet.notesApart ?? false}
						onchange={(e) => store.edit({ kind: 'setNotesApart', apart: e.currentTarget.checked })}
					/>
					<span
						>In the PDF, strokes and words can still be moved and taken away by whoever opens it. Without this
						they are part of the page.</span
					>
				</label>
			{/if}
		{/snippet}
	</PageAndSettings>
{:else if page}
	<NoPage title="Making the page" text="It shows here as soon as it is made." busy />
{:else}
	<NoPage />
{/if}

<style>
	.tools {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 1px;
		border: 1px solid var(--rule);
		background: var(--rule);
	}
	.tools label {
		background: var(--white);
	}
	.tools label:first-child {
		grid-column: 1 / -1;
	}
	.tools label,
	fieldset label {
		display: flex;
		align-items: center;
		gap: 0.5rem;
		min-height: 2.25rem;
		padding: 0 0.625rem;
		font-size: 0.9375rem;
		cursor: pointer;
	}
	.tools label.on {
		background: var(--selected);
		font-weight: 600;
	}
	input {
		accent-color: var(--violet);
	}
	fieldset {
		display: flex;
		flex-wrap: wrap;
		gap: 0 0.25rem;
		margin: 0;
		padding: 0;
		border: 0;
	}
	legend,
	.field {
		color: var(--ink-soft);
		font-size: 0.8125rem;
	}
	fieldset label {
		min-height: 2rem;
		padding: 0 0.375rem;
		font-size: 0.875rem;
	}
	fieldset label.on {
		font-weight: 600;
	}
	.ink {
		width: 1rem;
		height: 1rem;
		border: 1px solid var(--edge);
		border-radius: 2px;
		forced-color-adjust: none;
	}
	.field {
		display: grid;
		gap: 0.25rem;
	}
	textarea {
		padding: 0.5rem;
		border: 1px solid var(--edge);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 0.9375rem;
		resize: vertical;
	}
	.row {
		display: flex;
		gap: 0.5rem;
	}
	.hint,
	.apart {
		color: var(--ink-soft);
		font-size: 0.875rem;
		line-height: 1.4;
	}
	.apart {
		display: flex;
		gap: 0.5rem;
		align-items: start;
	}
	.apart input {
		margin-top: 0.25rem;
	}
	h2 {
		margin-bottom: 0.25rem;
		font-size: 1rem;
	}
	ul {
		display: grid;
		gap: 1px;
		margin: 0 0 0.5rem;
		padding: 0;
		list-style: none;
	}
	li {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 0.5rem;
		min-height: 2.25rem;
	}
	li .textual {
		overflow-wrap: anywhere;
		text-align: left;
	}
	li.on .textual {
		font-weight: 600;
	}
	@media (max-width: 700px) {
		.tools label,
		fieldset label,
		li {
			min-height: 2.75rem;
		}
	}
</style>
