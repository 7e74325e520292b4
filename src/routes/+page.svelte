<script lang="ts">
	import { Button, Search } from 'carbon-components-svelte';
	import type { CellState } from '$lib/core/board/summarise';
	import { dueNext } from '$lib/core/desk/dueNext';
	import { formatDue, formatDuration } from '$lib/core/rules/dueTime';
	import { plural } from '$lib/core/rules/finding';
	import { toTheMinute } from '$lib/ui/frame/toTheMinute';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import OwnName from '$lib/ui/frame/OwnName.svelte';
	import DueNext from '$lib/ui/desk/DueNext.svelte';
	import LevelMark from '$lib/ui/theme/LevelMark.svelte';

	let { data } = $props();
	type Row = (typeof data.assignments)[number];
	type Key = 'due' | 'title' | 'state';
	let words = $state('');
	let sort = $state<{ key: Key; down: boolean }>({ key: 'due', down: false });

	const COLUMNS: { key: Key; title: string }[] = [
		{ key: 'title', title: 'Assignment' },
		{ key: 'due', title: 'Due' },
		{ key: 'state', title: 'State' }
	];

	interface Standing {
		rank: number;
		text: string;
		level: CellState | null;
		/** What is new to a teacher. */
		news?: string | null;
	}
	function standing(row: Row): Standing {
		if (row.role === 'teacher') {
			const { students, begun, handedIn, since } = row;
			const text = `${handedIn} of ${students} handed in, ${begun! - handedIn!} begun`;
			const news = since ? `${since} came in since you looked ${toTheMinute(row.lookedAt!)}` : null;
			return { rank: handedIn!, text, level: null, news };
		}
		if (row.returnedAt) {
			return { rank: 1.5, text: `Given back ${toTheMinute(row.returnedAt)}`, level: 'look' };
		}
		if (row.handedInAt) {
			return { rank: 2, text: `Received ${toTheMinute(row.handedInAt)}`, level: 'clear' };
		}
		if (row.pages > 0) return { rank: 1, text: `${plural(row.pages, 'page')} so far`, level: 'open' };
		return { rank: 0, text: 'Not begun', level: null };
	}

	const next = $derived(
		dueNext(
			data.assignments.filter((row) => row.role !== 'teacher'),
			data.now
		)
	);

	const shown = $derived.by(() => {
		const wanted = words.trim().toLowerCase().split(/\s+/);
		const rows = data.assignments.filter((row) => {
			const text = `${row.title} ${row.courseCode} ${row.courseTitle} ${standing(row).text}`.toLowerCase();
			return wanted.every((word) => text.includes(word));
		});
		const value = (row: Row) =>
			sort.key === 'title'
				? row.title
				: sort.key === 'state'
					? standing(row).rank
					: row.due
						? Date.parse(row.due)
						: Infinity;
		return rows.sort((a, b) => {
			const [x, y] = [value(a), value(b)];
			const order = typeof x === 'string' ? x.localeCompare(y as string) : x - (y as number);
			return sort.down ? -order : order;
		});
	});

	function dueText(due: string | null): string {
		if (!due) return 'No due time';
		const left = Date.parse(due) - data.now;
		return left >= 0 ? `in ${formatDuration(left)}` : `${formatDuration(-left)} ago`;
	}
</script>

