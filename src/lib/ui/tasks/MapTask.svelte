<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { confirmSeams, declineKey, UNSURE, type ProposedSeam } from '$lib/core/mapping/proposeSeams';
	import { piecesByQuestion, stretchesOf } from '$lib/core/mapping/stretches';
	import type { Seam } from '$lib/core/packet/packet';
	import { answerables } from '$lib/core/assignment/question';
	import { usePacket } from '../packet/context';
	import Strip from '../strip/Strip.svelte';
	import { questionColours } from '../theme/questionColours';
	import LabelSays from './LabelSays.svelte';
	import NoPage from './NoPage.svelte';

	const store = usePacket();
	/** Room for the pages, less the numbers and tracks under them. */
	let room = $state(590);
	const tall = $derived(Math.max(300, room - 132));
	const column = $derived(Math.round(tall * 0.78));
	/** Not a question: what comes below is rough work or a cover. */
	const NOTHING = '';
	const STEP = 0.005;

	const questions = $derived(answerables(store.sheet.questions));
	const colour = $derived(questionColours(questions.map((q) => q.id)));
	const placed = $derived(piecesByQuestion(stretchesOf(store.packet)));

	/** The question that the next click on a page places; the first open one unless chosen. */
	let chosen = $state<string | null>(null);
	const offered = $derived(new Set(store.proposedSeams.flatMap((s) => s.questions)));
	const firstOpen = $derived(
		questions.find(
			(q) => !placed.has(q.id) && !offered.has(q.id) && !store.packet.notAttempted.includes(q.id)
		)?.id ?? null
	);
	const placing = $derived(chosen ?? firstOpen);
	let selected = $state<string | null>(null);
	let dragged = $state<{ seam: Seam; page: string; y: number } | null>(null);
	let said = $state('');

	const round = (y: number) => Math.round(Math.min(Math.max(y, 0), 0.995) * 1000) / 1000;
	const name = (question: string) => (question === NOTHING ? 'not an answer' : question);

	function heightOf(event: MouseEvent, element: Element): number {
		const box = element.getBoundingClientRect();
		return round((event.clientY - box.top) / box.height);
	}

	function place(page: string, y: number): void {
		if (placing === null) {
			said = 'Every question is placed. Choose one above to place it again.';
			return;
		}
		const seam: Seam = {
			id: crypto.randomUUID(),
			page,
			y,
			questions: placing === NOTHING ? [] : [placing]
		};
		store.edit({ kind: 'setSeam', seam });
		selected = seam.id;
		said = `${name(placing)} begins here.`;
		chosen = null;
	}

	function startDrag(event: PointerEvent, seam: Seam): void {
		if (event.button !== 0) return;
		event.stopPropagation();
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		selected = seam.id;
		dragged = { seam, page: seam.page, y: seam.y };
	}
	function drag(event: PointerEvent): void {
		if (!dragged) return;
		const under = document
			.elementsFromPoint(event.clientX, event.clientY)
			.find((element) => element.matches('[data-sheet]'));
		if (!under) return;
		dragged = { ...dragged, page: (under as HTMLElement).dataset.sheet!, y: heightOf(event, under) };
	}
	function drop(): void {
		if (!dragged) return;
		const { seam, page, y } = dragged;
		dragged = null;
		const { id, questions } = seam;
		if (page !== seam.page || y !== seam.y) store.edit({ kind: 'setSeam', seam: { id, questions, page, y } });
	}

	function key(event: KeyboardEvent, seam: Seam): void {
		if (event.target !== event.currentTarget) return;
		const by = STEP * (event.shiftKey ? 10 : 1);
		if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
			event.preventDefault();
			const y = round(seam.y + (event.key === 'ArrowUp' ? -by : by));
			store.edit({ kind: 'setSeam', seam: { ...seam, y } });
			said = `${name(seam.questions.join(', '))} now begins at ${Math.round(y * 100)} % of the page.`;
		} else if (event.key === 'Delete' || event.key === 'Backspace') {
			event.preventDefault();
			remove(seam);
		}
	}
	function remove(seam: Seam): void {
		store.edit({ kind: 'removeSeam', seam: seam.id });
		selected = null;
		said = 'Seam removed.';
	}
	function answer(seam: Seam, question: string, on: boolean): void {
		const ids = on ? [...seam.questions, question] : seam.questions.filter((q) => q !== question);
		const inOrder = questions.map((q) => q.id).filter((id) => ids.includes(id));
		store.edit({ kind: 'setSeam', seam: { ...seam, questions: inOrder } });
	}
	/** A proposal that is dragged is shown as what it becomes. */
	const held = $derived([
		...store.packet.seams,
		...(dragged && !store.packet.seams.some((s) => s.id === dragged?.seam.id) ? [dragged.seam] : [])
	]);
	const seamsOn = (page: string) =>
		held.flatMap((seam) => {
			const now = dragged?.seam.id === seam.id ? { ...seam, page: dragged.page, y: dragged.y } : seam;
			return now.page === page ? [now] : [];
		});
	const proposedOn = (page: string) => store.proposedSeams.filter((s) => s.page === page);
	const unsure = $derived(store.proposedSeams.filter((s) => s.confidence < UNSURE));
	const sure = $derived(store.proposedSeams.filter((s) => s.confidence >= UNSURE));
	const confirmLabel = $derived(
		unsure.length === 0
			? `Confirm ${sure.length === 1 ? 'it' : 'all'}`
			: `Confirm the ${sure.length === 1 ? 'sure one' : `${sure.length} sure ones`}`
	);
	const selectedProposal = $derived(store.proposedSeams.find((s) => s.id === selected));

	function confirm(seams: readonly ProposedSeam[]): void {
		store.edit(confirmSeams(seams));
		said =
			seams.length === 1
				? `${name(seams[0]!.questions.join(', '))} confirmed.`
				: `${seams.length} seams confirmed.`;
	}
	function decline(seam: ProposedSeam): void {
		const changes = seam.questions.map(
			(question) => ({ kind: 'setDeclined', key: declineKey(seam.page, question), declined: true }) as const
		);
		store.edit({ kind: 'together', changes });
		said = `${name(seam.questions.join(', '))} is not here.`;
	}
	/** The label there says something else: that is a seam of one's own, and the others are proposed around it. */
	function correct({ id, page, y }: ProposedSeam, question: string): void {
		store.edit({ kind: 'setSeam', seam: { id, page, y, questions: [question] } });
		said = `${name(question)} begins here, as you say.`;
		refocus(id);
	}
	function proposalKey(event: KeyboardEvent, seam: ProposedSeam): void {
		const by = STEP * (event.shiftKey ? 10 : 1);
		if (event.key === 'Enter' || event.key === ' ') confirm([seam]);
		else if (event.key === 'Delete' || event.key === 'Backspace') decline(seam);
		else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
			// Moving a proposal makes it one's own.
			const { id, page, questions } = seam;
			const y = round(seam.y + (event.key === 'ArrowUp' ? -by : by));
			store.edit({ kind: 'setSeam', seam: { id, page, y, questions } });
			said = `${name(questions.join(', '))} now begins at ${Math.round(y * 100)} % of the page.`;
			refocus(id);
		} else return;
		event.preventDefault();
	}
	/** A seam that was a proposal is another element afterwards. */
	function refocus(id: string): void {
		requestAnimationFrame(() => document.querySelector<HTMLElement>(`[data-seam="${id}"]`)?.focus());
	}
	/** Goes to the next seam to look at: unsure ones first. */
	function next(): void {
		const waiting = unsure.length > 0 ? unsure : store.proposedSeams;
		const i = waiting.findIndex((s) => s.id === selected);
		const seam = waiting[(i + 1) % waiting.length];
		if (!seam) return;
		selected = seam.id;
		store.current = seam.page;
		const element = document.querySelector<HTMLElement>(`[data-seam="${seam.id}"]`);
		element?.scrollIntoView({ block: 'center', inline: 'center' });
		element?.focus();
	}
	function mapKey(event: KeyboardEvent): void {
		const target = event.target as HTMLElement;
		if (target.matches('input, select, textarea') || event.ctrlKey || event.metaKey || event.altKey) return;
		if (event.key === 'n' && store.proposedSeams.length > 0) next();
	}

	const selectedSeam = $derived(store.packet.seams.find((s) => s.id === selected));
