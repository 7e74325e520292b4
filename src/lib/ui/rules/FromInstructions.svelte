<script lang="ts">
	import { page } from '$app/state';
	import { Button, TextArea } from 'carbon-components-svelte';
	import { describeProposal } from '$lib/core/instructions/describeProposal';
	import type { Proposal, Span } from '$lib/core/instructions/proposal';
	import { plural } from '$lib/core/rules/finding';
	import FileDrop from '../frame/FileDrop.svelte';
	import LevelMark from '../theme/LevelMark.svelte';
	import { readPaper } from './readPaper';

	interface Props {
		/** Whose clock times are meant by. */
		timeZone: string;
		/** Takes what was chosen into the rule sheet. */
		ontake: (proposals: Proposal[]) => void;
	}
	let { timeZone, ontake }: Props = $props();

	let text = $state('');
	/** What the text says; null while it is being written. */
	let found = $state.raw<readonly Proposal[] | null>(null);
	let chosen = $state<Record<string, boolean>>({});
	let pointed = $state<string | null>(null);
	let reading = $state<string | null>(null);
	let problem = $state<string | null>(null);

	const taken = $derived((found ?? []).filter((p) => chosen[p.kind]));

	/** Pieces of the text, each with the proposals whose words it holds. */
	const pieces = $derived.by(() => {
		const all = (found ?? []).flatMap((p) => p.spans.map((span) => ({ ...span, p })));
		const borders = [...new Set([0, text.length, ...all.flatMap((s: Span) => [s.from, s.to])])].sort(
			(a, b) => a - b
		);
		return borders.slice(0, -1).map((from, i) => ({
			from,
			text: text.slice(from, borders[i + 1]),
			of: all.filter((s) => s.from <= from && s.to >= borders[i + 1]!).map((s) => s.p)
		}));
	});

	async function find(): Promise<void> {
		problem = null;
		const { readInstructions } = await import('$lib/core/instructions/readInstructions');
		const { locale } = Intl.DateTimeFormat().resolvedOptions();
		found = readInstructions(text, { now: Date.now(), timeZone, dayFirst: locale !== 'en-US' });
		chosen = Object.fromEntries(found.map((p) => [p.kind, p.sure]));
	}

	async function fromFile(file: File): Promise<void> {
		if (reading) return;
		problem = null;
		reading = 'Bringing it in …';
		try {
			const read = await readPaper(file, (number, pages) => {
				reading = `Reading page ${number} of ${pages} …`;
			});
			text = [text.trim(), read].filter(Boolean).join('\n');
			if (read.trim() === '')
				problem = 'No writing was found on it. Photograph it closer, or type what it says.';
			else await find();
		} catch (error) {
			problem = (error as Error).message;
		} finally {
			reading = null;
		}
	}
</script>

<section>
	<FileDrop
		name="Rules out of instructions"
		what="Instructions or question paper"
		accept="application/pdf,image/*"
		onfile={fromFile}
	>
		{#snippet children(choose)}
			{#if problem}<p class="line" role="alert"><LevelMark level="look" /> {problem}</p>{/if}
			{#if found === null}
				<TextArea
					labelText={page.data.own
						? 'What you were told to hand in, or the question paper'
						: 'Your instructions, or the question paper'}
					placeholder="Paste it here, such as: One PDF, at most 10 MB, 4 to 6 pages, called Family_Given_HW3, due Friday 5 pm; answer questions 1, 2 (a) to (c) and 3; start question 3 on a new page."
					rows={6}
					bind:value={text}
				/>
				<div class="buttons">
					<Button size="field" disabled={text.trim() === '' || reading !== null} on:click={find}
						>Find the rules in it</Button
					>
					<button type="button" class="quiet" disabled={reading !== null} onclick={choose}>
						Read it off a PDF or a photograph
					</button>
					{#if reading}<span class="hint" aria-live="polite">{reading}</span>{/if}
				</div>
			{:else}
				<div class="found">
					<div class="text" aria-label="The text, with the words that rules come from">
						{#each pieces as piece (piece.from)}{#if piece.of.length > 0}<mark
									class:unsure={piece.of.every((p) => !p.sure)}
									class:pointed={piece.of.some((p) => p.kind === pointed)}
									title={piece.of.map((p) => describeProposal(p).join(': ')).join('\n')}>{piece.text}</mark
								>{:else}{piece.text}{/if}{/each}
					</div>
					<div class="rules">
						{#if found.length === 0}
							<p>No rule was found in this text. Write it below by hand, or change the text.</p>
						{:else}
							<ul>
								{#each found as p (p.kind)}
									{@const [about, says] = describeProposal(p)}
									<li>
										<label onpointerenter={() => (pointed = p.kind)} onpointerleave={() => (pointed = null)}>
											<input
												type="checkbox"
												bind:checked={chosen[p.kind]}
												onfocus={() => (pointed = p.kind)}
												onblur={() => (pointed = null)}
											/>
											<span><small>{about}</small> {says}</span>
											{#if !p.sure}<em><LevelMark level="look" size={16} /> not sure</em>{/if}
										</label>
									</li>
								{/each}
							</ul>
						{/if}
						<div class="buttons">
							{#if found.length > 0}
								<Button size="field" disabled={taken.length === 0} on:click={() => ontake([...taken])}>
									Put {plural(taken.length, 'rule')} into the sheet
								</Button>
							{/if}
							<button type="button" class="quiet" onclick={() => (found = null)}>Change the text</button>
						</div>
					</div>
				</div>
			{/if}
		{/snippet}
	</FileDrop>
</section>

<style>
	section {
		padding: 1.25rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	.found {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		gap: 1.5rem;
		align-items: start;
	}
	.text {
		max-height: 24rem;
		overflow: auto;
		line-height: 1.9;
		white-space: pre-wrap;
		overflow-wrap: anywhere;
	}
	mark {
		padding: 0.125rem 0;
		background: var(--selected-soft);
		color: inherit;
		border-bottom: 2px solid var(--violet);
	}
	mark.unsure {
		background: var(--look-soft);
		border-bottom: 2px dashed var(--ochre-fill, #b7791f);
	}
	mark.pointed {
		background: var(--fill);
		color: var(--white);
	}
	.rules {
		display: grid;
		gap: 1rem;
	}
	ul {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		border-bottom: 1px solid var(--rule);
	}
	label {
		display: flex;
		align-items: center;
		gap: 0.75rem;
		padding: 0.5rem 0;
		cursor: pointer;
	}
	label span {
		flex: 1;
		overflow-wrap: anywhere;
	}
	small {
		display: block;
		color: var(--ink-soft);
		font-size: 0.75rem;
	}
	em {
		display: inline-flex;
		align-items: center;
		gap: 0.375rem;
		font-size: 0.8125rem;
		font-style: normal;
		white-space: nowrap;
	}
	input[type='checkbox'] {
		width: 1.125rem;
		height: 1.125rem;
		margin: 0;
		accent-color: var(--violet);
	}
	.buttons,
	.line {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.75rem;
	}
	.hint {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	@media (max-width: 700px) {
		.found {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
