<script lang="ts">
	import { piecesByQuestion, stretchesOf } from '$lib/core/mapping/stretches';
	import type { Seam } from '$lib/core/packet/packet';
	import { answerables } from '$lib/core/rules/question';
	import { usePacket } from '../packet/context';
	import Strip from '../strip/Strip.svelte';
	import { questionColours } from '../theme/questionColours';
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
	const firstOpen = $derived(
		questions.find((q) => !placed.has(q.id) && !store.packet.notAttempted.includes(q.id))?.id ?? null
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
		if (page !== seam.page || y !== seam.y) store.edit({ kind: 'setSeam', seam: { ...seam, page, y } });
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
	const seamsOn = (page: string) =>
		store.packet.seams.flatMap((seam) => {
			const now = dragged?.seam.id === seam.id ? { ...seam, page: dragged.page, y: dragged.y } : seam;
			return now.page === page ? [now] : [];
		});
	const selectedSeam = $derived(store.packet.seams.find((s) => s.id === selected));
</script>

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
						aria-pressed={placing === question.id}
						style:--colour={colour(question.id)}
						title={placed.has(question.id)
							? 'Placed. Choose to place it again.'
							: skipped
								? 'Not attempted'
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
		display: grid;
		grid-template-rows: auto minmax(0, 1fr) auto;
		height: 100%;
	}
	.bar,
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
		border: 2px solid var(--colour, #6f6879);
		background: var(--white);
		color: var(--colour, #57505f);
		font: inherit;
		font-weight: 600;
		cursor: pointer;
	}
	.question.done {
		background: var(--colour);
		color: #fff;
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
