<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { page } from '$app/state';
	import { TASKS, type Task } from '$lib/core/rules/finding';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import { setPacket, setUploads } from '$lib/ui/packet/context';
	import { PacketStore } from '$lib/ui/packet/packetStore.svelte';
	import Troubles from '$lib/ui/packet/Troubles.svelte';
	import { UploadList } from '$lib/ui/packet/uploads.svelte';
	import CutOuts from '$lib/ui/rules/CutOuts.svelte';
	import NextStep from '$lib/ui/rules/NextStep.svelte';
	import RuleSheetPanel from '$lib/ui/rules/RuleSheetPanel.svelte';
	import GiveBackHere from '$lib/ui/returns/GiveBackHere.svelte';
	import Returned from '$lib/ui/returns/Returned.svelte';
	import Strip from '$lib/ui/strip/Strip.svelte';
	import StripHandle from '$lib/ui/strip/StripHandle.svelte';
	import LevelMark from '$lib/ui/theme/LevelMark.svelte';
	import TourBar from '$lib/ui/tour/TourBar.svelte';
	import { aboutMore } from '$lib/ui/packet/pace';
	import { layout } from '$lib/ui/frame/layout.svelte';
	import Countdown from '$lib/ui/frame/Countdown.svelte';
	import FindWords from '$lib/ui/frame/FindWords.svelte';
	import Keys from '$lib/ui/frame/Keys.svelte';
	import Notices from '$lib/ui/frame/Notices.svelte';
	import PacketLog from '$lib/ui/frame/PacketLog.svelte';

	let { data, children } = $props();
	const store = untrack(() => new PacketStore(data.view, data.reads));
	const uploads = untrack(() => new UploadList(data.view.id, () => store.refresh()));
	setPacket(store);
	setUploads(uploads);
	onMount(() => store.listen());
	onMount(() => uploads.begin());
	/** Links lead to a page. */
	$effect(() => {
		const wanted = page.url.searchParams.get('page');
		if (wanted && untrack(() => store.packet.pages[wanted])) store.current = wanted;
	});

	/** Files dropped anywhere are taken, not opened by the browser in place of this page. */
	function drop(event: DragEvent): void {
		event.preventDefault();
		const files = event.dataTransfer?.files;
		if (files && files.length > 0) uploads.add(files);
	}

	const WORDS: Record<Task, string> = {
		gather: 'Gather',
		square: 'Square',
		tone: 'Tone',
		write: 'Write',
		order: 'Order',
		map: 'Map',
		name: 'Name',
		'hand-in': 'Hand in'
	};
	/** On a phone these are the way; the others are behind one more tap. */
	const USUAL: readonly Task[] = ['gather', 'square', 'hand-in'];
	let allTasks = $state(false);
	const task = $derived(page.params.task as Task);
	let panel = $state<'rules' | 'cut-outs'>('rules');
	let keysOpen = $state(false);
	let logOpen = $state(false);
	let findOpen = $state(false);

	/** A column holds an upright page; its tracks need some width. */
	const columnFor = (tall: number) => Math.max(88, Math.round(0.75 * tall) + 28);

	const saved = $derived(
		!store.online || (!uploads.lineUp && uploads.open > 0)
			? 'Line is down; work is kept here'
			: store.waiting > 0
				? 'Saving …'
				: uploads.open > 0
					? `Sending ${uploads.open} ${uploads.open === 1 ? 'file' : 'files'}`
					: store.preparing > 0
						? `Preparing ${store.preparing} of ${store.packet.strip.length}${store.moreTime ? `, ${aboutMore(store.moreTime)}` : ''}`
						: store.unread > 0
							? `All saved · reading ${store.readingAt}`
							: 'All saved'
	);

	function key(event: KeyboardEvent): void {
		const target = event.target as HTMLElement;
		if (target.matches('input:not([type=range]):not([type=checkbox]), select, textarea')) return;
		if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
			event.preventDefault();
			if (event.shiftKey) store.redo();
			else store.undo();
		} else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'y') {
			event.preventDefault();
			store.redo();
		} else if (event.ctrlKey || event.metaKey || event.altKey) return;
		else if (event.key === '?') keysOpen = true;
		else if (event.key === 'p') layout.pageOnly = !layout.pageOnly;
		else if (event.key === 'Escape' && layout.pageOnly) layout.pageOnly = false;
		else if (event.key === 'b') layout.folded = !layout.folded;
		else if (event.key === '/') {
			event.preventDefault();
			findOpen = true;
		} else if (event.key === 'PageDown' || event.key === 'PageUp') {
			const i = store.packet.strip.indexOf(store.current ?? '');
			const next = store.packet.strip[i + (event.key === 'PageDown' ? 1 : -1)];
			if (next) {
				event.preventDefault();
				store.current = next;
			}
		}
	}
