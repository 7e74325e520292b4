<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { Button, InlineNotification, Search, Select, SelectItem } from 'carbon-components-svelte';
	import { STANDINGS, standingOf, type BoardFilter } from '$lib/core/board/board';
	import { STANDING_WORDS } from '$lib/core/board/boardTable';
	import { formatDue } from '$lib/core/rules/dueTime';
	import { plural } from '$lib/core/rules/finding';
	import BoardTable from '$lib/ui/board/BoardTable.svelte';
	import { BoardStore, EVERYBODY } from '$lib/ui/board/boardStore.svelte';
	import ClassPicture from '$lib/ui/board/ClassPicture.svelte';
	import MoreTime from '$lib/ui/board/MoreTime.svelte';
	import Remind from '$lib/ui/board/Remind.svelte';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import GiveBack from '$lib/ui/returns/GiveBack.svelte';

	let { data } = $props();
	const store = untrack(() => new BoardStore(data.board, data.fileType));
	onMount(() => store.listen());
	const { board } = $derived(store);

	const busy = $derived(store.run !== null && !store.run.isOver);
	let said = $state('');
	let words = $state('');
	$effect(() => {
		store.filter = { ...untrack(() => store.filter), words };
	});
	function showAll(): void {
		words = '';
		store.filter = EVERYBODY;
	}
	function markOnly(students: readonly string[]): void {
		words = '';
		store.markOnly(students);
	}
	let dialog = $state<'remind' | 'time' | 'return' | null>(null);
	const shows = (which: typeof dialog) => ({
		get open() {
			return dialog === which;
		},
		set open(on: boolean) {
			if (on) dialog = which;
			else if (dialog === which) dialog = null;
		}
	});
	const [reminding, timing, returning] = [shows('remind'), shows('time'), shows('return')];

	const counts = $derived(
		STANDINGS.map((standing) => ({
			standing,
			n: board.students.filter((s) => standingOf(s) === standing).length
		})).filter(({ n }) => n > 0)
	);
	const toReturn = $derived(
		store.chosen.flatMap((s) =>
			s.packetId && s.pages > 0
				? [
						{
							packet: s.packetId,
							version: s.version,
							name: `${s.given} ${s.family}`,
							pages: [],
							reasons: (s.summary?.open ?? [])
								.filter((f) => f.level === 'blocks' || store.chosen.length === 1)
								.map(({ message, rule, page, pages }) => ({
									text: message,
									rule,
									...(page ? { page } : {}),
									position: pages[0] ?? null
								}))
						}
					]
				: []
		)
	);
	function done(words: string): void {
		said = words;
		void store.refresh();
	}
</script>

