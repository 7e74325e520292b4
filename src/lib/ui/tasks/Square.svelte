<script lang="ts">
	import { chosenFiles } from '$lib/ui/frame/chosenFiles';
	import { onDestroy } from 'svelte';
	import { Camera as CameraIcon, RotateClockwise, RotateCounterclockwise } from 'carbon-icons-svelte';
	import { flattenedAlong, foundTurn, SURE_TURN, turnOf } from '$lib/core/page/effective';
	import { degreesOf } from '$lib/core/sheet/askew';
	import { sagOf } from '$lib/core/sheet/bend';
	import { LEAST_SAG } from '$lib/core/sheet/findBend';
	import { foldSide, splitInMiddle } from '$lib/core/sheet/fold';
	import { distance, wholePicture, type Quadrilateral } from '$lib/core/sheet/geometry';
	import { addTurns, type Turn } from '$lib/core/sheet/turn';
	import { otherHalf, positionOf } from '$lib/core/packet/packet';
	import type { Change } from '$lib/core/packet/change';
	import { PagePreview, type Preview } from '$lib/workers/pagePreview';
	import LevelMark from '../theme/LevelMark.svelte';
	import OutlineEditor from '../page/OutlineEditor.svelte';
	import LaidOver from '../page/LaidOver.svelte';
	import PageCanvas from '../page/PageCanvas.svelte';
	import { page as route } from '$app/state';
	import Camera from '../camera/Camera.svelte';
	import { openStandIn } from '../camera/standIn';
	import { usePacket, useUploads } from '../packet/context';
	import { newKey } from '../packet/unsent';
	import EarlierPictures from './EarlierPictures.svelte';
	import NoPage from './NoPage.svelte';

	const store = usePacket();
	const uploads = useUploads();
	/** What is shown: both beside each other, either with all the room, or one over the other. */
	let sees = $state<'both' | 'picture' | 'page' | 'over'>('both');
	let opener: HTMLElement | undefined = $state();
	let menu: HTMLElement | undefined = $state();
	/** The menu stands above its button, and goes when something in it was chosen. */
	function placeMenu(): void {
		if (!menu || !opener) return;
		const { left, top } = opener.getBoundingClientRect();
		menu.style.left = `${left}px`;
		menu.style.top = `${top - menu.offsetHeight - 4}px`;
	}
	/** The page that is being photographed again. */
	let again = $state<string | null>(null);
	let input: HTMLInputElement | undefined = $state();
	const previews = new PagePreview();
	/** A worker of its own: where a side settles is not to wait for a preview. */
	const snaps = new PagePreview();
	const befores = new PagePreview();
	onDestroy(() => {
		previews.close();
		snaps.close();
		befores.close();
	});

	const page = $derived(store.current ? store.packet.pages[store.current] : undefined);
	const known = $derived(page && store.view.pages[page.id]);
	const picture = $derived(known?.picture ?? null);
	const src = $derived(page ? store.image(page.id, 'source') : null);

	/** Corners under the pointer, before they are let go. */
	let moving = $state.raw<{ page: string; corners: Quadrilateral } | null>(null);
	const corners = $derived(
		page && picture ? (moving?.page === page.id ? moving.corners : flattenedAlong(page, picture)) : null
	);
	const turn = $derived(page && picture ? turnOf(page, picture) : 0);
	const tone = $derived(page?.tone ?? store.usualTone);

	let preview = $state.raw<Preview | null>(null);
	let shown = $state<string | null>(null);
	const image = $derived(shown === page?.id ? (preview?.image ?? null) : null);
	$effect(() => {
		if (!page || !picture || !src || !corners) return;
		const id = page.id;
		void previews
			.show({
				url: src,
				pictureWidth: picture.width,
				corners,
				turn,
				// Not while a corner is dragged: it takes too long.
				level: !moving && page.level !== false,
				tone,
				longest: moving ? 700 : 1100
			})
			.then((done) => {
				if (done) {
					preview = done;
					shown = id;
				}
			});
	});
	/** The page as photographed, to be laid over. */
	let before = $state.raw<ImageData | null>(null);
	$effect(() => {
		before = null;
		if (sees !== 'over' || !page || !picture || !src || !corners) return;
		const level = page.level !== false;
		const wish = { url: src, pictureWidth: picture.width, corners, turn, level, tone: null, longest: 1100 };
		void befores.show(wish).then((done) => {
			if (done) before = done.image;
		});
	});

	const stacked = $derived(
		picture && (picture.spread ?? splitInMiddle(picture.outline.corners, picture)).stacked
	);
	const fold = $derived(page?.half === undefined || stacked === null ? null : foldSide(page.half, stacked));

	/** What was done about lines that bend. */
	const bend = $derived(page?.level === false ? null : (known?.prepared?.bend ?? null));
	const position = $derived(page ? positionOf(store.packet, page.id) : null);
	const found = $derived(picture?.outline);
	/** Where the sheet may lie, as long as nobody has said where it does. */
	const perhaps = $derived(
		page && !page.corners && page.half === undefined ? (found?.perhaps ?? null) : null
	);
	const isAll = ([[x, y], , [right, bottom]]: Quadrilateral) =>
		x < 1 && y < 1 && right > picture!.width - 1 && bottom > picture!.height - 1;
	const remark = $derived.by(() => {
		if (!page || !found) return '';
		if (page.corners) return 'Corners set by hand.';
		if (page.half !== undefined && !picture?.spread)
			return 'Cut through the middle. Drag the fold to where it is.';
		if (page.half !== undefined) return 'One page of an open notebook. Drag the fold if it is off.';
		if (found.kind === 'whole') {
			const isScan = found.confidence >= 0.5;
			const leaned = picture?.straight
				? ` Its lines leaned by ${Math.abs(degreesOf(picture.straight)).toFixed(1)} degrees and are made level.`
				: '';
			if (isScan) {
				const all = isAll(found.corners) ? 'the whole picture' : 'all of the picture within its black margin';
				return `A scan: ${all} is the page.${leaned}`;
			}
			const otherwise = perhaps ? 'The dashed line may be it.' : 'Drag the corners to the sheet.';
			return `No sheet was made out for certain, so the whole picture is kept.${leaned} ${otherwise}`;
		}
		if (found.cutOff.length > 0) return `The sheet runs out of the picture: ${found.cutOff.join(', ')}.`;
		return `Sheet found, ${Math.round(found.confidence * 100)} % sure.`;
	});

	/** What the writing says of the turn in force, when a person should look. */
	const doubt = $derived.by((): { text: string; turn: Turn | null } | null => {
		if (!page || !picture || known?.prepared?.blank) return null;
		const read = foundTurn(picture);
		if (page.turn !== null) {
			return read.confidence >= 0.5 && read.turn !== page.turn
				? { text: 'By its writing this page lies another way up.', turn: read.turn }
				: null;
		}
		return read.confidence < SURE_TURN
			? { text: 'The writing does not tell which way is up.', turn: null }
			: null;
	});

	/** Sets the corners; those on the fold go for both pages of the picture. */
	async function set(next: Quadrilateral, moved?: readonly number[]): Promise<void> {
		if (!page || !picture || !src) return;
		const target = page;
		let placed = next;
		if (moved) {
			const fixed = [0, 1, 2, 3].map((side) => side === fold || !moved.includes(side));
			placed = await snaps.snap({ url: src, pictureWidth: picture.width, corners: next, fixed });
		}
		moving = null;
		// Whatever was done to the page meanwhile came later than this.
		if (JSON.stringify(store.packet.pages[target.id]) !== JSON.stringify(target)) return;
		const changes: Change[] = [{ kind: 'setCorners', page: target.id, corners: placed }];
		const other = otherHalf(store.packet, target);
		if (other && fold !== null) {
			const before = flattenedAlong(target, picture);
			const theirs = flattenedAlong(other, picture);
			const shared = [fold, (fold + 1) % 4].filter((i) => distance(before[i]!, placed[i]!) > 0.01);
			const follow = theirs.map((corner) => {
				const i = shared.find((k) => distance(before[k]!, corner) < 2);
				return i === undefined ? corner : placed[i]!;
			}) as unknown as Quadrilateral;
			if (follow.some((c, i) => c !== theirs[i])) {
				changes.push({ kind: 'setCorners', page: other.id, corners: follow });
			}
		}
		store.edit(changes.length === 1 ? changes[0]! : { kind: 'together', changes });
	}
	function turnBy(degrees: number): void {
		if (page) store.edit({ kind: 'setTurn', page: page.id, turn: addTurns(turn, degrees) });
	}
	/** Turns this page and every page after it. */
	function turnRest(degrees: number): void {
		if (!position) return;
		const changes = store.packet.strip.slice(position - 1).flatMap((id): Change[] => {
			const facts = store.view.pages[id]?.picture;
			if (!facts) return [];
			return [{ kind: 'setTurn', page: id, turn: addTurns(turnOf(store.packet.pages[id]!, facts), degrees) }];
		});
		store.edit({ kind: 'together', changes });
	}
	function setLevel(level: boolean): void {
		if (page) store.edit({ kind: 'setLevel', page: page.id, level });
	}
	function twoPages(): void {
		if (page)
			store.edit({
				kind: 'split',
				page: page.id,
				first: 0,
				second: `${page.id.slice(0, 50)}-${newKey().slice(0, 8)}`
			});
	}
	function setAside(): void {
		if (page) {
			const to = { on: 'tray', index: store.packet.tray.length, reason: 'extra' } as const;
			store.edit({ kind: 'place', page: page.id, to });
		}
	}
	function key(event: KeyboardEvent): void {
		const target = event.target as HTMLElement;
		if (event.ctrlKey || event.metaKey || target.matches('input, select, textarea')) return;
		if (event.altKey) {
			if (event.code !== 'KeyT') return;
			event.preventDefault();
			turnRest(90);
		} else if (event.key === 't') turnBy(90);
		else if (event.key === 'T') turnBy(270);
	}
