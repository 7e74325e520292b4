<script lang="ts">
	import { goto } from '$app/navigation';
	import { RULE_TITLES } from '$lib/core/check/check';
	import type { ReturnReason } from '$lib/core/packet/returned';
	import { capital } from '$lib/core/rules/finding';
	import { toTheMinute } from '../frame/toTheMinute';
	import { ask } from '../packet/ask';
	import { usePacket } from '../packet/context';
	import LevelMark from '../theme/LevelMark.svelte';

	// Why the packet was given back, each reason with its place, and what has been done since.
	const store = usePacket();
	const returned = $derived(store.returned);
	let changes = $state.raw<string[] | null>(null);
	$effect(() => {
		const id = returned?.id;
		void store.view.version;
		if (!id) return;
		ask<Record<string, string[]>>(store.view.id, 'versions').then(
			(got) => (changes = got[id] ?? null),
			() => undefined
		);
	});

	const positionOf = ({ page }: ReturnReason) => (page ? store.packet.strip.indexOf(page) + 1 : 0);
	/** What the rule of a reason says now. */
	const nowOf = ({ rule }: ReturnReason) =>
		rule ? (store.findings.find((f) => f.rule === rule)?.level ?? null) : null;
	function show(reason: ReturnReason): void {
		store.current = reason.page!;
		void goto(`/packets/${store.view.id}/square`);
	}
	async function takeBack(): Promise<void> {
		try {
			await ask(store.view.id, `returns/${returned!.id}`, { method: 'DELETE' });
		} catch (error) {
			store.notice = (error as Error).message;
		}
		store.refresh();
	}
</script>

{#if returned}
	<section aria-labelledby="returned">
		<h2 id="returned">Given back</h2>
		<p class="by">
			by {returned.by}, {toTheMinute(returned.at)}
		</p>
		{#if returned.words}<p class="words">{returned.words}</p>{/if}
		<ul>
			{#each returned.reasons as reason, i (i)}
				{@const position = positionOf(reason)}
				{@const now = nowOf(reason)}
				<li>
					{#if now === 'clear'}<LevelMark level="clear" />{:else}<LevelMark level="look" />{/if}
					<div>
						{#if reason.rule}<b>{RULE_TITLES[reason.rule]}</b>{/if}
						{reason.text}
						{#if now === 'clear'}<small>This is clear now.</small>{/if}
						{#if position > 0}
							<button class="textual" onclick={() => show(reason)}>Show page {position}</button>
						{:else if reason.page}
							<small>Its page is not on the strip any more.</small>
						{/if}
					</div>
				</li>
			{/each}
		</ul>
		<p class="since">
			{#if changes && changes.length > 0}
				<b>Changed since:</b> {capital(changes.join('; '))}.
			{:else if changes}
				Nothing has been changed since.
			{/if}
		</p>
		{#if store.view.as === 'teacher'}
			<button class="textual" onclick={takeBack}>Take this back</button>
		{:else}
			<p class="since">Mend it, then hand in again: that answers it.</p>
		{/if}
	</section>
{/if}

<style>
	section {
		padding: 1rem;
		border-bottom: 1px solid var(--rule);
		border-left: 4px solid var(--violet);
		background: var(--white);
		font-size: 0.875rem;
		line-height: 1.4;
	}
	h2 {
		font-size: 1.125rem;
	}
	p {
		font-size: inherit;
	}
	.by,
	.since,
	small {
		color: var(--ink-soft);
	}
	.words {
		margin: 0.5rem 0;
		white-space: pre-line;
	}
	ul {
		margin: 0.5rem 0;
		padding: 0;
		list-style: none;
	}
	li {
		display: flex;
		gap: 0.5rem;
		padding: 0.375rem 0;
		border-top: 1px solid var(--rule);
		overflow-wrap: anywhere;
	}
	small {
		display: block;
	}
	.since {
		margin: 0.5rem 0;
	}
</style>
