<script lang="ts">
	import { untrack } from 'svelte';
	import { LONGEST_NOTE } from '$lib/core/packet/packet';
	import type { RuleName } from '$lib/core/rules/ruleSheet';
	import { usePacket } from '../packet/context';

	let { rule }: { rule: RuleName } = $props();
	const store = usePacket();
	const note = $derived(store.packet.notes?.[rule] ?? null);
	let writing = $state(false);
	let text = $state('');

	function begin(): void {
		text = untrack(() => note ?? '');
		writing = true;
	}
	function keep(): void {
		const trimmed = text.trim();
		if (trimmed !== (note ?? '')) store.edit({ kind: 'setNote', rule, note: trimmed || null });
		writing = false;
	}
</script>

{#if writing}
	<form
		onsubmit={(e) => {
			e.preventDefault();
			keep();
		}}
	>
		<label>
			<span>Note to the teacher</span>
			<!-- svelte-ignore a11y_autofocus -->
			<textarea
				rows="3"
				maxlength={LONGEST_NOTE}
				autofocus
				bind:value={text}
				onkeydown={(e) => {
					if (e.key === 'Escape') writing = false;
				}}
			></textarea>
		</label>
		<div class="buttons">
			<button class="quiet">Keep the note</button>
			<button type="button" class="textual standing" onclick={() => (writing = false)}>Leave it</button>
		</div>
	</form>
{:else if note}
	<p class="note">“{note}”</p>
	<button class="textual standing" onclick={begin}>Change the note</button>
	<button class="textual standing" onclick={() => store.edit({ kind: 'setNote', rule, note: null })}
		>Remove it</button
	>
{:else}
	<button class="textual standing" onclick={begin}>Tell the teacher why</button>
{/if}

<style>
	form {
		display: grid;
		gap: 0.375rem;
		margin-top: 0.375rem;
	}
	label {
		display: grid;
		gap: 0.25rem;
	}
	textarea {
		width: 100%;
		padding: 0.375rem 0.5rem;
		border: 1px solid var(--ink-soft);
		box-sizing: border-box;
		background: var(--white);
		color: var(--ink);
		font: inherit;
		resize: vertical;
	}
	.buttons {
		display: flex;
		align-items: center;
		gap: 0.75rem;
	}
	.note {
		font-size: inherit;
		margin-top: 0.25rem;
		padding-left: 0.5rem;
		border-left: 3px solid var(--ochre-fill);
	}
</style>
