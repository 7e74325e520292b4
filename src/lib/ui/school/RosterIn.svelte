<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { Button } from 'carbon-components-svelte';
	import { COLUMNS, type Column } from '$lib/core/roster/columns';
	import { plural } from '$lib/core/rules/finding';
	import type { Preview } from '$lib/server/roster/bringRoster';
	import FileDrop from '../frame/FileDrop.svelte';
	import LevelMark from '../theme/LevelMark.svelte';

	interface Props {
		/** Where the roster is sent to. */
		address: string;
		accept: string;
		/** Whether a table may be pasted. */
		paste?: boolean;
	}
	let { address, accept, paste = false }: Props = $props();

	const WORDS: Record<Column, string> = {
		given: 'given name',
		family: 'family name',
		name: 'whole name',
		identifier: 'number',
		email: 'mail address',
		login: 'sign-in name',
		role: 'role'
	};

	let body = $state.raw<Blob | null>(null);
	let pasted = $state('');
	let preview = $state.raw<Preview | null>(null);
	let columns = $state<(Column | null)[]>([]);
	let busy = $state(false);
	let problem = $state<string | null>(null);
	let done = $state<string | null>(null);

	async function send(how: Record<string, string>): Promise<Preview | null> {
		busy = true;
		problem = done = null;
		try {
			const response = await fetch(`${address}?${new URLSearchParams(how)}`, {
				method: 'POST',
				// A body of no type is not looked at.
				headers: { 'content-type': 'application/octet-stream' },
				body
			});
			const answer = (await response.json().catch(() => ({}))) as Preview & { message?: string };
			if (response.ok) return answer;
			problem = answer.message ?? 'This could not be done.';
		} catch {
			problem = 'The line is down. Nothing was changed; try again.';
		} finally {
			busy = false;
		}
		return null;
	}
	const asked = (): Record<string, string> =>
		columns.length > 0 ? { columns: columns.map((c) => c ?? '').join(',') } : {};

	async function look(next: Blob | null = body, keepColumns = false): Promise<void> {
		body = next;
		if (!keepColumns) columns = [];
		preview = await send(asked());
		if (preview?.list) columns = [...preview.list.columns];
	}

	async function take(): Promise<void> {
		const { seen, counts } = preview!;
		if (!(await send({ ...asked(), seen }))) return;
		done = `Done: ${counts.newPeople} new, ${counts.changedPeople} changed, ${counts.gonePlaces} left.`;
		preview = null;
		body = null;
		pasted = '';
		await invalidateAll();
	}

	const name = (p: { given: string; family: string }) => `${p.given} ${p.family}`.trim();
	const groups = $derived.by(() => {
		if (!preview) return [];
		const { counts, plan } = preview;
		const all: { title: string; count: number; items: string[] }[] = [
			{
				title: 'New courses',
				count: counts.newCourses,
				items: plan.newCourses.map((c) => `${c.code} ${c.title}`)
			},
			{
				title: 'Changed courses',
				count: counts.changedCourses,
				items: plan.changedCourses.map(
					({ before, after }) => `${before.code} becomes ${after.code} ${after.title}`
				)
			},
			{
				title: 'New people',
				count: counts.newPeople,
				items: plan.newPeople.map((p) => [name(p), p.identifier, p.email].filter(Boolean).join(', '))
			},
			{
				title: 'Changed people',
				count: counts.changedPeople,
				items: plan.changedPeople.map(({ before, after }) =>
					[
						name(before) === name(after) ? name(after) : `${name(before)} becomes ${name(after)}`,
						after.email && after.email !== before.email ? after.email : '',
						before.isArchived ? 'comes back' : ''
					]
						.filter(Boolean)
						.join(', ')
				)
			},
			{
				title: 'People who are gone: they cannot sign in any more, and their work is kept',
				count: counts.gonePeople,
				items: plan.gonePeople.map(name)
			},
			{
				title: 'Other roles',
				count: counts.changedPlaces,
				items: plan.changedPlaces.map((p) => `${p.person}: ${p.role}`)
			},
			{
				title: 'Leave a course: their work is kept',
				count: counts.gonePlaces,
				items: plan.gonePlaces.map((p) => p.name)
			}
		];
		return all.filter((group) => group.count > 0);
	});
</script>

