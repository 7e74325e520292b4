<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import type { OpenFinding } from '$lib/core/board/summarise';
	import { RULE_TITLES } from '$lib/core/check/check';
	import type { Asked } from '$lib/core/check/describeRules';
	import { formatDue, formatDuration } from '$lib/core/rules/dueTime';
	import { plural } from '$lib/core/rules/finding';
	import LevelMark from '../theme/LevelMark.svelte';

	interface Props {
		row: {
			id: string;
			title: string;
			courseCode: string;
			due: string | null;
			pages: number;
			returnedAt: string | null;
			open: readonly OpenFinding[] | null;
			asked: readonly Asked[];
		};
		/** The server's clock. */
		now: number;
	}
	let { row, now }: Props = $props();
	/** What is wrong is named as far as it can be taken in at once. */
	const MOST = 3;
	const left = $derived(row.due ? Date.parse(row.due) - now : null);
	const worst = $derived(
		[...(row.open ?? [])].sort((a, b) => Number(b.level === 'blocks') - Number(a.level === 'blocks'))
	);
</script>

<section class="next" aria-labelledby="due-next">
	<div class="what">
		<p class="over">{row.returnedAt ? 'Given back to you' : 'Next'}</p>
		<h2 id="due-next">{row.title}</h2>
		<p class="due">
			{#if left === null}No due time{:else if left >= 0}<strong>{formatDuration(left)}</strong> left,
				{formatDue(row.due!)}{:else}<strong>{formatDuration(-left)}</strong> past its time,
				{formatDue(row.due!)}{/if}
		</p>
	</div>
	<div class="missing">
		{#if row.returnedAt}
			<p>Your teacher wrote why. What you change is set beside what was given back.</p>
		{:else if row.pages === 0}
			<ul>
				{#each row.asked.filter((a) => a.rule !== 'due').slice(0, MOST) as { rule, text } (rule)}
					<li>{text}</li>
				{/each}
			</ul>
		{:else if row.open === null}
			<p>{plural(row.pages, 'page')} so far.</p>
		{:else if worst.length === 0}
			<p>
				<LevelMark level="clear" size={16} />
				{plural(row.pages, 'page')}, and nothing is missing. Hand it in.
			</p>
		{:else}
			<ul>
				{#each worst.slice(0, MOST) as { rule, level, message } (rule)}
					<li><LevelMark {level} size={16} /> <span><b>{RULE_TITLES[rule]}</b> {message}</span></li>
				{/each}
				{#if worst.length > MOST}<li class="more">and {worst.length - MOST} more</li>{/if}
			</ul>
		{/if}
	</div>
	<form method="post" action="/assignments/{row.id}/packet">
		<Button type="submit">
			{row.returnedAt ? 'Mend it' : row.pages > 0 ? 'Go on with it' : 'Begin with it'}
		</Button>
	</form>
</section>

<style>
	.next {
		display: grid;
		grid-template-columns: minmax(16rem, 5fr) minmax(14rem, 6fr) auto;
		gap: 1rem 2rem;
		align-items: center;
		margin-bottom: 1.5rem;
		padding: 1.5rem;
		background: var(--white);
		border: 1px solid var(--rule);
		border-left: 6px solid var(--violet);
	}
	.over {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	h2 {
		margin: 0.125rem 0 0.375rem;
		font-size: 1.5rem;
		font-weight: 400;
		line-height: 1.25;
	}
	.due {
		color: var(--ink-soft);
		font-size: 0.9375rem;
	}
	.due strong {
		color: var(--ink);
	}
	ul {
		display: grid;
		gap: 0.375rem;
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li,
	.missing p {
		display: flex;
		align-items: start;
		gap: 0.5rem;
		font-size: 0.9375rem;
		line-height: 1.35;
	}
	li :global(svg),
	.missing p :global(svg) {
		flex: none;
		margin-top: 0.125rem;
	}
	li b {
		font-weight: 600;
	}
	.more {
		padding-left: 1.5rem;
		color: var(--ink-soft);
	}
	@media (max-width: 900px) {
		.next {
			grid-template-columns: 1fr;
			gap: 0.875rem;
			padding: 1.25rem;
		}
	}
</style>
