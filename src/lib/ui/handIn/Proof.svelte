<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { piecesByQuestion, stretchesOf, withoutHeaders } from '$lib/core/mapping/stretches';
	import { notesThatGo } from '$lib/core/check/notes';
	import { formatDue, formatDuration } from '$lib/core/rules/dueTime';
	import { list, namePages, plural } from '$lib/core/rules/finding';
	import { aboutMore } from '../packet/pace';
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import { answerables } from '$lib/core/assignment/question';
	import { RULE_TITLES } from '$lib/core/check/check';
	import type { FileRow } from '$lib/server/store/deliveries';
	import { usePacket } from '../packet/context';
	import Awaited from '../page/Awaited.svelte';
	import LevelMark from '../theme/LevelMark.svelte';
	import WhereTo, { type ChosenTarget } from './WhereTo.svelte';

	interface Props {
		/** Made of the packet as it stands; null while there is none. */
		file: FileRow | null;
		busy: boolean;
		/** Whether something was received already. */
		again: boolean;
		onmake: () => void;
		onhandin: (target: ChosenTarget, comment: string) => void;
	}
	let { file, busy, again, onmake, onhandin }: Props = $props();

	const store = usePacket();
	const blocking = $derived(store.findings.filter((f) => f.level === 'blocks'));
	const looks = $derived(store.findings.filter((f) => f.level === 'look'));
	const going = $derived(notesThatGo(store.packet.notes, store.findings));
	/** The header of a page, above the first seam on it, is not told as work on the question before. */
	const stretches = $derived(
		withoutHeaders(stretchesOf(store.packet), (id) => store.view.pages[id]?.reading?.lines ?? null)
	);
	const pieces = $derived(piecesByQuestion(stretches));
	const due = $derived(store.sheet.due);
	const left = $derived(due ? Date.parse(due) - store.now : null);
	const ready = $derived(store.waiting === 0 && store.preparing === 0);
	let target = $state<ChosenTarget>({ target: 'portal', to: '', confirmed: '', ready: false });
	let comment = $state('');

	/** Of a page as it was prepared, so that nothing moves when its picture comes. */
	function ratioOf(index: number): number | undefined {
		const prepared = store.view.pages[store.packet.strip[index] ?? '']?.prepared;
		return prepared ? prepared.width / prepared.height : undefined;
	}

	function questionsOn(position: number): string {
		const here = stretches.filter((s) => s.pieces.some((p) => p.position === position));
		const questions = [...new Set(here.flatMap((s) => s.questions))];
		if (questions.length === 0) return 'no question';
		return `${questions.length === 1 ? 'question' : 'questions'} ${list(questions)}`;
	}
</script>