</script>

<svelte:window onkeydown={key} />

{#if page && known?.problem}
	<NoPage title="This page cannot be made" text={known.problem} />
{:else if page && picture && src && corners}
	<div class="square {sees}">
		<figure class="source">
			<div class="stage">
				<OutlineEditor
					{src}
					width={picture.width}
					height={picture.height}
					{corners}
					onmove={(next) => (moving = { page: page.id, corners: next })}
					onset={(next, moved) => void set(next, moved)}
					{fold}
					{perhaps}
				/>
			</div>
			<figcaption>
				<strong>{known?.sourceName}</strong>
				{#if page.sourcePage > 0}page {page.sourcePage + 1}{/if}
				<span>{remark}</span>
				{#if perhaps}
					<button class="textual" onclick={() => void set(perhaps)}>Take the dashed line</button>
				{/if}
			</figcaption>
		</figure>
		<figure class="result">
			<div class="stage">
				{#if sees === 'over'}
					<LaidOver {image} {before} label="The page as it will be" />
				{:else}
					<PageCanvas {image} label="The page as it will be" />
				{/if}
			</div>
			<figcaption>
				<strong>{position ? `Page ${position}` : 'In the side tray'}</strong>
				<span>{preview?.paper ?? 'no known size'}, turned {turn}°</span>
				{#if bend}
					<span
						>{sagOf(bend) > LEAST_SAG ? 'The sheet is bent: its lines' : 'Its lines lean: they'} are made level.</span
					>
					<button class="textual" onclick={() => setLevel(false)}>Leave them as photographed</button>
				{:else if page.level === false}
					<span>Lines are left as photographed.</span>
					<button class="textual" onclick={() => setLevel(true)}>Make them level</button>
				{/if}
				{#if doubt}
					<span class="doubt" role="status"><LevelMark level="look" size={14} />{doubt.text}</span>
					<button
						class="textual"
						onclick={() => store.edit({ kind: 'setTurn', page: page.id, turn: doubt.turn ?? turn })}
						>{doubt.turn === null ? 'It is upright' : 'Turn it upright'}</button
					>
				{/if}
			</figcaption>
		</figure>
		<div class="tools" role="toolbar" aria-label="Square">
			<div class="group">
				<button class="quiet" onclick={() => turnBy(270)} title="Shift+T"
					><RotateCounterclockwise /> Turn left</button
				>
				<button class="quiet" onclick={() => turnBy(90)} title="t"><RotateClockwise /> Turn right</button>
			</div>
			<div class="group">
				<button
					class="quiet"
					disabled={!page.corners && page.turn === null && page.level !== false}
					onclick={() =>
						store.edit({
							kind: 'together',
							changes: [
								{ kind: 'setCorners', page: page.id, corners: null },
								{ kind: 'setTurn', page: page.id, turn: null },
								...(page.level === false ? [{ kind: 'setLevel', page: page.id, level: true } as const] : [])
							]
						})}>As found</button
				>
				<button class="quiet" onclick={() => void set(wholePicture(picture.width, picture.height))}
					>Whole picture</button
				>
			</div>
			<button class="quiet" onclick={() => (again = page.id)}><CameraIcon /> Photograph again</button>
			<div class="more">
				<button class="quiet" popovertarget="square-more" bind:this={opener}>More …</button>
				<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
				<div
					id="square-more"
					popover="auto"
					bind:this={menu}
					ontoggle={placeMenu}
					onclick={() => menu?.hidePopover()}
				>
					<button
						disabled={!position || position === store.packet.strip.length}
						onclick={() => turnRest(90)}
						title="Alt+T">Turn this and all after</button
					>
					{#if page.half === undefined}
						<button disabled={!position} onclick={twoPages}>Make two pages</button>
					{:else}
						<button onclick={() => store.edit({ kind: 'join', page: page.id })}>Join the two pages</button>
					{/if}
					<button onclick={() => input?.click()}>Another picture here</button>
					<button disabled={!position} onclick={setAside}>Set aside</button>
				</div>
			</div>
			<EarlierPictures {page} />
			<div class="group shown" role="group" aria-label="What is shown">
				{#each [['both', 'Both'], ['picture', 'Picture'], ['page', 'Page'], ['over', 'Laid over']] as const as [way, words] (way)}
					<button class="quiet" aria-pressed={sees === way} onclick={() => (sees = way)}>{words}</button>
				{/each}
			</div>
			<input
				bind:this={input}
				type="file"
				class="out-of-sight"
				aria-label="Another picture in its place"
				tabindex="-1"
				accept="image/*,application/pdf,.heic,.tif,.tiff"
				{@attach chosenFiles((files) => uploads.add(files, { replaces: page.id }))}
			/>
			<p>
				{#if sees === 'over'}
					Draw the edge across, or move it with the arrow keys: left of it the page is as photographed.
				{:else if sees !== 'page'}
					Drag a corner, a side or the whole sheet; sides settle on an edge close by, unless Alt is held. With
					the keyboard: Tab to a corner, arrow keys move it.
				{/if}
			</p>
		</div>
	</div>
{:else if page}
	<NoPage
		title="Looking at the picture"
		text="The sheet is being found, and then shows here by itself."
		busy
	/>
{:else}
	<NoPage />
{/if}

{#if again}
	<Camera
		{uploads}
		standIn={route.data.demo ? openStandIn : null}
		retake={again}
		onclose={() => (again = null)}
	/>
{/if}

<style>
	.square {
		display: grid;
		grid-template: 1fr auto / minmax(0, 1.25fr) minmax(0, 1fr);
		gap: 0.75rem 1rem;
		height: 100%;
		padding: 1rem;
		box-sizing: border-box;
	}
	figure {
		display: flex;
		flex-direction: column;
		gap: 0.5rem;
		min-height: 0;
		margin: 0;
	}
	.stage {
		flex: 1;
		min-height: 0;
	}
	.source .stage {
		background: var(--rule);
	}
	.result .stage {
		display: grid;
		place-items: center;
		grid-template: minmax(0, 1fr) / minmax(0, 1fr);
	}
	figcaption {
		display: flex;
		flex-wrap: wrap;
		gap: 0.25rem 0.75rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
		overflow-wrap: anywhere;
	}
	figcaption strong {
		color: var(--ink);
	}
	.doubt {
		display: inline-flex;
		align-items: center;
		gap: 0.25rem;
		color: var(--ink);
	}
	.tools {
		grid-column: 1 / -1;
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.5rem;
	}
	.group {
		display: flex;
	}
	.group .quiet + .quiet {
		margin-left: -1px;
	}
	.shown {
		margin-left: auto;
	}
	.picture .result,
	.over .source,
	.page .source {
		display: none;
	}
	.picture,
	.over,
	.page {
		grid-template-columns: minmax(0, 1fr);
	}
	[popover] {
		position: fixed;
		inset: auto;
		margin: 0;
		padding: 0.25rem 0;
		border: 1px solid var(--ink-soft);
		background: var(--white);
		box-shadow: 0 4px 12px rgb(42 31 61 / 0.2);
	}
	[popover] button {
		display: block;
		width: 100%;
		padding: 0.5rem 1rem;
		border: 0;
		background: none;
		color: var(--ink);
		font: inherit;
		font-size: 0.9375rem;
		text-align: left;
		cursor: pointer;
	}
	[popover] button:hover:not(:disabled) {
		background: var(--selected);
	}
	[popover] button:disabled {
		color: var(--edge);
	}
	.tools p {
		flex-basis: 100%;
		color: var(--ink-soft);
		font-size: 0.8125rem;
	}
	@media (max-width: 700px) {
		.square {
			grid-template: minmax(16rem, 1fr) minmax(16rem, 1fr) auto / minmax(0, 1fr);
			height: auto;
		}
		.stage {
			min-height: 20rem;
			height: 20rem;
		}
	}
</style>
