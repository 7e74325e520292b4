<script lang="ts">
	import { untrack } from 'svelte';
	import { goto } from '$app/navigation';
	import { Select, SelectItem } from 'carbon-components-svelte';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import RuleSheetEditor from '$lib/ui/rules/RuleSheetEditor.svelte';
	import type { RuleSheet } from '$lib/core/rules/ruleSheet';

	let { data } = $props();
	let course = $state(untrack(() => data.courses[0]!.id));
	/** Whose rules the sheet begins with: a course that is chosen later changes nothing that was written. */
	let begun = $state(untrack(() => data.courses[0]!));
	let changed = $state(false);
	$effect(() => {
		const chosen = data.courses.find((c) => c.id === course)!;
		if (!untrack(() => changed)) begun = chosen;
	});

	async function save(ruleSheet: RuleSheet): Promise<string | null> {
		const response = await fetch('/api/assignments', {
			method: 'POST',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ course, ruleSheet })
		});
		const answer = (await response.json()) as { id?: string; message?: string };
		if (!response.ok) return answer.message ?? 'This could not be saved.';
		setTimeout(() => void goto(data.own ? '/' : `/assignments/${answer.id}`), 0);
		return null;
	}
</script>

<svelte:head><title>{data.own ? 'New assignment' : 'New rule sheet'} · Membrana</title></svelte:head>
<TopBar>{data.own ? 'New assignment' : 'New rule sheet'}</TopBar>
<main>
	<h1>{data.own ? 'New assignment' : 'New rule sheet'}</h1>
	{#if data.courses.length > 1}
		<Select labelText="In the course" bind:selected={course}>
			{#each data.courses as { id, code, title } (id)}<SelectItem value={id} text="{code} {title}" />{/each}
		</Select>
	{/if}
	{#key begun.id}
		<RuleSheetEditor
			sheet={begun.sheet}
			timeZone={begun.timeZone}
			bind:changed
			onsave={save}
			saveLabel={data.own ? 'Keep this assignment' : 'Set this assignment'}
		/>
	{/key}
</main>

<style>
	main {
		display: grid;
		gap: 1.25rem;
		max-width: 72rem;
		margin: 0 auto;
		padding: 1.5rem;
	}
	h1 {
		font-size: 2.25rem;
		font-weight: 400;
	}
</style>
