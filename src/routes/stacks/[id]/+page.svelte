<script lang="ts">
	import { chosenFiles } from '$lib/ui/frame/chosenFiles';
	import { invalidateAll } from '$app/navigation';
	import { onMount, tick, untrack } from 'svelte';
	import { Button, InlineNotification, Modal, ProgressBar } from 'carbon-components-svelte';
	import { Checkmark, DocumentAdd } from 'carbon-icons-svelte';
	import type { Change } from '$lib/core/packet/change';
	import { plural } from '$lib/core/rules/finding';
	import { cutBefore, give, joinToBefore, moveTo, nudge, setAside } from '$lib/core/stack/edits';
	import { heapsOf, isNamed, isSure, unlooked, whoIs, type Heap } from '$lib/core/stack/heaps';
	import Keys from '$lib/ui/frame/Keys.svelte';
	import Notices from '$lib/ui/frame/Notices.svelte';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import { setPacket } from '$lib/ui/packet/context';
	import { PacketStore } from '$lib/ui/packet/packetStore.svelte';
	import Troubles from '$lib/ui/packet/Troubles.svelte';
	import { UploadList } from '$lib/ui/packet/uploads.svelte';
	import ChoosePerson from '$lib/ui/stack/ChoosePerson.svelte';
	import EmptyStack from '$lib/ui/stack/EmptyStack.svelte';
	import HeapRow from '$lib/ui/stack/HeapRow.svelte';
	import StackSide from '$lib/ui/stack/StackSide.svelte';

	/** Milliseconds between two looks whether the demo's stack has been drawn. */
	const DRAWING = 3000;

	let { data } = $props();
	const store = untrack(() => new PacketStore(data.view, data.reads, false));
	const uploads = untrack(() => new UploadList(data.view.id, () => store.refresh()));
	setPacket(store);
	onMount(() => store.listen());
	onMount(() => uploads.begin());
	onMount(() => {
		const again = setInterval(() => {
			if (total === 0 && data.demoStack?.isThere === false) void invalidateAll();
		}, DRAWING);
		return () => clearInterval(again);
	});

	let input: HTMLInputElement | undefined = $state();
	let asking = $state(false);
	let looking = $state(false);
	let keysOpen = $state(false);
	let making = $state(0);

	const heaps = $derived(heapsOf(store.packet));
	const who = $derived(whoIs(heaps, data.people));
	const names = $derived(new Map(data.people.map((p) => [p.id, `${p.family}, ${p.given}`])));
	const nameOf = (heap: Heap) =>
		heap.cut?.person ? (names.get(heap.cut.person) ?? 'Somebody who left the course') : null;
	const isTwice = (heap: Heap) => !!heap.cut?.person && who.twice.includes(heap.cut.person);
	const isOpen = (heap: Heap) => !heap.cut?.packet;
	const ready = $derived(heaps.filter((h) => isOpen(h) && isSure(h) && !isTwice(h)));
	const unsure = $derived(heaps.filter((h) => isOpen(h) && (!isSure(h) || isTwice(h))));
	const made = $derived(heaps.filter((h) => !isOpen(h)).length);
	const counts = $derived(
		[
			{ count: made, are: 'made' },
			{ count: ready.length, are: 'sure' },
			{ count: unsure.length, are: 'to look at' }
		]
			.filter(({ count }) => count > 0)
			.map(({ count, are }) => `${count} ${are}`)
			.join(', ')
	);
	const open = $derived(unlooked(store.packet));
	const total = $derived(store.packet.strip.length + store.packet.tray.length);
	const problemOf = (page: string) => store.view.pages[page]?.problem ?? null;
	const preparedCount = $derived(total - store.preparing);
	const lookedAt = $derived(total - store.unread);
	const isCut = $derived(total > 0 && open.length === 0);
	const current = $derived(heaps.find((h) => store.current !== null && h.pages.includes(store.current)));
	/** The page chosen last among the packets, while one that is set aside is looked at. */
	let chosen = $state<string | null>(null);
	$effect(() => {
		if (store.current && store.packet.strip.includes(store.current)) chosen = store.current;
	});
	/** A page of the packet that takes in what was set aside; null where there is none, or it is made already. */
	const taking = $derived.by(() => {
		const heap = heaps.find((h) => chosen !== null && h.pages.includes(chosen));
		return heap && isOpen(heap) ? chosen : null;
	});
	const taken = $derived(new Set(heaps.flatMap(({ cut }) => (isNamed(cut) ? cut.person : []))));

	function take(files: Iterable<File> & { readonly length: number } = []): void {
		if (files.length > 0) uploads.add(files);
	}

	async function demoStack(): Promise<void> {
		const { name } = data.demoStack!;
		const response = await fetch(`/api/demo-pictures/${encodeURIComponent(name)}`);
		uploads.add([new File([await response.blob()], name, { type: 'application/pdf' })]);
	}

	/** Shows a page and puts the keyboard there. */
	async function goTo(page: string | undefined): Promise<void> {
		if (!page) return;
		store.current = page;
		await tick();
		const element = document.querySelector<HTMLElement>(`[data-page="${CSS.escape(page)}"]`);
		element?.focus({ preventScroll: true });
		element?.scrollIntoView({ block: 'nearest' });
	}

	function look(page: string): void {
		store.current = page;
		looking = true;
	}

	function edit(change: Change | null): void {
		if (!change) return;
		const { current } = store;
		store.edit(change);
		void goTo(current && store.packet.strip.includes(current) ? current : store.packet.strip[0]);
	}

	function nextUnsure(): void {
		const at = current ? heaps.indexOf(current) : -1;
		const next = unsure.find((h) => heaps.indexOf(h) > at) ?? unsure[0];
		void goTo(next?.pages[0]);
	}

	async function make(which: readonly Heap[]): Promise<void> {
		const first = which.map((h) => h.pages[0]!);
		if (first.length === 0) return;
		making += first.length;
		try {
			const response = await fetch(`/api/stacks/${store.view.id}/packets`, {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ first })
			});
			const answer = (await response.json().catch(() => ({}))) as { made?: number; message?: string };
			if (!response.ok) store.notice = answer.message ?? 'The packets could not be made. Try again.';
			else if (answer.made! < first.length) {
				store.notice = `${answer.made} of ${first.length} were made; the others had changed meanwhile.`;
			}
		} catch {
			store.notice = 'The line is down. What was cut is kept; make the packets when it is back.';
		} finally {
			making -= first.length;
			store.refresh();
		}
	}

	const KEYS: [string, string][] = [
		['Arrow keys', 'next page, page before; next packet, packet before'],
		['n', 'next packet to look at'],
		['x', 'cut: a packet begins with this page'],
		['j', 'join this packet to the one before'],
		['w', 'whose packet it is'],
		['Enter', 'make this packet'],
		['Shift+Enter', 'make all packets that are sure'],
		['Space', 'look at the page, large'],
		['Alt+arrow', 'move the page, also into the next packet'],
		['Delete', 'set the page aside'],
		['Ctrl+Z, Ctrl+Shift+Z', 'undo, redo'],
		['?', 'this list']
	];

	function key(event: KeyboardEvent): void {
		const target = event.target as HTMLElement;
		if (asking || target.matches('input, select, textarea')) return;
		if (looking || keysOpen) {
			if (looking && event.key === ' ') {
				event.preventDefault();
				looking = false;
			}
			return;
		}
		const page = store.current;
		const { strip } = store.packet;
		const i = page ? strip.indexOf(page) : -1;
		const onPage = target.dataset.page !== undefined || target === document.body;
		const ctrl = event.ctrlKey || event.metaKey;
		const heapAt = current ? heaps.indexOf(current) : -1;
		const act = (does: () => void) => {
			event.preventDefault();
			does();
		};
		if (ctrl && event.key.toLowerCase() === 'z') {
			return act(() => (event.shiftKey ? store.redo() : store.undo()));
		}
		if (ctrl) return;
		if (event.key === 'n') return act(nextUnsure);
		if (event.key === '?') return act(() => (keysOpen = true));
		if (event.key === 'Enter' && event.shiftKey) return act(() => void make(ready));
		if (!page || i < 0 || !onPage) return;
		const back = event.key === 'ArrowLeft';
		if (back || event.key === 'ArrowRight') {
			if (event.altKey) return act(() => edit(nudge(store.packet, page, back ? -1 : 1)));
			return act(() => void goTo(strip[i + (back ? -1 : 1)]));
		}
		if (event.altKey) return;
		switch (event.key) {
			case 'ArrowUp':
				return act(() => void goTo(heaps[heapAt - 1]?.pages[0]));
			case 'ArrowDown':
				return act(() => void goTo(heaps[heapAt + 1]?.pages[0]));
			case 'x':
				return act(() => edit(cutBefore(store.packet, page)));
			case 'j':
				return act(() => edit(joinToBefore(store.packet, page)));
			case 'w':
				return act(() => (asking = isOpen(current!)));
			case 'Enter':
				return act(() => {
					if (current?.cut?.person && isOpen(current)) void make([current]);
				});
			case ' ':
				return act(() => (looking = true));
			case 'Delete':
				return act(() => edit(setAside(store.packet, page)));
		}
	}

	const saved = $derived(
		!store.online || (!uploads.lineUp && uploads.open > 0)
			? 'Line is down; work is kept here'
			: uploads.open > 0
				? `Sending ${plural(uploads.open, 'file')}`
				: store.waiting > 0
					? 'Saving …'
					: 'All saved'
	);
