<script lang="ts">
	import type { PacketView } from '$lib/server/view/packetView';
	import LevelMark from '../theme/LevelMark.svelte';
	import { ask, post } from './ask';
	import { usePacket } from './context';

	// What failed for good, where the person looks, each with a way to try it again.

	const store = usePacket();
	type Trouble = PacketView['troubles'][number];
	let busy = $state.raw<ReadonlySet<string>>(new Set());

	const WHAT: Partial<Record<Trouble['job'], string>> = {
		'take-in': 'was not taken in',
		'prepare-page': 'was not prepared',
		'read-picture': 'was not read far enough to know which way is up; the layout’s guess stands',
		'look-page': 'was not looked at for labels and numbers',
		'read-page': 'was not read',
		'match-names': 'Names were not matched to the class',
		'weigh-page': 'was not weighed, so it cannot be made smaller'
	};

	function words({ job, page, source, problem }: Trouble): string {
		const position = page ? store.packet.strip.indexOf(page) + 1 : 0;
		const name = store.view.sources.find((s) => s.id === source)?.name;
		const subject = position > 0 ? `Page ${position} ` : page ? 'A page set aside ' : name ? `${name} ` : '';
		return `${subject}${WHAT[job] ?? 'was not done'}. ${problem}`;
	}

	async function tryAgain(id: string): Promise<void> {
		busy = new Set([...busy, id]);
		try {
			await ask(store.view.id, `troubles/${id}`, post({}));
			store.refresh();
		} catch (error) {
			store.notice = (error as Error).message;
		} finally {
			busy = new Set([...busy].filter((other) => other !== id));
		}
	}
</script>

{#if store.view.troubles.length > 0}
	<ul class="troubles" aria-label="What went wrong">
		{#each store.view.troubles as trouble (trouble.id)}
			<li>
				<LevelMark level="look" size={20} />
				<span>{words(trouble)}</span>
				<button class="quiet" disabled={busy.has(trouble.id)} onclick={() => tryAgain(trouble.id)}>
					Try again
				</button>
			</li>
		{/each}
	</ul>
{/if}

<style>
	.troubles {
		display: grid;
		max-height: 9rem;
		margin: 0;
		padding: 0;
		overflow: auto;
		list-style: none;
		background: var(--white);
		border-bottom: 2px solid var(--ochre-fill);
	}
	li {
		display: flex;
		align-items: center;
		gap: 0.75rem;
		padding: 0.5rem 1.25rem;
		font-size: 0.9375rem;
	}
	span {
		flex: 1;
		line-height: 1.4;
		overflow-wrap: anywhere;
	}
	li + li {
		border-top: 1px solid var(--rule);
	}
</style>
