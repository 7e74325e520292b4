<script lang="ts">
	import { piecesByQuestion, stretchesOf, withoutHeaders } from '$lib/core/mapping/stretches';
	import { namePages } from '$lib/core/rules/finding';
	import { answerables } from '$lib/core/assignment/question';
	import { usePacket } from '../packet/context';
	import CutOut from '../page/CutOut.svelte';
	import { questionColours } from '../theme/questionColours';

	// Each question's work in sequence, as the grader will see it: a wrong seam is plain at once.
	const store = usePacket();
	const questions = $derived(answerables(store.sheet.questions));
	const colour = $derived(questionColours(questions.map((q) => q.id)));
	const pieces = $derived(
		piecesByQuestion(
			withoutHeaders(stretchesOf(store.mapped), (page) => store.view.pages[page]?.reading?.lines ?? null)
		)
	);
	const confirmed = $derived(new Set(store.packet.seams.flatMap((s) => s.questions)));
	const pagesOf = (positions: number[]) => namePages([...new Set(positions)]);
</script>

<section aria-labelledby="cut-outs-title">
	<h2 id="cut-outs-title">What the grader will see</h2>
	{#each questions as question (question.id)}
		{@const own = pieces.get(question.id)}
		<div class="question">
			<h3>
				<b style:background={colour(question.id)}>{question.id}</b>
				<span>
					{own
						? `${pagesOf(own.map((p) => p.position))}${confirmed.has(question.id) ? '' : ', proposed'}`
						: store.packet.notAttempted.includes(question.id)
							? 'not attempted'
							: 'nothing placed yet'}{question.marks !== null ? `; ${question.marks} marks` : ''}
				</span>
			</h3>
			{#each own ?? [] as piece (`${piece.page} ${piece.top}`)}
				<div class="piece">
					<CutOut
						page={piece.page}
						top={piece.top}
						bottom={piece.bottom}
						alt="Page {piece.position}, part for {question.id}"
					/>
				</div>
			{/each}
		</div>
	{/each}
</section>

<style>
	section {
		padding: 1.25rem 1rem;
	}
	h2 {
		margin-bottom: 0.75rem;
		font-size: 1.125rem;
	}
	.question {
		padding: 0.5rem 0;
		border-top: 1px solid var(--rule);
	}
	h3 {
		display: flex;
		align-items: center;
		gap: 0.5rem;
		font-size: 0.875rem;
		font-weight: 400;
		color: var(--ink-soft);
	}
	b {
		min-width: 1.5rem;
		padding: 0.0625rem 0.375rem;
		color: #fff;
		text-align: center;
	}
	.piece {
		margin-top: 0.375rem;
	}
</style>
