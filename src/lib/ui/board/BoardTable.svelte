<script lang="ts">
	import {
		isLate,
		standingOf,
		type BoardSort,
		type BoardStudent,
		type Standing
	} from '$lib/core/board/board';
	import { STANDING_WORDS } from '$lib/core/board/boardTable';
	import { RULE_TITLES } from '$lib/core/check/check';
	import { formatDue } from '$lib/core/rules/dueTime';
	import type { CellState } from '$lib/core/board/summarise';
	import LevelMark from '../theme/LevelMark.svelte';
	import BoardCell from './BoardCell.svelte';
	import type { BoardStore } from './boardStore.svelte';

	interface Props {
		store: BoardStore;
		/** When this teacher last looked: what came in since is new. */
		since: string | null;
	}
	let { store, since }: Props = $props();
	const { board, shown, sort } = $derived(store);
	const all = $derived(shown.length > 0 && shown.every((s) => store.marked.includes(s.id)));

	const MARKS: Record<Standing, CellState> = {
		none: 'absent',
		checking: 'open',
		blocked: 'blocks',
		ready: 'clear',
		returned: 'look',
		'on-its-way': 'open',
		'handed-in': 'clear'
	};
	const when = (at: string) =>
		new Date(at).toLocaleString('en-GB', {
			day: 'numeric',
			month: 'short',
			hour: '2-digit',
			minute: '2-digit'
		});
	const isNew = (s: BoardStudent) =>
		since !== null && s.handedInAt !== null && Date.parse(s.handedInAt) > Date.parse(since);
	const openOf = (s: BoardStudent) => s.summary?.open ?? [];
	const first = (s: BoardStudent) => openOf(s).find((f) => f.level === 'blocks') ?? openOf(s)[0];
	const every = (s: BoardStudent) =>
		openOf(s)
			.map((f) => `${RULE_TITLES[f.rule]}: ${f.message}`)
			.join('\n');
	function placeOf(s: BoardStudent): string {
		const { task, page } = first(s)!;
		return `/packets/${s.packetId}/${task ?? 'order'}${page ? `?page=${encodeURIComponent(page)}` : ''}`;
	}
</script>

