<script lang="ts">
	import { RULE_TITLES } from '$lib/core/check/check';
	import { plural, type Finding } from '$lib/core/rules/finding';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import LevelMark from '$lib/ui/theme/LevelMark.svelte';

	let { data } = $props();
	const handedIn = $derived(data.students.filter((s) => s.handedInAt).length);
	const when = (at: string) =>
		new Date(at).toLocaleString('en-GB', {
			day: 'numeric',
			month: 'short',
			hour: '2-digit',
			minute: '2-digit'
		});
	type Open = Pick<Finding, 'rule' | 'message'>;
	/** All of them, as they stand on the rule sheet. */
	const every = (open: readonly Open[]) => open.map((f) => `${RULE_TITLES[f.rule]}: ${f.message}`).join('\n');
</script>

<svelte:head><title>{data.title} · Membrana</title></svelte:head>
<TopBar>{data.title} · {data.courseCode}</TopBar>
<main>
	<div class="top">
		<h1>Class</h1>
		<form method="post" action="/assignments/{data.id}/stack">
			<button class="quiet">{data.hasStack ? 'The class’s stack' : 'Bring in the class’s stack'}</button>
		</form>
	</div>
	<p>
		{handedIn} of {data.students.length} handed in.
		{#if data.clock}{RULE_TITLES.due}: {data.clock}.{/if}
		<a href="/assignments/{data.id}">Rule sheet</a>
	</p>
	<table>
		<thead
			><tr
				><th>Student</th><th>Pages</th><th>State</th><th>Findings</th><th
					><span class="out-of-sight">Open</span></th
				></tr
			></thead
		>
		<tbody>
			{#each data.students as student (student.id)}
				<tr>
					<td>{student.family}, {student.given}</td>
					<td>{student.pages > 0 ? plural(student.pages, 'page') : ''}</td>
					<td>
						<div class="state">
							{#if student.handedInAt}
								<LevelMark level="clear" /> Received {when(student.handedInAt)}
							{:else if student.pages > 0}
								<LevelMark level="look" /> Begun, last changed {when(student.updatedAt!)}
							{:else}
								Not begun
							{/if}
						</div>
					</td>
					<td>
						{#each [['blocks', student.blocks], ['look', student.look]] as const as [level, open] (level)}
							{#if open.length > 0}
								<div class="state" title={every(open)}>
									<LevelMark {level} />
									<span>{open[0]!.message}{open.length > 1 ? ` And ${open.length - 1} more.` : ''}</span>
								</div>
							{/if}
						{/each}
						{#if student.checked && student.blocks.length + student.look.length === 0}
							<div class="state"><LevelMark level="clear" /> Nothing open</div>
						{/if}
						{#if student.checked === 'before'}
							<div class="soft">Changed since; being checked again</div>
						{:else if student.pages > 0 && !student.checked}
							<div class="soft">Not checked yet</div>
						{/if}
					</td>
					<td>
						<form method="post" action="/assignments/{data.id}/packet">
							<input type="hidden" name="student" value={student.id} />
							<button class="quiet">{student.pages > 0 ? 'Open the packet' : 'Prepare one for them'}</button>
						</form>
					</td>
				</tr>
			{/each}
		</tbody>
	</table>
</main>

<style>
	main {
		max-width: 80rem;
		margin: 0 auto;
		padding: 2rem 1.5rem;
	}
	.top {
		display: flex;
		align-items: center;
		justify-content: space-between;
		gap: 1rem;
	}
	h1 {
		font-size: 2.25rem;
		font-weight: 400;
	}
	p {
		margin: 0.5rem 0 1.5rem;
		color: var(--ink-soft);
	}
	table {
		width: 100%;
		border-collapse: collapse;
		background: var(--white);
		border: 1px solid var(--rule);
		font-size: 0.9375rem;
	}
	th,
	td {
		padding: 0.625rem 1rem;
		border-top: 1px solid var(--rule);
		text-align: left;
		vertical-align: middle;
	}
	th {
		color: var(--ink-soft);
		font-size: 0.875rem;
		font-weight: 400;
	}
	td:nth-child(-n + 2),
	button {
		white-space: nowrap;
	}
	td {
		line-height: 1.35;
	}
	.state {
		display: flex;
		align-items: flex-start;
		gap: 0.5rem;
	}
	.soft {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	td:last-child {
		text-align: right;
	}
</style>
