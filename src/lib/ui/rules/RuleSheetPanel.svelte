<script lang="ts">
	import { RULE_TITLES } from '$lib/core/check/check';
	import type { Finding } from '$lib/core/rules/finding';
	import { usePacket } from '../packet/context';
	import { glide } from '../theme/glide';
	import LevelMark from '../theme/LevelMark.svelte';
	import NextStep from './NextStep.svelte';
	import NoteToTeacher from './NoteToTeacher.svelte';
	import { takeFix } from './takeFix';

	const store = usePacket();
	const count = (level: Finding['level']) => store.findings.filter((f) => f.level === level).length;
	const summary = $derived(
		[
			[count('blocks'), 'blocking'],
			[count('look'), 'to look at'],
			[count('open'), 'not known yet'],
			[count('clear'), 'clear']
		]
			.filter(([n]) => n !== 0)
			.map(([n, word]) => `${n} ${word}`)
			.join(', ')
	);
</script>

<section aria-labelledby="rule-sheet-title">
	<h2 id="rule-sheet-title">Rule sheet</h2>
	<div class="step"><NextStep /></div>
	<p class="summary" aria-live="polite">{store.unjudged ? 'All pages are being checked …' : summary}</p>
	<ul>
		{#each store.findings as finding (finding.rule)}
			<!-- What gets worse or better goes to its place before one's eyes, so that no button is another all at once. -->
			<li class={finding.level} data-rule={finding.rule} data-level={finding.level} animate:glide>
				<LevelMark level={finding.level} />
				<div>
					<h3>{RULE_TITLES[finding.rule]}</h3>
					<p>{finding.message}</p>
					{#if finding.fix && finding.level !== 'clear' && finding.level !== 'open'}
						<button class="textual standing" onclick={() => takeFix(store, finding.fix)}
							>{finding.fix.label}</button
						>
					{/if}
					{#if finding.otherwise && finding.level !== 'clear' && finding.level !== 'open'}
						<button class="textual standing" onclick={() => takeFix(store, finding.otherwise)}
							>{finding.otherwise.label}</button
						>
					{/if}
					{#if finding.level === 'look' && store.view.as === 'owner' && (finding.rule !== 'fileSize' || store.preparing === 0)}
						<NoteToTeacher rule={finding.rule} />
					{/if}
				</div>
			</li>
		{/each}
	</ul>
</section>

<style>
	section {
		padding: 1.25rem 1rem;
	}
	h2 {
		font-size: 1.125rem;
	}
	.step {
		margin-top: 0.5rem;
	}
	/* On a phone it stands at the foot of the screen. */
	@media (max-width: 700px) {
		.step {
			display: none;
		}
	}
	.summary {
		margin: 0.625rem 0 0.75rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	ul {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		display: flex;
		gap: 0.625rem;
		padding: 0.625rem 0;
		border-top: 1px solid var(--rule);
		font-size: 0.875rem;
		line-height: 1.4;
	}
	li > div {
		flex: 1;
		min-width: 0;
		overflow-wrap: anywhere;
	}
	li p {
		font-size: inherit;
	}
	h3 {
		font-size: 0.9375rem;
	}
	.clear,
	.open {
		padding: 0.375rem 0;
	}
	.clear h3,
	.clear p,
	.open h3,
	.open p {
		display: inline;
	}
	.clear p,
	.open p {
		color: var(--ink-soft);
	}
</style>