<FileDrop name="Bring a roster in" what="Roster" {accept} onfile={(file) => look(file)}>
	{#snippet children(choose)}
		{#if problem}<p class="line" role="alert"><LevelMark level="look" /> {problem}</p>{/if}
		{#if done}<p class="line" role="status"><LevelMark level="clear" /> {done}</p>{/if}
		{#if !preview}
			{#if paste}
				<label class="pasted">
					<span>Paste a table here, from a spreadsheet or as CSV</span>
					<textarea rows="4" bind:value={pasted}></textarea>
				</label>
			{/if}
			<div class="line">
				{#if paste}
					<Button
						size="field"
						disabled={busy || pasted.trim() === ''}
						on:click={() => look(new Blob([pasted]))}
					>
						Look at what it would change
					</Button>
				{/if}
				<button type="button" class="quiet" disabled={busy} onclick={choose}>
					{paste ? 'Or choose a file' : 'Choose the file'}
				</button>
				{#if busy}<span aria-live="polite">Reading it …</span>{/if}
			</div>
		{:else}
			{#if preview.list}
				<div class="columns">
					<table>
						<thead>
							<tr>
								{#each columns as column, i (i)}
									<th>
										<select
											aria-label="Column {i + 1} holds"
											value={column ?? ''}
											onchange={(e) => {
												columns[i] = (e.currentTarget.value || null) as Column | null;
												void look(body, true);
											}}
										>
											<option value="">not needed</option>
											{#each COLUMNS as one (one)}<option value={one}>{WORDS[one]}</option>{/each}
										</select>
									</th>
								{/each}
							</tr>
						</thead>
						<tbody>
							{#each preview.list.sample as cells, row (row)}
								<tr class:title={row === 0 && preview.list.titled}>
									{#each columns as _, i (i)}<td>{cells[i] ?? ''}</td>{/each}
								</tr>
							{/each}
						</tbody>
					</table>
				</div>
			{/if}
			{#if preview.plan.problems.length > 0}
				<section class="problems">
					<h3><LevelMark level="look" /> {plural(preview.counts.problems, 'row')} cannot be used</h3>
					<ul>
						{#each preview.plan.problems as row, i (i)}
							<li><b>{preview.list ? '' : `${row.file}, `}line {row.line}</b> {row.reason}</li>
						{/each}
					</ul>
				</section>
			{/if}
			{#each groups as { title, count, items } (title)}
				<details open={count <= 40}>
					<summary>{title} <b>{count}</b></summary>
					<ul class="items">
						{#each items as item, i (i)}<li>{item}</li>{/each}
						{#if count > items.length}<li>and {count - items.length} more</li>{/if}
					</ul>
				</details>
			{/each}
			{#if preview.changesNothing}
				<p class="line"><LevelMark level="clear" /> Nothing would change: everything stands there already.</p>
			{/if}
			<div class="line">
				{#if !preview.changesNothing}
					<Button size="field" disabled={busy} on:click={take}>Take it over</Button>
				{/if}
				<button type="button" class="quiet" disabled={busy} onclick={() => (preview = null)}>
					{preview.changesNothing ? 'Close' : 'Leave everything as it is'}
				</button>
				{#if busy}<span aria-live="polite">A moment …</span>{/if}
			</div>
		{/if}
	{/snippet}
</FileDrop>

<style>
	.pasted {
		display: grid;
		gap: 0.375rem;
		font-size: 0.875rem;
	}
	textarea {
		padding: 0.625rem;
		border: 1px solid var(--edge);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-family: 'IBM Plex Mono', monospace;
	}
	.columns {
		position: relative;
		overflow-x: auto;
		border: 1px solid var(--rule);
	}
	.columns td {
		font-size: 0.875rem;
		white-space: nowrap;
	}
	.columns .title td {
		color: var(--ink-soft);
		font-style: italic;
	}
	select {
		min-height: 2rem;
		border: 1px solid var(--edge);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 0.875rem;
	}
	h3 {
		display: flex;
		align-items: center;
		gap: 0.5rem;
		font-size: 1rem;
	}
	.problems {
		display: grid;
		gap: 0.5rem;
		padding: 1rem;
		border: 1px solid var(--ochre-fill);
	}
	.problems ul,
	.items {
		margin: 0;
		padding-left: 1.25rem;
		line-height: 1.5;
	}
	.items {
		columns: 18rem;
	}
	summary {
		padding: 0.25rem 0;
		cursor: pointer;
	}
	b {
		font-weight: 600;
	}
</style>
