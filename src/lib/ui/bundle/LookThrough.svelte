<script lang="ts">
	import { onMount } from 'svelte';
	import { Button } from 'carbon-components-svelte';
	import { plural } from '$lib/core/rules/finding';
	import type { PageToLookThrough } from '$lib/server/store/bundles';
	import { post } from '../packet/ask';

	// The pages on which it is not sure that every name is hidden, one after another. What is covered here is taken off the
	// page for good when the bundle is made.
	interface Props {
		bundle: string;
		onclose: () => void;
	}
	let { bundle, onclose }: Props = $props();
	type Box = [number, number, number, number];

	let pages = $state.raw<PageToLookThrough[] | null>(null);
	let at = $state(0);
	let boxes = $state<Box[]>([]);
	let drawn = $state<Box | null>(null);
	let problem = $state('');
	let busy = $state(false);
	let sheet: HTMLElement | undefined = $state();
	let dialog: HTMLDialogElement | undefined = $state();
	const page = $derived(pages?.[at] ?? null);
	const isAlike = (a: readonly number[], b: readonly number[]) =>
		Math.min(a[2]!, b[2]!) > Math.max(a[0]!, b[0]!) && Math.min(a[3]!, b[3]!) > Math.max(a[1]!, b[1]!);
	const holds = (box: readonly number[], [x0, y0, x1, y1]: readonly number[]) =>
		box[0]! <= x0! && box[1]! <= y0! && box[2]! >= x1! && box[3]! >= y1!;
	/** What may be a name and is not covered as a whole. */
	const open = $derived((page?.doubtful ?? []).filter((place) => !boxes.some((box) => holds(box, place))));
	const BECAUSE: Record<string, string> = {
		'not-read': 'This page was not read.',
		'perhaps-a-name': 'Something here may be a name.',
		'no-name-found': 'On the other pages there is a name; here none was found.'
	};

	onMount(async () => {
		dialog?.showModal();
		const response = await fetch(`/api/bundles/${bundle}/look`).catch(() => null);
		if (!response?.ok) return void (problem = 'The pages could not be fetched. Close this and try again.');
		pages = (await response.json()) as PageToLookThrough[];
		show(0);
		if (pages.length === 0) onclose();
	});

	function show(index: number): void {
		at = index;
		boxes = (pages?.[index]?.boxes ?? []).map((b) => [...b] as unknown as Box);
	}

	async function confirm(): Promise<void> {
		if (!page || busy) return;
		busy = true;
		problem = '';
		const { packetId, pageId, key } = page;
		const response = await fetch(
			`/api/bundles/${bundle}/look`,
			post({ packet: packetId, page: pageId, key, boxes })
		).catch(() => null);
		busy = false;
		if (!response?.ok) {
			const { message } = (await response?.json().catch(() => ({}))) ?? {};
			problem = message ?? 'The line is down. Nothing is lost; try again when it is back.';
		} else if (at + 1 < pages!.length) show(at + 1);
		else onclose();
	}

	function place(event: PointerEvent): [number, number] {
		const { left, top, width, height } = sheet!.getBoundingClientRect();
		const within = (value: number) => Math.min(1, Math.max(0, value));
		return [within((event.clientX - left) / width), within((event.clientY - top) / height)];
	}
	let from: [number, number] | null = null;
	function begin(event: PointerEvent): void {
		if (event.button !== 0 || (event.target as HTMLElement).closest('button')) return;
		from = place(event);
		sheet!.setPointerCapture(event.pointerId);
	}
	function move(event: PointerEvent): void {
		if (!from) return;
		const [x, y] = place(event);
		drawn = [Math.min(x, from[0]), Math.min(y, from[1]), Math.max(x, from[0]), Math.max(y, from[1])];
	}
	function end(): void {
		if (drawn && drawn[2] - drawn[0] > 0.01 && drawn[3] - drawn[1] > 0.005) boxes.push(drawn);
		from = drawn = null;
	}
	/** Brings what is to be looked at into sight: on a wide screen a page is far higher than that. */
	function showDoubt(picture: HTMLImageElement): void {
		const first = page?.doubtful.toSorted((a, b) => a[1] - b[1])[0];
		const scroll = picture.closest('.scroll');
		if (first && scroll) scroll.scrollTop = first[1] * picture.height - 0.35 * scroll.clientHeight;
	}
	/** Above everything that is read as work. */
	function coverTop(): void {
		boxes.push([0, 0, 1, 0.075]);
	}

	function key(event: KeyboardEvent): void {
		if (event.key === 'Enter' && !(event.target as HTMLElement).closest('button')) {
			event.preventDefault();
			void confirm();
		}
		if (event.key === 'h') coverTop();
	}
	const percent = (value: number) => `${100 * value}%`;