</script>

<svelte:head><title>Stack · {store.sheet.title}</title></svelte:head>
<svelte:window
	onkeydown={key}
	ondragover={(e) => {
		if (e.dataTransfer?.types.includes('Files')) e.preventDefault();
	}}
	ondrop={(e) => {
		if (!e.dataTransfer?.files.length) return;
		e.preventDefault();
		take(e.dataTransfer.files);
	}}
	onbeforeunload={(e) => {
		if (uploads.open > 0) e.preventDefault();
	}}
/>

<TopBar>
	<span class="title"
		><b>{store.sheet.title}</b> <span>{store.view.assignment.courseCode} · the class’s stack</span></span
	>
	<span class="saved" aria-live="polite">{saved}</span>
	<a class="bar" href="/assignments/{store.view.assignment.id}/class">Board</a>
	<button class="bar" disabled={!store.canUndo} onclick={() => store.undo()} title="Ctrl+Z">Undo</button>
	<button class="bar" disabled={!store.canRedo} onclick={() => store.redo()} title="Ctrl+Shift+Z">Redo</button
	>
	<button class="bar keys" onclick={() => (keysOpen = true)} aria-label="Keys" title="Keys">?</button>
</TopBar>

<main>
	<input
		bind:this={input}
		class="out-of-sight"
		type="file"
		multiple
		accept="image/*,.pdf,.zip,.heic,.heif,.tif,.tiff"
		aria-label="Files of the stack"
		tabindex="-1"
		{@attach chosenFiles(take)}
	/>
	<Notices {store} />
	<Troubles />
	{#if total === 0 && uploads.lines.length === 0}
		<EmptyStack
			demoStack={data.demoStack}
			people={data.people.length}
			covers="/api/assignments/{store.view.assignment.id}/covers"
			onchoose={() => input?.click()}
			ondemo={demoStack}
		/>
	{:else}
		<div class="head">
			<div>
				<p class="which">{store.sheet.title}</p>
				<h1>
					{#if !isCut}
						{plural(total, 'page')}, being looked at
					{:else}
						{plural(heaps.length, 'packet')} from {plural(total, 'page')}
					{/if}
				</h1>
				<p aria-live="polite">
					{#if !isCut}
						Cuts are proposed once every page has been looked at.
					{:else if made > 0 && made === heaps.length}
						All of them are made.
					{:else if heaps.length > 0}
						{counts}.
					{/if}
				</p>
			</div>
			<div class="actions">
				<Button kind="ghost" icon={DocumentAdd} on:click={() => input?.click()}>Bring in more</Button>
				<Button kind="tertiary" disabled={!isCut || unsure.length === 0} on:click={nextUnsure}
					>Next to look at</Button
				>
				<Button icon={Checkmark} disabled={ready.length === 0 || making > 0} on:click={() => make(ready)}>
					{making > 0
						? `Making ${plural(making, 'packet')} …`
						: ready.length === 0
							? 'Make the packets'
							: ready.length === 1
								? 'Make the 1 that is sure'
								: `Make the ${ready.length} that are sure`}
				</Button>
			</div>
		</div>
		{#if uploads.open > 0 || !isCut}
			<div class="progress">
				{#if uploads.open > 0}
					<ProgressBar labelText="Sending" value={uploads.sent} max={Math.max(1, uploads.total)} />
				{/if}
				<ProgressBar
					labelText="Prepared"
					value={preparedCount}
					max={Math.max(1, total)}
					helperText="{preparedCount} of {total} pages"
				/>
				<ProgressBar
					labelText="Looked at"
					value={lookedAt}
					max={Math.max(1, total)}
					helperText="{lookedAt} of {total} pages"
				/>
			</div>
		{/if}
		{#each uploads.lines.filter((l) => l.state === 'failed') as line (line.key)}
			<InlineNotification kind="error" lowContrast title={line.name} subtitle={line.problem ?? ''} />
		{/each}
		{#each store.view.sources.filter((s) => s.state === 'refused' || s.state === 'repeat') as source (source.id)}
			<InlineNotification
				kind={source.state === 'refused' ? 'error' : 'info'}
				lowContrast
				title={source.name}
				subtitle={source.problem ?? 'This file is in the stack already.'}
			/>
		{/each}
		<div class="sheet">
			<div class="rows" role="group" aria-label="Packets">
				{#if heaps.length === 0 && total > 0}
					<p class="none">
						Every page is set aside, so that there is no packet. Undo brings them back; or begin one with a
						page that is set aside.
					</p>
				{/if}
				{#each heaps as heap, i (heap.pages[0])}
					<HeapRow
						{heap}
						isCuttable={isCut}
						number={i + 1}
						name={nameOf(heap)}
						isTwice={isTwice(heap)}
						current={store.current}
						picture={(page, kind) => store.image(page, kind)}
						problem={problemOf}
						onpage={(page) => void goTo(page)}
						onlook={look}
						onperson={() => {
							store.current = heap.pages[0]!;
							asking = true;
						}}
						onmake={() => void make([heap])}
						ondropped={(page) => edit(moveTo(store.packet, page, heap.pages[0]!))}
					/>
				{/each}
			</div>
			<StackSide
				chosen={current && isOpen(current) ? store.current : null}
				{taking}
				isAnyOpen={heaps.some(isOpen)}
				missing={who.missing.map((id) => names.get(id)!)}
				people={data.people.length}
				onlook={look}
				onperson={() => (asking = true)}
				onedit={edit}
			/>
		</div>
	{/if}
</main>

<ChoosePerson
	bind:open={asking}
	people={data.people}
	{taken}
	chosen={current?.cut?.person ?? null}
	header={current ? store.image(current.pages[0]!, 'view') : null}
	onchosen={(person) => {
		if (store.current) edit(give(store.packet, store.current, person));
	}}
/>
<Modal passiveModal bind:open={looking} modalHeading="The page" size="lg">
	{@const view = store.current ? store.image(store.current, 'view') : null}
	{#if view}<img class="large" src={view} alt="The chosen page" />{:else}<p>
			It is still being prepared.
		</p>{/if}
</Modal>
<Keys bind:open={keysOpen} keys={KEYS} />

<style>
	/* Whoever has no room for it has no keyboard either. */
	@media (max-width: 480px) {
		.keys {
			display: none;
		}
	}
	main :global(.bx--progress-bar__bar) {
		background: var(--fill);
	}
	main {
		max-width: 100rem;
		margin: 0 auto;
		padding: 1.25rem 1.5rem 3rem;
	}
	.title {
		display: flex;
		align-items: baseline;
		gap: 0.75rem;
		min-width: 0;
	}
	.saved {
		margin-left: auto;
	}
	h1 {
		font-size: 1.75rem;
		font-weight: 400;
	}
	.head p {
		color: var(--ink-soft);
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		align-items: flex-end;
		justify-content: space-between;
		gap: 1rem;
		margin-bottom: 1rem;
	}
	.actions {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem;
	}
	.progress {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(14rem, 1fr));
		gap: 1.5rem;
		margin-bottom: 1rem;
	}
	.sheet {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 17rem;
		gap: 1.25rem;
		align-items: start;
	}
	.rows {
		display: grid;
		gap: 0.75rem;
	}
	.none {
		max-width: 36rem;
		padding: 3rem 0;
		color: var(--ink-soft);
	}
	.large {
		width: 100%;
		border: 1px solid var(--rule);
	}
	.which {
		display: none;
	}
	@media (max-width: 60rem) {
		.sheet {
			grid-template-columns: minmax(0, 1fr);
		}
	}
	@media (max-width: 700px) {
		.title {
			display: none;
		}
		.which {
			display: block;
		}
		.saved {
			flex: 1;
			margin: 0;
			font-size: 0.875rem;
		}
		main {
			padding: 1rem 1rem 0;
		}
		.head .actions,
		.head .actions :global(.bx--btn) {
			flex: 1 1 auto;
			max-width: none;
		}
	}
</style>