<section class="card" aria-labelledby="to-send">
	<p class="over" id="to-send">
		{again ? 'The changed packet, in place of the one received' : 'This will be handed in'}
	</p>
	<h2>{store.sheet.title}</h2>
	<p class="large">
		{store.view.assignment.courseCode}{#if due}, <span class:late={left! < 0}
				>due {formatDue(due)}, {left! >= 0
					? `in ${formatDuration(left!)}`
					: `${formatDuration(-left!)} ago`}</span
			>
		{/if}
	</p>
	{#if file}
		<p class="large">
			<b>{file.name}.{file.type}</b>
			<span class="soft">{plural(file.pages ?? 0, 'page')}, {formatBytes(file.bytes ?? 0)}</span>
		</p>
	{/if}
	{#if blocking.length > 0}
		<ul class="troubles">
			{#each blocking as finding (finding.rule)}
				<li>
					<LevelMark level="blocks" /> <span><b>{RULE_TITLES[finding.rule]}:</b> {finding.message}</span>
				</li>
			{/each}
		</ul>
		<p class="soft">The rule sheet leads to each of them. The file can be made and looked at all the same.</p>
	{:else if looks.length > 0}
		<p class="trouble">
			<LevelMark level="look" />
			{looks.length} to look at. They do not stop you; a note to the teacher can go along with each.
		</p>
	{/if}
	{#if !file}
		<div class="buttons">
			<Button disabled={busy || !ready} on:click={onmake}>
				{busy ? 'Making the file …' : 'Make the file and look at it'}
			</Button>
			{#if store.preparing > 0}
				<span class="soft"
					>{plural(store.preparing, 'page')} still being prepared{store.moreTime
						? `, ${aboutMore(store.moreTime)}`
						: ''}</span
				>
			{/if}
		</div>
	{:else}
		<ol class="proof" aria-label="Pages of the file, in sequence">
			{#each { length: file.pages ?? 0 } as _, i (i)}
				<li>
					<a
						href="/api/packets/{store.view.id}/files/{file.id}/pages/{i + 1}"
						target="_blank"
						rel="noopener"
						title="Page {i + 1}, larger"
					>
						<Awaited
							src="/api/packets/{store.view.id}/files/{file.id}/pages/{i + 1}"
							alt="Page {i + 1} of the file"
							ratio={ratioOf(i)}
						/>
					</a>
					<span><b>Page {i + 1}</b>, {questionsOn(i + 1)}</span>
				</li>
			{/each}
		</ol>
		<p class="contents" aria-label="What each question contains">
			{#each answerables(store.sheet.questions) as question (question.id)}
				{@const own = pieces.get(question.id)}
				<span>
					<b>{question.id}</b>
					{#if own}{namePages([...new Set(own.map((p) => p.position))])}
					{:else if store.packet.notAttempted.includes(question.id)}not attempted
					{:else}<em>nothing placed</em>{/if}
				</span>
			{/each}
		</p>
		{#if going.length > 0}
			<div class="notes">
				<b>Notes that go along</b>
				{#each going as { finding, note } (finding.rule)}
					<p><span class="soft">{RULE_TITLES[finding.rule]}:</span> {note}</p>
				{/each}
			</div>
		{/if}
		<WhereTo bind:outcome={target} />
		<label class="comment">
			<span>Comment for the teacher, if you like</span>
			<textarea rows="2" maxlength="2000" bind:value={comment}></textarea>
		</label>
		<p class="hash">SHA-256 <code>{file.sha256}</code></p>
		<div class="buttons last">
			<Button
				disabled={busy || blocking.length > 0 || !target.ready}
				on:click={() => onhandin(target, comment)}>{again ? 'Hand in instead' : 'Hand in now'}</Button
			>
			<a class="quiet" href="/api/packets/{store.view.id}/files/{file.id}?open" target="_blank" rel="noopener"
				>Open the file itself</a
			>
		</div>
	{/if}
</section>

<style>
	.card {
		display: grid;
		gap: 0.875rem;
		padding: 1.5rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	.over {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	h2 {
		margin-top: -0.5rem;
		font-size: 1.875rem;
		font-weight: 400;
		line-height: 1.2;
	}
	.large {
		font-size: 1.25rem;
		overflow-wrap: anywhere;
	}
	.large b {
		font-weight: 600;
	}
	.soft {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.late {
		color: var(--brick);
	}
	.troubles {
		display: grid;
		gap: 0.5rem;
		margin: 0;
		padding: 0.875rem;
		border: 1px solid var(--brick);
		list-style: none;
		font-size: 0.9375rem;
	}
	.troubles li,
	.trouble {
		display: flex;
		align-items: flex-start;
		gap: 0.5rem;
		font-size: 0.9375rem;
	}
	.proof {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(13rem, 1fr));
		gap: 1rem;
		margin: 0;
		padding: 1rem;
		list-style: none;
		background: var(--table);
	}
	.proof li {
		display: grid;
		align-content: start;
		gap: 0.25rem;
		font-size: 0.875rem;
	}
	.contents {
		display: flex;
		flex-wrap: wrap;
		gap: 0.375rem 1.25rem;
		font-size: 0.9375rem;
	}
	.notes {
		display: grid;
		gap: 0.375rem;
		padding: 0.875rem;
		border-left: 3px solid var(--ochre-fill);
		background: var(--paper);
		font-size: 0.9375rem;
	}
	.buttons {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.75rem;
	}
	.contents b,
	.proof b {
		font-weight: 600;
	}
	.contents em {
		color: var(--brick);
		font-style: normal;
	}
	.comment {
		display: grid;
		gap: 0.25rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	textarea {
		padding: 0.5rem;
		border: 1px solid var(--ink-soft);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 1rem;
		resize: vertical;
	}
	.last {
		position: sticky;
		bottom: 0;
		margin: 0 -1.5rem -1.5rem;
		padding: 0.75rem 1.5rem;
		border-top: 1px solid var(--rule);
		background: var(--white);
	}
	.hash {
		color: var(--ink-soft);
		font-size: 0.75rem;
		overflow-wrap: anywhere;
	}
</style>