</script>

<svelte:window onkeydown={key} />
<dialog bind:this={dialog} aria-labelledby="look-title" onclose={() => onclose()}>
	<header>
		<div>
			<h2 id="look-title">Is every name covered?</h2>
			<p aria-live="polite">
				{#if page}
					{at + 1} of {plural(pages!.length, 'page')} · {page.code} · {BECAUSE[page.look ?? ''] ?? ''}
				{:else if !problem}Fetching the pages …{/if}
			</p>
		</div>
		<div class="actions">
			<button class="quiet" onclick={coverTop} title="h">Cover the top of the page</button>
			{#if at > 0}<button class="quiet" onclick={() => show(at - 1)}>The page before</button>{/if}
			<Button size="field" disabled={!page || busy} on:click={confirm}>Every name is covered</Button>
			<button class="quiet" onclick={() => dialog?.close()}>Leave</button>
		</div>
	</header>
	{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
	{#if page}
		<!-- It scrolls, so the keyboard has to reach it. -->
		<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
		<div class="scroll" role="region" aria-label="The page" tabindex="0">
			<!-- svelte-ignore a11y_no_static_element_interactions -->
			<div
				class="sheet"
				bind:this={sheet}
				onpointerdown={begin}
				onpointermove={move}
				onpointerup={end}
				onpointercancel={end}
			>
				<img
					src="/api/packets/{page.packetId}/pictures/{page.key}/view"
					alt="Page of {page.code}"
					draggable="false"
					onload={(event) => showDoubt(event.currentTarget as HTMLImageElement)}
				/>
				{#each drawn ? [...boxes, drawn] : boxes as box, i (i)}
					<button
						class="cover"
						class:doubtful={page.doubtful.some((place) => isAlike(place, box))}
						style:left={percent(box[0])}
						style:top={percent(box[1])}
						style:width={percent(box[2] - box[0])}
						style:height={percent(box[3] - box[1])}
						aria-label="Covered place {i + 1}: press to uncover it"
						title="Uncover this"
						onclick={() => boxes.splice(i, 1)}
					></button>
				{/each}
				{#each open as place, i (i)}
					<button
						class="perhaps"
						style:left={percent(place[0])}
						style:top={percent(place[1])}
						style:width={percent(place[2] - place[0])}
						style:height={percent(place[3] - place[1])}
						aria-label="Perhaps a name: press to cover it"
						title="Cover this"
						onclick={() => boxes.push([...place])}
					></button>
				{/each}
			</div>
		</div>
		<p class="hint">
			{#if page.doubtful.length > 0}Dashed: perhaps a name, perhaps not.{/if}
			Draw over what is to be covered; press a place to cover or uncover it; Enter goes on.
		</p>
	{/if}
</dialog>

<style>
	dialog {
		display: flex;
		flex-direction: column;
		width: min(64rem, 96vw);
		height: 94vh;
		max-height: none;
		padding: 0;
		border: 1px solid var(--ink-soft);
		background: var(--paper);
		color: var(--ink);
	}
	dialog:not([open]) {
		display: none;
	}
	dialog::backdrop {
		background: rgb(42 31 61 / 0.5);
	}
	header {
		display: flex;
		flex-wrap: wrap;
		gap: 0.75rem 1.5rem;
		align-items: center;
		justify-content: space-between;
		padding: 1rem 1.25rem;
		border-bottom: 1px solid var(--rule);
	}
	h2 {
		font-size: 1.375rem;
		font-weight: 400;
	}
	header p,
	.hint {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.actions {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem;
		align-items: center;
	}
	.scroll {
		flex: 1;
		min-height: 0;
		overflow: auto;
		padding: 1rem 1.25rem;
		background: var(--table);
	}
	.sheet {
		position: relative;
		cursor: crosshair;
		touch-action: pan-y;
		user-select: none;
	}
	img {
		display: block;
		width: 100%;
		background: var(--white);
	}
	.cover,
	.perhaps {
		position: absolute;
		padding: 0;
		border: 0;
		background: transparent;
		cursor: pointer;
	}
	.cover {
		border: 2px solid var(--violet);
		background: rgb(107 63 160 / 0.28);
	}
	.cover.doubtful,
	.perhaps {
		outline: 3px dashed var(--ochre-fill);
		outline-offset: 2px;
	}
	.cover:hover {
		background: rgb(107 63 160 / 0.12);
	}
	.hint {
		padding: 0.5rem 1.25rem;
	}
	.problem {
		padding: 0.5rem 1.25rem;
		color: var(--brick);
	}
</style>