</script>

<svelte:head><title>{WORDS[task]} · {store.sheet.title}</title></svelte:head>
<svelte:window
	onkeydown={key}
	ondragover={(e) => {
		if (e.dataTransfer?.types.includes('Files')) e.preventDefault();
	}}
	ondrop={drop}
	onbeforeunload={(e) => {
		if (uploads.open > 0) e.preventDefault();
	}}
/>

<div class="workspace" class:folded={layout.folded} class:page-only={layout.pageOnly}>
	<TopBar>
		<span class="title">
			<h1 title={store.sheet.title}>{store.sheet.title}</h1>
			<!-- One's own name stands at the right already. -->
			<span
				>{store.view.assignment.courseCode}{store.view.as === 'owner'
					? ''
					: ` · ${store.view.owner.given} ${store.view.owner.family}`}</span
			>
		</span>
		{#if store.view.phone}
			<span class="phone" class:on={store.view.phone.connected > 0}>
				{store.view.phone.connected > 0 ? 'Phone connected' : 'Phone link open'}
			</span>
		{/if}
		<span class="saved" class:down={!store.online || !uploads.lineUp} aria-live="polite">{saved}</span>
		<button class="bar" disabled={!store.canUndo} onclick={() => store.undo()} title="Ctrl+Z">Undo</button>
		<button class="bar" disabled={!store.canRedo} onclick={() => store.redo()} title="Ctrl+Shift+Z"
			>Redo</button
		>
		<button class="bar extra" onclick={() => (findOpen = true)} title="/">Find words</button>
		<button class="bar extra" onclick={() => (logOpen = true)}>History</button>
		<button class="bar extra" onclick={() => (keysOpen = true)} aria-label="Keys" title="Keys">?</button>
		<Countdown />
	</TopBar>
	{#if layout.pageOnly}
		<button class="quiet leave" onclick={() => (layout.pageOnly = false)} title="p or Escape"
			>Show everything</button
		>
	{/if}
	<section class="assignment" aria-label="Assignment"><h1>{store.sheet.title}</h1></section>
	{#if !allTasks}<div class="foot"><NextStep /></div>{/if}
	<nav aria-label="Tasks" class:all={allTasks}>
		{#each TASKS as name (name)}
			<a
				href="/packets/{store.view.id}/{name}"
				class:usual={USUAL.includes(name)}
				aria-current={task === name ? 'page' : undefined}
				onclick={() => (allTasks = false)}>{WORDS[name]}</a
			>
		{/each}
		<button class="others" aria-expanded={allTasks} onclick={() => (allTasks = !allTasks)}
			>{allTasks ? 'Fewer' : 'Others'}</button
		>
		<button class="quiet only" onclick={() => (layout.pageOnly = true)} title="p">Page only</button>
	</nav>
	<div class="tour"><TourBar /></div>
	<main class:map={task === 'map'}>
		<Notices {store} />
		<Troubles />
		{@render children()}
	</main>
	<!-- It scrolls, so the keyboard has to reach it even when nothing in it can be pressed. -->
	<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
	<aside aria-label="Rules and cut-outs" tabindex="0">
		<button
			class="fold"
			aria-expanded={!layout.folded}
			aria-label={layout.folded ? 'Show the rules' : 'Hide the rules'}
			title="b"
			onclick={() => (layout.folded = !layout.folded)}
		>
			<span aria-hidden="true">{layout.folded ? '◂' : '▸'}</span>
			{#if layout.folded}
				{#each ['blocks', 'look'] as const as level (level)}
					{@const n = store.findings.filter((f) => f.level === level).length}
					{#if n > 0}<span class="count"><LevelMark {level} size={16} />{n}</span>{/if}
				{/each}
			{/if}
		</button>
		{#if !layout.folded}
			{#if task === 'map'}
				<div class="switch" role="group" aria-label="What is shown here">
					<button class="quiet" aria-pressed={panel === 'rules'} onclick={() => (panel = 'rules')}
						>Rule sheet</button
					>
					<button class="quiet" aria-pressed={panel === 'cut-outs'} onclick={() => (panel = 'cut-outs')}
						>Cut-outs</button
					>
				</div>
			{/if}
			{#if task === 'map' && panel === 'cut-outs'}<CutOuts />{:else}
				<Returned />
				{#if data.mayReturn && store.packet.strip.length > 0}<GiveBackHere />{/if}
				<RuleSheetPanel />
			{/if}
		{/if}
	</aside>
	{#if !layout.pageOnly && task !== 'map' && task !== 'hand-in' && (store.packet.strip.length > 0 || store.packet.tray.length > 0 || uploads.unsent.length > 0)}
		{@const tall = layout.stripHeight(task)}
		<section class="strip" aria-label="Strip">
			<StripHandle {task} />
			<Strip {tall} column={columnFor(tall)} />
		</section>
	{/if}
</div>
<Keys bind:open={keysOpen} />
<FindWords bind:open={findOpen} />
<PacketLog
	bind:open={logOpen}
	packetId={store.view.id}
	version={store.view.version}
	returns={store.view.returns}
/>

<style>
	.workspace {
		display: grid;
		grid-template: auto auto auto minmax(0, 1fr) auto / minmax(0, 1fr) 20rem;
		grid-template-areas: 'top top' 'nav nav' 'tour tour' 'main aside' 'strip strip';
		height: 100vh;
	}
	.workspace > :global(header) {
		grid-area: top;
	}
	nav {
		grid-area: nav;
		display: flex;
		gap: 0.25rem;
		padding: 0 1rem;
		background: var(--white);
		border-bottom: 1px solid var(--rule);
		overflow-x: auto;
	}
	nav a {
		padding: 0.6875rem 1rem 0.5rem;
		border-bottom: 3px solid transparent;
		color: var(--ink);
		font-size: 0.9375rem;
		text-decoration: none;
		white-space: nowrap;
	}
	nav a:hover {
		border-color: var(--rule);
	}
	nav a[aria-current] {
		border-color: var(--violet);
		font-weight: 600;
	}
	/* There is no transparent edge there. */
	@media (forced-colors: active) {
		nav a:not([aria-current]) {
			border-color: Canvas;
		}
	}
	.tour {
		grid-area: tour;
	}
	main {
		grid-area: main;
		min-height: 0;
		overflow: auto;
		background: var(--table);
	}
	aside {
		grid-area: aside;
		overflow: auto;
		background: var(--paper);
		border-left: 1px solid var(--rule);
	}
	.strip {
		grid-area: strip;
		position: relative;
		min-width: 0;
	}
	.folded {
		grid-template-columns: minmax(0, 1fr) 2.75rem;
	}
	.fold {
		display: flex;
		gap: 0.375rem;
		align-items: center;
		justify-content: center;
		float: right;
		min-width: 2.75rem;
		min-height: 2.75rem;
		padding: 0.5rem;
		border: 0;
		background: none;
		color: var(--ink-soft);
		font: inherit;
		cursor: pointer;
	}
	.folded .fold {
		flex-direction: column;
		gap: 0.75rem;
		width: 100%;
	}
	.fold:hover {
		color: var(--violet);
	}
	.count {
		display: grid;
		justify-items: center;
		color: var(--ink);
		font-size: 0.875rem;
	}
	.only {
		margin: auto 0 auto auto;
	}
	/* Nothing but the page. */
	.page-only {
		grid-template: minmax(0, 1fr) / minmax(0, 1fr);
		grid-template-areas: 'main';
	}
	.page-only > :global(header),
	.page-only nav,
	.page-only .foot,
	.page-only .assignment,
	.page-only .tour,
	.page-only aside {
		display: none;
	}
	.leave {
		position: fixed;
		z-index: 2;
		top: 0.5rem;
		right: 0.75rem;
	}
	.switch {
		display: flex;
		gap: 0.375rem;
		padding: 0.75rem 1rem 0;
	}
	.title {
		display: flex;
		flex: 1;
		gap: 0.75rem;
		min-width: 0;
		align-items: baseline;
		white-space: nowrap;
		overflow: hidden;
	}
	.title h1 {
		font-size: 1rem;
		line-height: 1.5;
		overflow: hidden;
		text-overflow: ellipsis;
		font-weight: 400;
	}
	/* The assignment is named in full for as long as there is room. */
	.title span {
		flex: 0 100 auto;
		min-width: 2rem;
		overflow: hidden;
		text-overflow: ellipsis;
	}
	.title span,
	.saved {
		color: #c9bfda;
		font-size: 0.875rem;
	}
	.saved.down {
		color: #ffd9a0;
	}
	.phone {
		padding: 0.125rem 0.5rem;
		border: 1px solid #7c6d96;
		color: #c9bfda;
		font-size: 0.8125rem;
		white-space: nowrap;
	}
	.phone.on {
		border-color: #cfe3b4;
		color: #d9ecc0;
	}
	.assignment,
	.foot,
	.others {
		display: none;
	}
	/* A phone held upright: the page above, what to do next and the way below, where a thumb is. */
	@media (max-width: 700px) {
		.workspace {
			display: flex;
			flex-direction: column;
			height: auto;
			min-height: 100vh;
			padding-bottom: 9.5rem;
			box-sizing: border-box;
		}
		main {
			min-height: 20rem;
			overflow: visible;
		}
		aside {
			order: 2;
			border-left: 0;
			border-top: 1px solid var(--rule);
		}
		.strip {
			order: 1;
		}
		.strip :global(.handle),
		.fold,
		.only,
		.title,
		.extra,
		.saved {
			display: none;
		}
		.assignment {
			display: block;
			padding: 0.625rem 1rem;
			border-bottom: 1px solid var(--rule);
			background: var(--white);
		}
		.assignment h1 {
			font-size: 1rem;
		}
		nav {
			position: fixed;
			z-index: 2;
			right: 0;
			bottom: 0;
			left: 0;
			gap: 0;
			padding: 0;
			border-top: 1px solid var(--rule);
			border-bottom: 0;
		}
		nav a,
		.others {
			display: none;
			flex: 1 1 0;
			min-width: 0;
			align-items: center;
			justify-content: center;
			min-height: 3rem;
			padding: 0;
			border: 0;
			border-top: 3px solid transparent;
			background: none;
			color: var(--ink);
			font: inherit;
			font-size: 0.9375rem;
			box-sizing: border-box;
		}
		nav a[aria-current] {
			border-color: var(--violet);
		}
		nav.all {
			flex-wrap: wrap;
		}
		nav.all a,
		nav.all .others {
			flex-basis: 25%;
		}
		nav a.usual,
		nav a[aria-current],
		nav.all a,
		.others {
			display: flex;
		}
		.foot {
			display: block;
			position: fixed;
			z-index: 1;
			right: 0;
			bottom: 3rem;
			left: 0;
			padding: 0.625rem 1rem;
			border-top: 1px solid var(--rule);
			background: var(--paper);
		}
		.page-only .foot,
		.page-only .assignment {
			display: none;
		}
	}
</style>