<svelte:head><title>Desk · Membrana</title></svelte:head>
<TopBar />
<main>
	<div class="head">
		<h1>Desk</h1>
		<div class="find">
			{#if data.assignments.length > 0}
				<Search
					size="lg"
					labelText="Find an assignment"
					placeholder="Find an assignment"
					bind:value={words}
				/>
			{/if}
		</div>
		{#if data.teaches && data.named && !(data.own && data.assignments.length === 0)}
			<Button href="/assignments/new" size="field"
				>{data.own ? 'New assignment' : 'Write a rule sheet'}</Button
			>
		{/if}
	</div>

	{#if data.courses.length > 0}
		<p class="courses">
			Your courses:
			{#each data.courses as course (course.id)}<a href="/courses/{course.id}">{course.code} {course.title}</a
				>{/each}
		</p>
	{/if}

	{#if next}<DueNext row={next} now={data.now} />{/if}
	{#if data.own && !data.named}
		<OwnName />
	{:else if data.own && data.assignments.length === 0}
		<section class="first">
			<h2>Your first assignment</h2>
			<p>
				Paste what you were told to hand in, or photograph it, or bring the question paper: the rules are
				found in it, and you look them through. Then photograph your pages, and they are made ready and
				checked.
			</p>
			<Button href="/assignments/new">New assignment</Button>
		</section>
	{:else if data.assignments.length === 0 && data.person?.isAdministrator && !data.teaches}
		<p class="none">
			You teach no course. Courses, people and settings are under <a href="/school">School</a>.
		</p>
	{:else if data.assignments.length === 0 && data.teaches}
		<p class="none">
			There are no assignments yet. Write the first rule sheet, and your students find it here.
		</p>
	{:else if data.assignments.length === 0}
		<p class="none">There are no assignments yet. They appear here as soon as a teacher has written one.</p>
	{:else if shown.length === 0}
		<p class="none">
			No assignment fits “{words}”. <button class="textual" onclick={() => (words = '')}>Show all</button>
		</p>
	{:else}
		<table>
			<thead>
				<tr>
					{#each COLUMNS as column (column.key)}
						<th aria-sort={sort.key === column.key ? (sort.down ? 'descending' : 'ascending') : 'none'}>
							<button
								onclick={() => (sort = { key: column.key, down: sort.key === column.key && !sort.down })}
							>
								{column.title}
								<span aria-hidden="true">{sort.key === column.key ? (sort.down ? '▾' : '▴') : ''}</span>
							</button>
						</th>
					{/each}
					<th><span class="out-of-sight">Open</span></th>
				</tr>
			</thead>
			<tbody>
				{#each shown as row (row.id)}
					{@const now = standing(row)}
					<tr>
						<td class="title">
							<strong>{row.title}</strong>
							<span>{row.courseCode} {row.courseTitle}</span>
						</td>
						<td>
							<strong>{dueText(row.due)}</strong>
							{#if row.due}<span>{formatDue(row.due)}</span>{/if}
						</td>
						<td>
							<div class="state">
								{#if now.level}<LevelMark level={now.level} />{/if}
								{now.text}
							</div>
							{#if now.news}<div class="news">{now.news}</div>{/if}
						</td>
						<td class="open">
							<div>
								{#if row.role === 'teacher'}
									<a class="quiet" href="/assignments/{row.id}/class">Board</a>
									<a class="quiet" href="/assignments/{row.id}">Rule sheet</a>
								{:else}
									{#if row.role === 'own'}<a class="quiet" href="/assignments/{row.id}">Rules</a>{/if}
									<form method="post" action="/assignments/{row.id}/packet">
										<Button
											type="submit"
											size="field"
											kind={next || (row.handedInAt && !row.returnedAt) ? 'tertiary' : 'primary'}
										>
											{row.returnedAt
												? 'Mend it'
												: row.handedInAt
													? 'Look at it'
													: row.pages > 0
														? 'Go on'
														: 'Begin'}
										</Button>
									</form>
								{/if}
							</div>
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
	{/if}
</main>

<style>
	main {
		max-width: 72rem;
		margin: 0 auto;
		padding: 2rem 1.5rem;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 1rem 1.5rem;
		margin-bottom: 1.5rem;
	}
	h1 {
		font-size: 2.25rem;
		font-weight: 400;
	}
	.find {
		flex: 1;
		min-width: 14rem;
		max-width: 28rem;
		margin-left: auto;
	}
	table {
		width: 100%;
		border-collapse: collapse;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	th {
		padding: 0.75rem 1rem;
		border-bottom: 1px solid var(--rule);
		text-align: left;
	}
	th button {
		padding: 0;
		border: 0;
		background: none;
		color: var(--ink-soft);
		font: inherit;
		font-size: 0.875rem;
		cursor: pointer;
	}
	td {
		padding: 1rem;
		border-top: 1px solid var(--rule);
		vertical-align: middle;
	}
	td strong {
		display: block;
		font-weight: 600;
	}
	.title strong {
		font-size: 1.125rem;
	}
	td span {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.state {
		display: flex;
		align-items: center;
		gap: 0.5rem;
	}
	.news {
		margin-top: 0.25rem;
		color: var(--violet);
		font-size: 0.875rem;
		font-weight: 600;
	}
	.open {
		text-align: right;
		white-space: nowrap;
	}
	/* One under the other, whatever they say. */
	.open form :global(.bx--btn) {
		width: 8.5rem;
	}
	.open > div {
		display: flex;
		justify-content: flex-end;
		align-items: center;
		gap: 0.5rem;
	}
	.courses {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem 1.25rem;
		margin-bottom: 1rem;
		color: var(--ink-soft);
		font-size: 0.9375rem;
	}
	.courses a,
	.none a {
		color: var(--violet);
	}
	.first {
		display: grid;
		gap: 1rem;
		justify-items: start;
		max-width: 40rem;
		padding: 2rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	.first h2 {
		font-size: 1.5rem;
		font-weight: 400;
	}
	.first p {
		line-height: 1.5;
	}
	.none {
		padding: 3rem 0;
		color: var(--ink-soft);
	}
	@media (max-width: 700px) {
		thead {
			display: none;
		}
		tr {
			display: grid;
			gap: 0.5rem;
			padding: 1rem;
			border-top: 1px solid var(--rule);
		}
		td {
			padding: 0;
			border: 0;
		}
		.open > div {
			justify-content: flex-start;
		}
	}
</style>
