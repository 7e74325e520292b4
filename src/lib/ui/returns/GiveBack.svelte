<script lang="ts">
	import { untrack } from 'svelte';
	import { Modal, TextArea } from 'carbon-components-svelte';
	import { RULE_TITLES } from '$lib/core/check/check';
	import { RETURN_LIMITS, type ReturnReason } from '$lib/core/packet/returned';
	import { plural } from '$lib/core/rules/finding';
	import { ask, post } from '../packet/ask';

	/** What is given back, with what may be chosen as reasons. */
	interface GivenBack {
		readonly packet: string;
		readonly version: number;
		readonly name: string;
		readonly reasons: readonly (ReturnReason & { readonly position: number | null })[];
		/** Pages one may speak of, by their ids; in their order. */
		readonly pages: readonly string[];
	}
	interface Props {
		open: boolean;
		packets: readonly GivenBack[];
		/** The page that is looked at. */
		page?: string | null;
		ondone: (said: string) => void;
	}
	let { open = $bindable(false), packets, page = null, ondone }: Props = $props();
	const one = $derived(packets.length === 1 ? packets[0]! : null);

	let chosen = $state<number[]>([]);
	let own = $state<{ text: string; page: string }[]>([]);
	let text = $state('');
	let at = $state('');
	let words = $state('');
	let usual = $state.raw<string[]>([]);
	let problem = $state('');
	let busy = $state(false);
	$effect(() => {
		// Only opening it begins anew: what comes in about the packet meanwhile changes nothing that was chosen.
		if (open) untrack(begin);
	});
	function begin(): void {
		problem = '';
		at = page ?? '';
		const [first] = packets;
		if (!first) return;
		void ask<{ usual: string[] }>(first.packet, 'returns').then(
			(got) => (usual = got.usual),
			() => undefined
		);
	}
	const count = $derived(chosen.length + own.length + (text.trim() ? 1 : 0));

	function add(): void {
		if (text.trim() === '') return;
		own.push({ text: text.trim(), page: at });
		text = '';
	}

	async function give(): Promise<void> {
		add();
		busy = true;
		problem = '';
		const said = own.map((r) => ({ text: r.text, ...(r.page && one ? { page: r.page } : {}) }));
		let written = 0;
		let done = 0;
		try {
			for (const { packet, version, reasons } of packets) {
				const listed = one ? chosen.map((i) => reasons[i]!) : reasons;
				const all = [
					...listed.map(({ text, rule, page }) => ({
						text: text.slice(0, RETURN_LIMITS.reason),
						...(rule ? { rule } : {}),
						...(page ? { page } : {})
					})),
					...said
				];
				const answer = await ask<{ written: boolean }>(
					packet,
					'returns',
					post({ version, reasons: all, words })
				);
				written += Number(answer.written);
				done++;
			}
			open = false;
			[chosen, own, words] = [[], [], ''];
			ondone(
				`Given back${packets.length > 1 ? `: ${packets.length}` : ''}. ${plural(written, 'letter')} sent.`
			);
		} catch (error) {
			const before = done > 0 ? `${done} were given back. ` : '';
			problem = `${before}${packets[done]?.name ?? ''}: ${(error as Error).message}`;
		} finally {
			busy = false;
		}
	}
</script>

<Modal
	bind:open
	hasForm
	modalHeading={one
		? `Give back to ${one.name}`
		: `Give back to ${plural(packets.length, 'person', 'people')}`}
	primaryButtonText={busy ? 'Giving back …' : 'Give back'}
	secondaryButtonText="Leave it"
	primaryButtonDisabled={busy ||
		(count === 0 && words.trim() === '' && (one !== null || packets.every((p) => p.reasons.length === 0)))}
	on:click:button--secondary={() => (open = false)}
	on:submit={give}
>
	{#if one && one.reasons.length > 0}
		<fieldset>
			<legend>What was found</legend>
			{#each one.reasons as reason, i (i)}
				<label class="reason">
					<input type="checkbox" value={i} bind:group={chosen} />
					<span>
						{#if reason.rule}<b>{RULE_TITLES[reason.rule]}</b>{/if}
						{reason.text}
						{#if reason.position}<small>page {reason.position}</small>{/if}
					</span>
				</label>
			{/each}
		</fieldset>
	{:else if !one}
		<p>Each is told what blocks in their own packet, and what you write here.</p>
	{/if}
	<fieldset>
		<legend>Reasons of your own</legend>
		{#each own as reason, i (i)}
			<p class="reason">
				<span
					>{reason.text}
					{#if reason.page && one}<small>page {one.pages.indexOf(reason.page) + 1}</small>{/if}</span
				>
				<button class="textual" onclick={() => own.splice(i, 1)}>Take out</button>
			</p>
		{/each}
		<div class="add">
			<input
				type="text"
				aria-label="A reason"
				placeholder="What is to be mended"
				list="usual-reasons"
				maxlength={RETURN_LIMITS.reason}
				bind:value={text}
				onkeydown={(e) => {
					if (e.key !== 'Enter') return;
					e.preventDefault();
					e.stopPropagation();
					add();
				}}
			/>
			<datalist id="usual-reasons"
				>{#each usual as one (one)}<option value={one}></option>{/each}</datalist
			>
			{#if one && one.pages.length > 0}
				<select aria-label="Which page it is about" bind:value={at}>
					<option value="">the whole packet</option>
					{#each one.pages as id, i (id)}<option value={id}>page {i + 1}</option>{/each}
				</select>
			{/if}
			<button class="quiet" onclick={add} disabled={text.trim() === ''}>Add</button>
		</div>
	</fieldset>
	<TextArea
		labelText="Words to go with it (may be left out)"
		bind:value={words}
		rows={2}
		maxCount={RETURN_LIMITS.words}
	/>
	{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
</Modal>

<style>
	fieldset {
		margin: 0 0 1rem;
		padding: 0;
		border: 0;
	}
	legend {
		margin-bottom: 0.375rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.reason {
		display: flex;
		gap: 0.625rem;
		align-items: baseline;
		padding: 0.375rem 0;
		border-top: 1px solid var(--rule);
		font-size: 0.9375rem;
	}
	.reason span {
		flex: 1;
	}
	.reason input {
		accent-color: var(--violet);
	}
	small {
		color: var(--ink-soft);
		font-size: 0.8125rem;
		white-space: nowrap;
	}
	.add {
		display: flex;
		gap: 0.5rem;
	}
	.add input {
		flex: 1;
	}
	.add input,
	.add select {
		height: 2.25rem;
		padding: 0 0.5rem;
		border: 1px solid var(--ink-soft);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 0.9375rem;
		box-sizing: border-box;
	}
	.problem {
		margin-top: 0.75rem;
		color: var(--brick);
	}
</style>
