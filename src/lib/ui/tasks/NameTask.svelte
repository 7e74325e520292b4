<script lang="ts">
	import { Button, TextInput } from 'carbon-components-svelte';
	import { nameProblems } from '$lib/core/naming/namePattern';
	import { list } from '$lib/core/rules/finding';
	import { expectedFileName } from '$lib/core/rules/expectedFileName';
	import { DEFAULT_NAME_PATTERN } from '$lib/core/rules/ruleSheet';
	import { usePacket } from '../packet/context';

	const store = usePacket();
	const extension = $derived(store.sheet.file?.type === 'zip' ? 'zip' : 'pdf');
	const expected = $derived(expectedFileName(store.sheet, store.view.owner));
	const saved = $derived(store.packet.fileName ?? expected);
	let typed = $state<string | null>(null);
	const value = $derived(typed ?? saved);
	const problems = $derived(nameProblems(value));
	const isOther = $derived(value !== expected);
	const tokens = $derived(
		(store.sheet.file?.namePattern ?? DEFAULT_NAME_PATTERN).split(/(\{[^}]*\})/).filter(Boolean)
	);
	const meaning: Record<string, string> = $derived({
		'{family}': store.view.owner.family,
		'{given}': store.view.owner.given,
		'{course}': store.sheet.course ?? '',
		'{title}': store.sheet.title
	});

	function keep(): void {
		if (typed === null || problems.length > 0) return;
		const name = typed.trim();
		if (name !== saved) store.edit({ kind: 'setFileName', name: name === expected ? null : name });
		typed = null;
	}
</script>

<div class="name">
	<h2>Name of the file</h2>
	<p class="asked">Asked for by the rule sheet:</p>
	<p class="pattern">
		{#each tokens as token, i (i)}
			{#if token.startsWith('{')}
				<span class="token"><b>{meaning[token]}</b><small>{token.slice(1, -1)}</small></span>
			{:else}
				<span class="fixed">{token}</span>
			{/if}
		{/each}
		<span class="fixed">.{extension}</span>
	</p>
	<form
		onsubmit={(e) => {
			e.preventDefault();
			keep();
		}}
	>
		<TextInput
			labelText="File name, without .{extension}"
			{value}
			invalid={problems.length > 0}
			invalidText={problems.length > 0 ? `Another system may refuse this name: ${list(problems)}.` : ''}
			warn={problems.length === 0 && isOther && store.sheet.file?.namePattern !== undefined}
			warnText="This does not follow the pattern. The rule sheet asks for {expected}.{extension}"
			on:input={(e) => (typed = String(e.detail ?? ''))}
			on:blur={keep}
		/>
		<div class="buttons">
			<Button type="submit" size="field" disabled={typed === null || problems.length > 0}
				>Use this name</Button
			>
			{#if isOther}
				<button
					type="button"
					class="quiet"
					onclick={() => {
						typed = null;
						store.edit({ kind: 'setFileName', name: null });
					}}>Back to the asked name</button
				>
			{/if}
		</div>
	</form>
</div>

<style>
	.name {
		display: grid;
		gap: 1rem;
		max-width: 44rem;
		margin: 0 auto;
		padding: 2rem 1.5rem;
	}
	h2 {
		font-size: 1.75rem;
		font-weight: 400;
	}
	.asked {
		color: var(--ink-soft);
	}
	.pattern {
		display: flex;
		flex-wrap: wrap;
		align-items: flex-start;
		gap: 0.125rem;
		font-size: 1.375rem;
	}
	.token {
		display: inline-grid;
		justify-items: center;
		padding: 0 0.25rem;
		border-bottom: 3px solid var(--violet);
		background: var(--white);
	}
	.token b {
		font-weight: 600;
	}
	.token small {
		color: var(--ink-soft);
		font-size: 0.75rem;
	}
	form {
		display: grid;
		gap: 1rem;
	}
	.buttons {
		display: flex;
		align-items: center;
		gap: 0.75rem;
	}
</style>
