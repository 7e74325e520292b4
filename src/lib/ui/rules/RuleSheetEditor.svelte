<script lang="ts">
	import { chosenFiles } from '$lib/ui/frame/chosenFiles';
	import { untrack } from 'svelte';
	import { page } from '$app/state';
	import { Button, InlineNotification, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import { RULE_TITLES } from '$lib/core/check/check';
	import { DEFAULT_LEVELS, RULES, type RuleName, type RuleSheet } from '$lib/core/rules/ruleSheet';
	import { parseRuleSheet, RuleSheetError, type RuleSheetProblem } from '$lib/core/rules/ruleSheetSchema';
	import { TONES } from '$lib/core/tone/tone';
	import { capital, list } from '$lib/core/rules/finding';
	import { toneWords } from '$lib/core/rules/rule/tone';
	import { draftOf, sheetOf } from './ruleSheetDraft';
	import { sheetWith } from '$lib/core/instructions/sheetWith';
	import type { Proposal } from '$lib/core/instructions/proposal';
	import FromInstructions from './FromInstructions.svelte';
	import Specimen from './Specimen.svelte';

	interface Props {
		sheet: RuleSheet;
		/** Saves; returns what is wrong, or null. */
		onsave: (sheet: RuleSheet) => Promise<string | null>;
		saveLabel: string;
		/** IANA name of the zone whose clock the times are in, where the sheet does not say; null: that of the person. */
		timeZone: string | null;
		/** Whether something has not been saved. */
		changed?: boolean;
	}
	let { sheet, onsave, saveLabel, timeZone, changed = $bindable(false) }: Props = $props();
	const clock = untrack(() => timeZone) ?? Intl.DateTimeFormat().resolvedOptions().timeZone;

	let draft = $state(untrack(() => draftOf(sheet, clock)));
	let saved = $state(untrack(() => JSON.stringify(draftOf(sheet, clock))));
	let busy = $state(false);
	let failure = $state<string | null>(null);
	let done = $state<string | null>(null);
	let tried = $state(false);
	let file: HTMLInputElement | undefined = $state();
	$effect.pre(() => {
		changed = JSON.stringify(draft) !== saved;
	});

	const checked = $derived.by((): { sheet: RuleSheet | null; problems: readonly RuleSheetProblem[] } => {
		try {
			return { sheet: parseRuleSheet(sheetOf(draft, clock)), problems: [] };
		} catch (error) {
			if (error instanceof RuleSheetError) return { sheet: null, problems: error.problems };
			throw error;
		}
	});
	/** The specimen keeps showing the last sheet that made sense. */
	let lastGood = $state.raw(untrack(() => sheet));
	$effect(() => {
		if (checked.sheet) lastGood = checked.sheet;
	});
	const shown = $derived({ ...lastGood, course: lastGood.course || draft.course });
	const problemOf = (field: string) =>
		(tried || changed) && checked.problems.find((p) => p.field === field)?.plain;

	const FIELDS: Readonly<Record<keyof RuleSheet, string>> = {
		title: 'Title',
		course: 'Course',
		due: 'Due',
		grace: 'Grace period',
		workUntil: 'Timed session',
		questions: 'Questions',
		pages: 'Pages',
		file: 'File',
		tone: 'Tones',
		legibility: 'Legibility',
		levels: 'Rules'
	};
	const fieldNamed = (field: string) => FIELDS[field.split('.')[0] as keyof RuleSheet] ?? 'Rule sheet';

	const ZONES = Array.from({ length: 27 }, (_, i) => {
		const hours = i - 12;
		return `${hours < 0 ? '-' : '+'}${String(Math.abs(hours)).padStart(2, '0')}:00`;
	});

	function addQuestion(): void {
		draft.questions.push({ label: String(draft.questions.length + 1), marks: '', newPage: false, parts: [] });
	}
	function addPart(q: number): void {
		const { parts } = draft.questions[q]!;
		const start = parts.length === 0 ? ['a', 'b'] : [String.fromCharCode(97 + parts.length)];
		parts.push(...start.map((label) => ({ label, marks: '' })));
	}

	/** Opens by itself where nothing has been written yet. */
	let readsOpen = $state(untrack(() => sheet.title === ''));
	/** What stood there before rules were taken out of instructions. */
	let before = $state.raw<string | null>(null);

	function takeIn(proposals: Proposal[]): void {
		before = JSON.stringify(draft);
		// Levels, and whatever the instructions do not name, stay as they are.
		draft = draftOf(sheetWith(sheetOf(draft, clock) as RuleSheet, proposals), clock);
		readsOpen = false;
	}
	function takeBack(): void {
		draft = JSON.parse(before!) as typeof draft;
		before = null;
		readsOpen = true;
	}

	async function save(): Promise<void> {
		tried = true;
		if (!checked.sheet) return;
		busy = true;
		failure = done = null;
		const keep = JSON.stringify(draft);
		failure = await onsave(checked.sheet).catch(
			() => 'The line is down. What you wrote is still here; try again.'
		);
		busy = false;
		if (failure === null) {
			saved = keep;
			done = 'Saved. Students see it from now on.';
		}
	}

	function exportJson(): void {
		if (!checked.sheet) {
			tried = true;
			return;
		}
		const blob = new Blob([JSON.stringify(checked.sheet, null, '\t')], { type: 'application/json' });
		const link = document.createElement('a');
		link.href = URL.createObjectURL(blob);
		link.download = `${draft.title.replace(/[^\p{L}\p{N}]+/gu, '-') || 'rule-sheet'}.json`;
		link.click();
		setTimeout(() => URL.revokeObjectURL(link.href), 1000);
	}

	async function importJson(chosen: File | undefined): Promise<void> {
		if (!chosen) return;
		failure = done = null;
		try {
			draft = draftOf(parseRuleSheet(JSON.parse(await chosen.text())), clock);
			done = `${chosen.name} is read in. Nothing is saved yet.`;
		} catch (error) {
			failure =
				error instanceof RuleSheetError
					? error.message
					: `${chosen.name} is not JSON: ${(error as Error).message}`;
		}
	}
	const levelOfDraft = (rule: RuleName) => draft.levels[rule] ?? DEFAULT_LEVELS[rule];
</script>

<svelte:window
	onbeforeunload={(e) => {
		if (changed) e.preventDefault();
	}}
/>

<details class="reads" bind:open={readsOpen}>
	<summary
		>Begin from {page.data.own ? 'what you were told' : 'your instructions'}, or from the question paper</summary
	>
	<FromInstructions timeZone={clock} ontake={takeIn} />
</details>
{#if before}
	<p class="taken" role="status">
		The rules were put into the sheet below. Look through them; nothing is saved yet.
		<button type="button" class="textual" onclick={takeBack}>Take them out again</button>
	</p>
{/if}
<div class="editor">
	<form
		novalidate
		onsubmit={(e) => {
			e.preventDefault();
			void save();
		}}
	>
		<fieldset>
			<legend>The assignment</legend>
			<TextInput
				labelText="Title"
				bind:value={draft.title}
				invalid={!!problemOf('title')}
				invalidText={problemOf('title') || ''}
			/>
			<div class="three">
				<TextInput
					labelText="Course, as in file names"
					bind:value={draft.course}
					invalid={!!problemOf('course')}
					invalidText={problemOf('course') || ''}
				/>
				<TextInput type="datetime-local" labelText="Due" bind:value={draft.dueLocal} />
				<Select labelText="Time zone" bind:selected={draft.zone}>
					<SelectItem value="" text={clock.replaceAll('_', ' ')} />
					{#each draft.zone === '' || ZONES.includes(draft.zone) ? ZONES : [draft.zone, ...ZONES] as zone (zone)}<SelectItem
							value={zone}
							text="UTC{zone}"
						/>{/each}
				</Select>
			</div>
			<div class="three">
				<TextInput
					labelText="Grace period, in minutes"
					helperText="Later than due, still taken, marked late"
					inputmode="numeric"
					bind:value={draft.grace}
					invalid={!!problemOf('grace')}
					invalidText={problemOf('grace') || ''}
				/>
				<TextInput
					type="datetime-local"
					labelText="Timed session: write until"
					helperText="From then until due: photograph and hand in"
					bind:value={draft.workUntilLocal}
					invalid={!!problemOf('workUntil')}
					invalidText={problemOf('workUntil') || ''}
				/>
			</div>
		</fieldset>

		<fieldset>
			<legend>Questions</legend>
			{#if problemOf('questions')}<p class="problem">{problemOf('questions')}</p>{/if}
			<ol>
				{#each draft.questions as question, q (q)}
					<li>
						<div class="question">
							<label
								>Label <input
									class="short"
									bind:value={question.label}
									aria-invalid={!!problemOf(`questions.${q}.label`)}
								/></label
							>
							{#if question.parts.length === 0}
								<label>Marks <input class="short" inputmode="decimal" bind:value={question.marks} /></label>
							{/if}
							<label class="tick"
								><input type="checkbox" bind:checked={question.newPage} /> on a new page</label
							>
							<button type="button" class="textual" onclick={() => addPart(q)}
								>{question.parts.length ? 'Add a part' : 'Split into parts'}</button
							>
							<button
								type="button"
								class="textual"
								disabled={draft.questions.length === 1}
								onclick={() => draft.questions.splice(q, 1)}>Remove</button
							>
						</div>
						{#each ['label', 'marks'] as field (field)}
							{#if problemOf(`questions.${q}.${field}`)}<p class="problem">
									{problemOf(`questions.${q}.${field}`)}
								</p>{/if}
						{/each}
						{#each question.parts as part, p (p)}
							<div class="question part">
								<label>Part <input class="short" bind:value={part.label} /></label>
								<label>Marks <input class="short" inputmode="decimal" bind:value={part.marks} /></label>
								<button type="button" class="textual" onclick={() => question.parts.splice(p, 1)}
									>Remove</button
								>
							</div>
							{#each ['label', 'marks'] as field (field)}
								{#if problemOf(`questions.${q}.parts.${p}.${field}`)}<p class="problem">
										{problemOf(`questions.${q}.parts.${p}.${field}`)}
									</p>{/if}
							{/each}
						{/each}
					</li>
				{/each}
			</ol>
			<button type="button" class="quiet" onclick={addQuestion}>Add a question</button>
		</fieldset>

		<fieldset>
			<legend>Pages</legend>
			<div class="three">
				<TextInput
					labelText="At least"
					placeholder="any"
					bind:value={draft.min}
					invalid={!!problemOf('pages.min')}
					invalidText={problemOf('pages.min') || ''}
				/>
				<TextInput
					labelText="At most"
					placeholder="any"
					bind:value={draft.max}
					invalid={!!problemOf('pages.max')}
					invalidText={problemOf('pages.max') || ''}
				/>
				<Select labelText="Paper" bind:selected={draft.size}>
					<SelectItem value="" text="any" />
					{#each ['A4', 'A5', 'Letter', 'Legal'] as size (size)}<SelectItem value={size} text={size} />{/each}
				</Select>
			</div>
			{#if problemOf('pages')}<p class="problem">{problemOf('pages')}</p>{/if}
			<div class="ticks" role="group" aria-label="Tones allowed">
				<span>Tones allowed</span>
				{#each TONES as tone (tone)}
					<label class="tick">
						<input
							type="checkbox"
							checked={draft.tones.length === 0 || draft.tones.includes(tone)}
							onchange={(e) => {
								const now = draft.tones.length === 0 ? [...TONES] : draft.tones;
								const next = e.currentTarget.checked ? [...now, tone] : now.filter((t) => t !== tone);
								if (next.length === 0) e.currentTarget.checked = true;
								else draft.tones = TONES.filter((t) => next.includes(t));
							}}
						/>
						{toneWords(tone)}
					</label>
				{/each}
			</div>
			<Select labelText="Legibility" bind:selected={draft.legibility}>
				<SelectItem value="doubtful" text="Doubtful pages pass, unreadable ones do not" />
				<SelectItem value="clear" text="Only clear pages pass" />
			</Select>
		</fieldset>

		<fieldset>
			<legend>The file</legend>
			<TextInput
				labelText="Name pattern"
				helperText={'Tokens: {family} {given} {course} {title}'}
				bind:value={draft.namePattern}
				invalid={!!problemOf('file.namePattern')}
				invalidText={problemOf('file.namePattern') || ''}
			/>
			<div class="three">
				<Select labelText="Handed in as" bind:selected={draft.type}>
					<SelectItem value="pdf" text="one PDF" />
					<SelectItem value="zip" text="page images in a ZIP" />
				</Select>
				<TextInput
					labelText="At most, in MB"
					placeholder="any"
					bind:value={draft.megabytes}
					invalid={!!problemOf('file.maxBytes')}
					invalidText={problemOf('file.maxBytes') || ''}
				/>
			</div>
		</fieldset>

		<fieldset>
			<legend>When a rule is not met</legend>
			<p class="hint">
				{capital(
					list(RULES.filter((r) => levelOfDraft(r) === 'blocks').map((r) => RULE_TITLES[r].toLowerCase()))
				)} block the hand-in. The others ask to look.
			</p>
			<details>
				<summary>Change what a rule does</summary>
				<div class="levels">
					{#each RULES as rule (rule)}
						<label>
							<span>{RULE_TITLES[rule]}</span>
							<select
								value={levelOfDraft(rule)}
								onchange={(e) => (draft.levels[rule] = e.currentTarget.value)}
							>
								<option value="blocks">blocks the hand-in</option>
								<option value="look">asks to look</option>
							</select>
						</label>
					{/each}
				</div>
			</details>
		</fieldset>

		<div class="foot">
			{#if failure}<InlineNotification
					kind="error"
					lowContrast
					title="Not done."
					subtitle={failure}
					on:close={() => (failure = null)}
				/>{/if}
			{#if done && !changed}<InlineNotification
					kind="success"
					lowContrast
					title={done}
					on:close={() => (done = null)}
				/>{/if}
			{#if tried && checked.problems.length > 0}
				<p class="problem">
					Not done yet. {checked.problems.map((p) => `${fieldNamed(p.field)}: ${p.plain}`).join(' ')}
				</p>
			{/if}
			<div class="buttons">
				<Button type="submit" disabled={busy}>{saveLabel}</Button>
				<button type="button" class="quiet" onclick={exportJson}>Export as JSON</button>
				<button type="button" class="quiet" onclick={() => file?.click()}>Import JSON</button>
				<input
					bind:this={file}
					class="out-of-sight"
					type="file"
					accept="application/json,.json"
					aria-label="Rule sheet to import"
					tabindex="-1"
					{@attach chosenFiles(([file]) => void importJson(file))}
				/>
				{#if changed}<span class="hint">Not saved yet</span>{/if}
			</div>
		</div>
	</form>
	<div class="side"><Specimen sheet={shown} /></div>
</div>

<style>
	.reads {
		margin-bottom: 1.5rem;
	}
	summary {
		padding: 0.5rem 0;
		color: var(--violet);
		cursor: pointer;
	}
	.taken {
		margin-bottom: 1.5rem;
	}
	.editor {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 22rem;
		gap: 2rem;
		align-items: start;
	}
	form {
		display: grid;
		gap: 1.75rem;
	}
	fieldset {
		display: grid;
		gap: 1rem;
		margin: 0;
		padding: 0;
		border: 0;
		min-width: 0;
	}
	fieldset > .quiet {
		justify-self: start;
	}
	legend {
		margin-bottom: 0.75rem;
		padding: 0;
		font-size: 1.25rem;
	}
	.three {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(10rem, 100%), 1fr));
		gap: 1rem;
	}
	ol {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		padding: 0.375rem 0;
		border-top: 1px solid var(--rule);
	}
	.question {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.375rem 1rem;
		min-height: 2.25rem;
		font-size: 0.875rem;
	}
	.question .textual {
		min-width: 1.5rem;
		min-height: 1.75rem;
	}
	.part {
		padding-left: 2rem;
	}
	.short {
		width: 4rem;
		height: 2rem;
		margin-left: 0.375rem;
		padding: 0 0.5rem;
		border: 1px solid var(--edge);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		box-sizing: border-box;
	}
	.short[aria-invalid='true'] {
		border-color: var(--brick);
	}
	.tick {
		display: inline-flex;
		align-items: center;
		gap: 0.375rem;
	}
	input[type='checkbox'] {
		width: 1rem;
		height: 1rem;
		margin: 0;
		accent-color: var(--violet);
	}
	.ticks {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem 1.25rem;
		font-size: 0.875rem;
	}
	.ticks > span,
	.hint {
		color: var(--ink-soft);
	}
	.levels {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(17rem, 100%), 1fr));
		gap: 0.5rem 2rem;
		padding-top: 0.5rem;
	}
	.levels label {
		display: flex;
		justify-content: space-between;
		align-items: center;
		gap: 1rem;
		font-size: 0.875rem;
	}
	.levels select {
		height: 2rem;
		border: 1px solid var(--edge);
		background: var(--white);
		color: var(--ink);
		font: inherit;
	}
	.problem {
		color: var(--brick);
		font-size: 0.875rem;
	}
	.foot {
		position: sticky;
		bottom: 0;
		padding: 0.75rem 0;
		background: var(--paper);
		border-top: 1px solid var(--rule);
	}
	.foot .problem {
		margin-bottom: 0.75rem;
	}
	.buttons {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.75rem;
	}
	.side {
		position: sticky;
		top: 1rem;
	}
	@media (max-width: 900px) {
		/* It would hide half of a small screen. */
		.foot {
			position: static;
		}
		.editor {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