</script>

<svelte:window onkeydown={mapKey} />

{#if store.packet.strip.length === 0}
	<NoPage />
{:else}
	<div class="map">
		<div class="bar">
			<span id="place-label">Click where the work begins on</span>
			<div class="questions" role="group" aria-labelledby="place-label">
				{#each questions as question (question.id)}
					{@const skipped = store.packet.notAttempted.includes(question.id)}
					<button
						class="question"
						class:done={placed.has(question.id)}
						class:skipped
						class:offered={offered.has(question.id) && !placed.has(question.id)}
						aria-pressed={placing === question.id}
						style:--colour={colour(question.id)}
						title={placed.has(question.id)
							? 'Placed. Choose to place it again.'
							: skipped
								? 'Not attempted'
								: offered.has(question.id)
									? 'Proposed. Confirm its seam, or choose to place it yourself.'
									: 'Not placed yet'}
						onclick={() => (chosen = question.id)}
					>
						{question.id}{#if placed.has(question.id)}<span class="out-of-sight">, placed</span>
							<svg width="11" height="11" viewBox="0 0 18 18" aria-hidden="true"
								><path d="M3 9.5 7 13.5 15 4.5" fill="none" stroke="currentColor" stroke-width="2.6" /></svg
							>
						{/if}
					</button>
				{/each}
				<button
					class="question nothing"
					aria-pressed={placing === NOTHING}
					onclick={() => (chosen = NOTHING)}
				>
					not an answer
				</button>
			</div>
			{#if placing && !placed.has(placing)}
				<button
					class="textual"
					onclick={() => {
						const attempted = store.packet.notAttempted.includes(placing);
						store.edit({ kind: 'setAttempted', question: placing, attempted });
						chosen = null;
					}}
				>
					{store.packet.notAttempted.includes(placing)
						? `${placing} was attempted`
						: `${placing} was not attempted`}
				</button>
			{/if}
		</div>
		{#if store.proposedSeams.length > 0 || store.unread > 0}
			<div class="proposals" aria-live="polite">
				{#if store.proposedSeams.length > 0}
					<b>
						{store.proposedSeams.length === 1 ? 'One seam' : `${store.proposedSeams.length} seams`} read off the
						pages{unsure.length > 0 ? `, ${unsure.length} unsure` : ''}
					</b>
					{#if sure.length > 0}
						<Button size="small" on:click={() => confirm(sure)}>{confirmLabel}</Button>
					{/if}
					<button class="quiet" onclick={next}
						>{unsure.length > 0 ? 'Next unsure one' : 'Look at each'}</button
					>
				{/if}
				{#if store.unread > 0}
					<span class="hint">
						Reading page {store.readingAt} …
					</span>
				{/if}
			</div>
		{/if}
		<div class="tall" bind:clientHeight={room}>
			<Strip {column} {tall}>
				{#snippet over(page: string, i: number)}
					<div
						class="sheet"
						data-sheet={page}
						role="button"
						tabindex="0"
						aria-label="Page {i + 1}. Enter places {placing === null
							? 'nothing, all is placed'
							: name(placing)} at the top"
						onclick={(e) => {
							place(page, heightOf(e, e.currentTarget));
						}}
						onkeydown={(e) => {
							if (e.key === 'Enter') {
								e.preventDefault();
								place(page, 0);
							}
						}}
					></div>
					{#each seamsOn(page) as seam (seam.id)}
						<!-- A seam is a slider: it has a height on the page and is moved with the arrow keys. -->
						<div
							class="seam"
							class:selected={selected === seam.id}
							class:top={seam.y < 0.05}
							style:top="{seam.y * 100}%"
							style:--colour={seam.questions[0] ? colour(seam.questions[0]) : '#6f6879'}
							role="slider"
							tabindex="0"
							data-seam={seam.id}
							aria-label="Seam of {name(seam.questions.join(', '))}"
							aria-orientation="vertical"
							aria-valuemin="0"
							aria-valuemax="100"
							aria-valuenow={Math.round(seam.y * 100)}
							onpointerdown={(e) => startDrag(e, seam)}
							onpointermove={drag}
							onpointerup={drop}
							onpointercancel={drop}
							onfocus={() => (selected = seam.id)}
							onkeydown={(e) => key(e, seam)}
						>
							<span>{name(seam.questions.join(', '))}</span>
						</div>
					{/each}
					{#each proposedOn(page) as seam (seam.id)}
						<div
							class="seam proposed"
							class:selected={selected === seam.id}
							class:top={seam.y < 0.05}
							style:top="{seam.y * 100}%"
							style:--colour={colour(seam.questions[0]!)}
							role="button"
							tabindex="0"
							data-seam={seam.id}
							aria-label="Proposed seam of {name(seam.questions.join(', '))}{seam.confidence < UNSURE
								? ', unsure'
								: ''}. Enter confirms it, Delete declines it, arrow keys move it."
							onclick={() => (selected = seam.id)}
							onfocus={() => (selected = seam.id)}
							onkeydown={(e) => proposalKey(e, seam)}
							onpointerdown={(e) => startDrag(e, seam)}
							onpointermove={drag}
							onpointerup={drop}
							onpointercancel={drop}
						>
							<span>{name(seam.questions.join(', '))} ?</span>
							{#if seam.confidence < UNSURE}<em>unsure</em>{/if}
						</div>
					{/each}
				{/snippet}
			</Strip>
		</div>
		<div class="foot">
			{#if selectedSeam}
				<strong>Below this seam:</strong>
				<div class="answers" role="group" aria-label="What the work below the seam answers">
					{#each questions as question (question.id)}
						<label>
							<input
								type="checkbox"
								checked={selectedSeam.questions.includes(question.id)}
								onchange={(e) => answer(selectedSeam, question.id, e.currentTarget.checked)}
							/>
							{question.id}
						</label>
					{/each}
				</div>
				<button class="quiet" onclick={() => remove(selectedSeam)}>Remove the seam</button>
				<span class="hint">Drag it, or use the arrow keys; Delete removes it.</span>
			{:else if selectedProposal}
				<strong>{selectedProposal.questions.join(', ')} begins here?</strong>
				<span>
					{selectedProposal.read === null
						? 'No label was read; it follows from what is around it.'
						: `The label reads “${selectedProposal.read.trim()}”.`}
					{selectedProposal.confidence < UNSURE ? 'Unsure.' : ''}
				</span>
				<Button size="small" on:click={() => confirm([selectedProposal])}>Confirm</Button>
				<button class="quiet" onclick={() => decline(selectedProposal)}>Not here</button>
				<LabelSays {questions} onsay={(question) => correct(selectedProposal, question)} />
				<span class="hint">Or drag it. n goes to the next one.</span>
			{:else}
				<span class="hint">
					A seam is where work on one question ends and on another begins. Work runs on over the page's end
					until the next seam.
				</span>
			{/if}
		</div>
		<p class="out-of-sight" aria-live="polite">{said}</p>
	</div>
{/if}

<style>
	.map {
		display: flex;
		flex-direction: column;
		height: 100%;
	}
	.proposals {
		background: var(--white);
		border-block: 1px dashed var(--violet);
	}
	.bar,
	.proposals,
	.foot {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.5rem 0.75rem;
		padding: 0.625rem 1rem;
		font-size: 0.875rem;
	}
	.foot {
		min-height: 2.25rem;
		background: var(--white);
		border-top: 1px solid var(--rule);
	}
	.questions,
	.answers {
		display: flex;
		flex-wrap: wrap;
		gap: 0.375rem;
	}
	.answers label {
		display: inline-flex;
		align-items: center;
		gap: 0.25rem;
		padding-right: 0.5rem;
	}
	.answers input {
		accent-color: var(--violet);
		width: 1rem;
		height: 1rem;
	}
	.question {
		display: inline-flex;
		align-items: center;
		gap: 0.25rem;
		min-width: 2.25rem;
		min-height: 2rem;
		padding: 0.125rem 0.625rem;
		justify-content: center;
		border: 2px solid color-mix(in oklab, var(--colour, #6f6879) var(--colour-share), var(--ink));
		background: var(--white);
		color: color-mix(in oklab, var(--colour, #57505f) var(--colour-share), var(--ink));
		font: inherit;
		font-weight: 600;
		cursor: pointer;
	}
	.question.done {
		background: var(--colour);
		color: #fff;
	}
	.question.offered {
		border-style: dashed;
	}
	.question.skipped {
		border-style: dashed;
		text-decoration: line-through;
	}
	.question[aria-pressed='true'] {
		outline: 3px solid var(--violet);
		outline-offset: 2px;
	}
	.nothing {
		font-weight: 400;
	}
	.tall {
		flex: 1;
		min-height: 0;
		overflow: auto;
	}
	.sheet {
		position: absolute;
		inset: 0;
		cursor: crosshair;
	}
	.seam {
		position: absolute;
		left: -12px;
		right: -12px;
		height: 24px;
		margin-top: -12px;
		cursor: ns-resize;
		touch-action: none;
	}
	.seam::before {
		content: '';
		position: absolute;
		top: 11px;
		left: 0;
		right: 0;
		height: 3px;
		background: var(--colour);
		box-shadow: 0 0 0 1px #fff;
	}
	/* Above the line: right under it stands the label that was written there. */
	.seam span {
		position: absolute;
		bottom: 12px;
		left: 0;
		min-width: 1.25rem;
		padding: 0.0625rem 0.5rem;
		background: var(--colour);
		color: #fff;
		font-size: 0.875rem;
		font-weight: 600;
		text-align: center;
		user-select: none;
	}
	.seam.top span {
		top: 11px;
		bottom: auto;
	}
	.proposed::before {
		height: 0;
		border-top: 3px dashed var(--colour);
		background: none;
		box-shadow: none;
	}
	.seam.proposed span {
		border: 2px dashed var(--colour);
		/* On the page, which is white by night as well. */
		background: #fffefb;
		color: var(--colour);
	}
	.seam em {
		position: absolute;
		right: 12px;
		bottom: 12px;
		padding: 0 0.375rem;
		background: var(--white);
		color: var(--ochre);
		font-size: 0.8125rem;
		font-weight: 600;
	}
	.seam.selected::before {
		height: 5px;
		top: 10px;
	}
	.seam:focus-visible {
		outline-offset: -4px;
	}
	.hint {
		color: var(--ink-soft);
	}
</style>