{#snippet head(by: BoardSort, title: string)}
	<th scope="col" aria-sort={sort.by === by ? (sort.down ? 'descending' : 'ascending') : 'none'}>
		<button class="sort" onclick={() => store.sortBy(by)}
			>{title} <span aria-hidden="true">{sort.by === by ? (sort.down ? '▾' : '▴') : ''}</span></button
		>
	</th>
{/snippet}

<!-- It scrolls sideways where there are many questions. -->
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div class="scroll" tabindex="0" role="region" aria-label="Students and questions">
	<table>
		<thead>
			<tr>
				<th scope="col" class="check">
					<input
						type="checkbox"
						checked={all}
						indeterminate={!all && store.chosen.length > 0}
						aria-label="Mark everybody who is shown"
						onchange={(e) => store.markAll(e.currentTarget.checked)}
					/>
				</th>
				{@render head('name', 'Student')}
				{@render head('standing', 'State')}
				{@render head('pages', 'Pages')}
				{#each board.questions as question (question)}
					<th scope="col" class="question">{question}</th>
				{/each}
				<th scope="col">What is open</th>
				<th scope="col"><span class="out-of-sight">Packet</span></th>
			</tr>
		</thead>
		<tbody>
			{#each shown as student (student.id)}
				{@const standing = standingOf(student)}
				<tr
					class:marked={store.marked.includes(student.id)}
					data-student={student.id}
					data-standing={standing}
				>
					<td class="check">
						<input
							type="checkbox"
							checked={store.marked.includes(student.id)}
							aria-label="Mark {student.given} {student.family}"
							onchange={(e) => store.mark(student.id, e.currentTarget.checked)}
						/>
					</td>
					<th scope="row">{student.family}, {student.given}</th>
					<td>
						<div class="state">
							<LevelMark level={MARKS[standing]} size={16} />
							<span>
								{STANDING_WORDS[standing]}
								{#if student.handedInAt && standing === 'handed-in'}<small>{when(student.handedInAt)}</small
									>{/if}
								{#if isNew(student)}<small class="new">new</small>{/if}
								{#if student.returnedAt && standing === 'returned'}<small>{when(student.returnedAt)}</small
									>{/if}
								{#if isLate(board, student)}<small class="late">late</small>{/if}
								{#if student.changedSince && standing === 'handed-in'}<small>changed since</small>{/if}
								{#if student.moreTime}<small>until {formatDue(student.moreTime)}</small>{/if}
							</span>
						</div>
					</td>
					<td class="number">{student.pages > 0 ? student.pages : ''}</td>
					{#each board.questions as question (question)}
						<td class="cell"><BoardCell {student} {question} /></td>
					{/each}
					<td class="open">
						{#if openOf(student).length > 0}
							<a class="state" href={placeOf(student)} title={every(student)}>
								<LevelMark level={first(student)!.level} size={16} />
								<span class="message">{first(student)!.message}</span>
								{#if openOf(student).length > 1}<small>+{openOf(student).length - 1}</small>{/if}
							</a>
						{:else if student.summary && student.pages > 0}
							<span class="soft">nothing</span>
						{/if}
					</td>
					<td class="last">
						{#if student.packetId && student.pages > 0}
							<a
								class="quiet"
								href="/packets/{student.packetId}/map"
								aria-label="Open the packet of {student.given} {student.family}">Open</a
							>
						{:else}
							<form method="post" action="/assignments/{board.id}/packet">
								<input type="hidden" name="student" value={student.id} />
								<button class="quiet" aria-label="Prepare the packet of {student.given} {student.family}"
									>Prepare</button
								>
							</form>
						{/if}
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
</div>

<style>
	.new {
		color: var(--violet);
		font-weight: 600;
	}
	.scroll {
		/* So that what is out of sight in it does not make the page wide. */
		position: relative;
		overflow-x: auto;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	table {
		width: 100%;
		border-collapse: collapse;
		font-size: 0.9375rem;
	}
	thead th {
		padding: 0.5rem 0.75rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
		font-weight: 400;
		text-align: left;
		white-space: nowrap;
	}
	tbody tr {
		content-visibility: auto;
		contain-intrinsic-size: auto 2.75rem;
	}
	tbody td,
	tbody th {
		padding: 0.25rem 0.75rem;
		border-top: 1px solid var(--rule);
		text-align: left;
		font-weight: 400;
		vertical-align: middle;
		line-height: 1.35;
	}
	tbody th {
		position: sticky;
		left: 0;
		background: var(--white);
		white-space: nowrap;
	}
	.marked td,
	.marked th {
		background: var(--selected-soft);
	}
	.check {
		width: 1.5rem;
		padding-right: 0 !important;
	}
	.check input {
		width: 1.125rem;
		height: 1.125rem;
		margin: 0;
		vertical-align: middle;
		accent-color: var(--violet);
	}
	.question {
		padding: 0.5rem 0.125rem !important;
		text-align: center !important;
		color: var(--ink) !important;
	}
	.cell {
		width: 2.5rem;
		min-width: 2.25rem;
		padding: 0 !important;
		text-align: center !important;
	}
	.number {
		text-align: right !important;
		font-variant-numeric: tabular-nums;
	}
	.sort {
		padding: 0;
		border: 0;
		background: none;
		color: inherit;
		font: inherit;
		cursor: pointer;
	}
	.state {
		display: flex;
		align-items: center;
		gap: 0.5rem;
		color: inherit;
		text-decoration: none;
	}
	.state span {
		white-space: nowrap;
	}
	a.state:hover .message {
		color: var(--violet);
		text-decoration: underline;
	}
	.open {
		width: 40%;
		min-width: 14rem;
	}
	.message {
		min-width: 0;
		white-space: normal;
		overflow-wrap: break-word;
	}
	small,
	.soft {
		color: var(--ink-soft);
		font-size: 0.8125rem;
		white-space: nowrap;
	}
	.late {
		color: var(--brick);
	}
	.last {
		text-align: right !important;
	}
</style>
