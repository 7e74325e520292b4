<script lang="ts">
	import { page } from '$app/state';
	import { describeRules } from '$lib/core/check/describeRules';
	import { answerables } from '$lib/core/assignment/question';
	import type { RuleSheet } from '$lib/core/rules/ruleSheet';
	import { questionColours } from '../theme/questionColours';
	import LevelMark from '../theme/LevelMark.svelte';

	let { sheet }: { sheet: RuleSheet } = $props();
	/** On one's own there is no student but oneself. */
	const own = $derived(page.data.own as boolean);
	const person = $derived(
		own ? (page.data.person as { given: string; family: string }) : { given: 'Ilka', family: 'Brandsma' }
	);
	const asked = $derived(describeRules(sheet, person));
	const questions = $derived(answerables(sheet.questions));
	const colour = $derived(questionColours(questions.map((q) => q.id)));
	const marks = $derived(questions.reduce((sum, q) => sum + (q.marks ?? 0), 0));
</script>

<section aria-labelledby="specimen-title">
	<p class="caption">{own ? 'This will be checked' : 'A student will see'}</p>
	<h2 id="specimen-title">{sheet.title || 'Untitled'}</h2>
	<div class="questions">
		{#each questions as question (question.id)}
			<span style:background={colour(question.id)}>
				{question.id}{#if question.marks !== null}<small>{question.marks}</small>{/if}
			</span>
		{/each}
		{#if marks > 0}<em>{marks} marks</em>{/if}
	</div>
	<ul>
		{#each asked as { rule, text, level } (rule)}
			<li>
				<LevelMark {level} size={16} />
				<span>{text}</span>
				<small
					>{level === 'blocks'
						? 'or it cannot be handed in'
						: own
							? 'or you are asked to look'
							: 'or they are asked to look'}</small
				>
			</li>
		{/each}
	</ul>
</section>

<style>
	section {
		padding: 1.25rem;
		background: var(--white);
		border: 1px solid var(--rule);
		box-shadow: 0 1px 4px rgb(42 31 61 / 0.15);
	}
	.caption {
		color: var(--ink-soft);
		font-size: 0.8125rem;
	}
	h2 {
		margin: 0.25rem 0 0.75rem;
		font-size: 1.25rem;
		overflow-wrap: anywhere;
	}
	.questions {
		display: flex;
		flex-wrap: wrap;
		gap: 0.25rem;
		margin-bottom: 0.75rem;
		align-items: center;
	}
	.questions span {
		display: inline-flex;
		gap: 0.375rem;
		align-items: baseline;
		padding: 0.125rem 0.5rem;
		color: #fff;
		font-size: 0.875rem;
		font-weight: 600;
	}
	.questions small {
		font-weight: 400;
	}
	em {
		margin-left: 0.5rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
		font-style: normal;
	}
	ul {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		display: grid;
		grid-template-columns: auto 1fr;
		gap: 0 0.625rem;
		padding: 0.375rem 0;
		border-top: 1px solid var(--rule);
		font-size: 0.9375rem;
		overflow-wrap: anywhere;
	}
	li small {
		grid-column: 2;
		color: var(--ink-soft);
		font-size: 0.75rem;
	}
</style>