<svelte:head><title>Board · {data.title}</title></svelte:head>
<TopBar>{data.title} · {data.courseCode}</TopBar>
<main>
	<div class="top">
		<h1>Board</h1>
		<p aria-live="polite">
			{counts.map(({ standing, n }) => `${n} ${STANDING_WORDS[standing].toLowerCase()}`).join(', ')}{board.due
				? `. Due ${formatDue(board.due)}.`
				: '.'}
			{#if !store.online}<b>The line is down; this may be old.</b>{/if}
		</p>
		<nav>
			<a class="quiet" href="/assignments/{board.id}">Rule sheet</a>
			<a class="quiet" download href="/api/assignments/{board.id}/board?as=csv">Save as CSV</a>
			<a class="quiet" href="/assignments/{board.id}/bundles">Bundles</a>
			<form method="post" action="/assignments/{board.id}/stack">
				<button class="quiet">{data.hasStack ? 'The class’s stack' : 'Bring in the class’s stack'}</button>
			</form>
		</nav>
	</div>
	{#if board.students.length === 0}
		<p class="none">Nobody is in this course yet. Bring its roster in, and its students stand here.</p>
	{:else}
		{#if board.students.some((s) => s.pages > 0)}<ClassPicture {board} />{/if}
		{#if said}
			<InlineNotification kind="success" lowContrast title={said} on:close={() => (said = '')} />
		{/if}
		{#if store.run}
			<InlineNotification
				kind={store.run.problems.length > 0 ? 'warning' : store.run.isOver ? 'success' : 'info'}
				lowContrast
				title={store.run.isOver
					? `${store.run.what}: ${store.run.of - store.run.problems.length} of ${store.run.of}.`
					: `${store.run.what}: ${store.run.done} of ${store.run.of} …`}
				subtitle={store.run.problems.join(' ')}
				on:close={() => (store.run = null)}
			/>
		{/if}
		{#if store.chosen.length === 0 && !busy}
			{@const { place, handIn } = store.next}
			{#if place.length > 0}
				<p class="next">
					{plural(place.length, 'packet')}
					{place.length === 1 ? 'carries' : 'carry'} questions that were read off the pages, and that nobody has
					placed there yet.
					{@render mark(place)}
				</p>
			{/if}
			{#if handIn.length > 0}
				<p class="next">
					{plural(handIn.length, 'packet')}
					{handIn.length === 1 ? 'is' : 'are'} ready to be handed in.
					{@render mark(handIn)}
				</p>
			{/if}
		{/if}
		<div class="bar">
			{#if store.chosen.length > 0}
				<b>{plural(store.chosen.length, 'student')} marked</b>
				{#if store.unplaced.length > 0}
					<Button size="field" disabled={busy} on:click={() => store.takeRead()}
						>Place what was read ({store.unplaced.length})</Button
					>
				{/if}
				<Button
					size="field"
					kind={store.ready.length > 0 ? 'primary' : 'tertiary'}
					disabled={store.ready.length === 0 || busy}
					on:click={() => store.handIn()}
					>{store.ready.length === 0
						? 'Hand in what is ready'
						: store.ready.length === 1
							? 'Hand in the one that is ready'
							: `Hand in the ${store.ready.length} that are ready`}</Button
				>
				<Button size="field" kind="tertiary" on:click={() => (dialog = 'remind')}>Remind …</Button>
				<Button
					size="field"
					kind="tertiary"
					disabled={toReturn.length === 0}
					on:click={() => (dialog = 'return')}>Give back …</Button
				>
				<Button size="field" kind="tertiary" disabled={!board.due} on:click={() => (dialog = 'time')}
					>More time …</Button
				>
				<button class="textual" onclick={() => store.markAll(false)}>Mark nobody</button>
			{:else}
				<div class="find">
					<Search size="lg" labelText="Find a student" placeholder="Find a student" bind:value={words} />
				</div>
				<Select
					inline
					labelText="Who"
					selected={store.filter.standing}
					on:update={(e) =>
						(store.filter = { ...store.filter, standing: e.detail as BoardFilter['standing'] })}
				>
					<SelectItem value="any" text="everybody" />
					{#each STANDINGS as standing (standing)}<SelectItem
							value={standing}
							text={STANDING_WORDS[standing].toLowerCase()}
						/>{/each}
					<SelectItem value="late" text="late" />
				</Select>
				<Select
					inline
					labelText="Reads badly"
					selected={store.filter.unreadable ?? ''}
					on:update={(e) => (store.filter = { ...store.filter, unreadable: String(e.detail) || null })}
				>
					<SelectItem value="" text="any question" />
					{#each board.questions as question (question)}<SelectItem
							value={question}
							text="question {question}"
						/>{/each}
				</Select>
			{/if}
		</div>
		{#if store.shown.length > 0}
			<BoardTable {store} since={data.lookedAt} />
		{:else}
			<p class="none">
				Nobody fits. <button class="textual" onclick={showAll}>Show everybody</button>
			</p>
		{/if}
	{/if}
</main>

{#snippet mark(students: readonly string[])}
	<button class="textual" onclick={() => markOnly(students)}
		>{students.length === 1 ? 'Mark it' : 'Mark them'}</button
	>
{/snippet}

<Remind bind:open={reminding.open} assignment={board.id} people={store.chosen} ondone={done} />
{#if board.due}
	<MoreTime
		bind:open={timing.open}
		assignment={board.id}
		due={board.due}
		people={store.chosen}
		ondone={() => done('They have more time now.')}
	/>
{/if}
<GiveBack bind:open={returning.open} packets={toReturn} ondone={done} />

<style>
	main {
		max-width: 100rem;
		margin: 0 auto;
		padding: 1.5rem;
	}
	.top {
		display: flex;
		flex-wrap: wrap;
		align-items: baseline;
		gap: 0.5rem 1.25rem;
		margin-bottom: 1rem;
	}
	.top p {
		flex: 1;
		min-width: min(16rem, 100%);
		color: var(--ink-soft);
	}
	nav {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem;
	}
	h1 {
		font-size: 2.25rem;
		font-weight: 400;
	}
	.next {
		margin-bottom: 0.25rem;
	}
	.bar {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.75rem;
		min-height: 3rem;
		margin-bottom: 0.75rem;
	}
	.bar b {
		font-weight: 600;
	}
	.find {
		width: min(20rem, 100%);
	}
	.bar :global(.bx--form-item:has(.bx--select--inline)) {
		flex: none;
	}
	.bar :global(.bx--select--inline) {
		max-width: 18rem;
	}
	.none {
		padding: 3rem 0;
		color: var(--ink-soft);
		text-align: center;
	}
</style>
