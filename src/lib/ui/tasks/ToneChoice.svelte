<script lang="ts">
	import type { ToneSuggestion } from '$lib/core/tone/suggestTone';
	import { capital } from '$lib/core/rules/finding';
	import { TONE_KINDS, TONES, type Tone, type ToneName } from '$lib/core/tone/tone';
	import PageCanvas from '../page/PageCanvas.svelte';

	interface Props {
		tone: Tone;
		allowed: readonly ToneName[];
		/** The person's own page in each tone. */
		samples: Partial<Record<ToneName, ImageData>>;
		suggestion: ToneSuggestion | null;
		set: (next: Partial<Tone>) => void;
	}
	let { tone, allowed, samples, suggestion, set }: Props = $props();

	const titleOf = (name: ToneName) => capital(TONE_KINDS[name].words);
</script>

<div class="choices" role="radiogroup" aria-label="Tone">
	{#each TONES as name (name)}
		<button
			role="radio"
			aria-checked={tone.name === name}
			class:chosen={tone.name === name}
			onclick={() => set({ name })}
		>
			<span class="sample"><PageCanvas image={samples[name] ?? null} label="" /></span>
			<span>{titleOf(name)}</span>
			{#if suggestion}
				<span class="reads" title="Legibility in this tone"
					>{Math.round(100 * suggestion.legibility[name])} of 100</span
				>
			{/if}
			{#if !allowed.includes(name)}<small>not allowed here</small>{/if}
		</button>
	{/each}
</div>
{#if suggestion}
	<p class="suggestion">
		<b>{titleOf(suggestion.name)}</b> suits this page: {suggestion.reason}.
		{#if suggestion.name !== tone.name}
			<button class="textual" onclick={() => set({ name: suggestion.name })}>Use it</button>
		{/if}
	</p>
{/if}

<style>
	.choices {
		display: grid;
		grid-template-columns: repeat(3, 1fr);
		gap: 0.5rem;
	}
	button[role='radio'] {
		display: flex;
		flex-direction: column;
		align-items: center;
		gap: 0.125rem;
		padding: 0.375rem 0.25rem;
		border: 1px solid var(--rule);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 0.8125rem;
		line-height: 1.25;
		cursor: pointer;
	}
	button.chosen {
		outline: 3px solid var(--violet);
		outline-offset: -1px;
		font-weight: 600;
	}
	.sample {
		display: block;
		width: 100%;
		height: 5.5rem;
		margin-bottom: 0.125rem;
		overflow: hidden;
	}
	/* The upper left of the page, large enough to judge the strokes. */
	.sample :global(canvas) {
		width: 280%;
		max-width: none;
		margin: -12% 0 0 -34%;
		max-height: none;
		box-shadow: none;
	}
	.reads {
		color: var(--ink-soft);
		font-weight: 400;
	}
	small {
		color: var(--brick);
	}
	.suggestion {
		font-size: 0.875rem;
	}
</style>
