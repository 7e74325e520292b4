<script lang="ts">
	import { untrack } from 'svelte';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import RuleSheetEditor from '$lib/ui/rules/RuleSheetEditor.svelte';
	import type { RuleSheet } from '$lib/core/rules/ruleSheet';

	let { data } = $props();
	let version = $state(untrack(() => data.version));

	let kept = $state<string | null>(null);
	async function keepForCourse(): Promise<void> {
		const response = await fetch(`/api/courses/${data.courseId}/defaults`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ assignment: data.id })
		}).catch(() => null);
		kept = response?.ok
			? 'Kept: new rule sheets of this course begin with them.'
			: 'This could not be kept. Try again.';
	}

	async function save(ruleSheet: RuleSheet): Promise<string | null> {
		const response = await fetch(`/api/assignments/${data.id}`, {
			method: 'PUT',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ version, ruleSheet })
		});
		const answer = (await response.json()) as { version?: number; message?: string };
		if (!response.ok) return answer.message ?? 'This could not be saved.';
		version = answer.version!;
		return null;
	}
</script>

<svelte:head><title>Rule sheet · {data.ruleSheet.title}</title></svelte:head>
<TopBar>{data.ruleSheet.title}{data.courseCode ? ` · ${data.courseCode}` : ''}</TopBar>
<main>
	<div class="head">
		<h1>Rule sheet</h1>
		{#if data.own}<a class="quiet" href="/">Desk</a>{:else}<a
				class="quiet"
				href="/assignments/{data.id}/class">Board</a
			>{/if}
	</div>
	<RuleSheetEditor
		sheet={{ ...data.ruleSheet, course: data.ruleSheet.course || data.courseCode }}
		timeZone={data.timeZone}
		onsave={save}
		saveLabel="Save"
	/>
	{#if !data.own}
		<div class="course">
			<button class="quiet" onclick={keepForCourse}
				>Begin new rule sheets of {data.courseCode} with these rules</button
			>
			<span role="status">{kept ?? 'All but the title, the questions and the times, as they are saved.'}</span
			>
		</div>
	{/if}
</main>

<style>
	main {
		max-width: 72rem;
		margin: 0 auto;
		padding: 1.5rem;
	}
	.head {
		display: flex;
		align-items: center;
		gap: 1rem;
		margin-bottom: 1.25rem;
	}
	.course {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.75rem;
		margin-top: 1.5rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	h1 {
		font-size: 2.25rem;
		font-weight: 400;
	}
</style>
