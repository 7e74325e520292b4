<script lang="ts">
	import { untrack } from 'svelte';
	import { InlineNotification } from 'carbon-components-svelte';
	import type { FileRow } from '$lib/server/store/deliveries';
	import { capital } from '$lib/core/rules/finding';
	import { whereTo, stateOf } from '../handIn/state';
	import { ask, post } from '../packet/ask';
	import ForYourself from '../handIn/ForYourself.svelte';
	import OnItsWay from '../handIn/OnItsWay.svelte';
	import Proof from '../handIn/Proof.svelte';
	import Receipt from '../handIn/Receipt.svelte';
	import Unsure from '../handIn/Unsure.svelte';
	import Versions from '../handIn/Versions.svelte';
	import type { ChosenTarget } from '../handIn/WhereTo.svelte';
	import { usePacket } from '../packet/context';
	import LevelMark from '../theme/LevelMark.svelte';
	import NoPage from './NoPage.svelte';

	const store = usePacket();
	const deliveries = $derived(store.view.deliveries);
	const latest = $derived(deliveries[0]);
	/** What stands: received before what was only passed on. */
	const standing = $derived([
		...deliveries.filter((d) => d.state === 'received'),
		...deliveries.filter((d) => d.state === 'sent')
	]);
	const open = $derived(deliveries.filter((d) => d.state === 'sending' || d.state === 'recalling'));
	const unsure = $derived(deliveries.filter((d) => d.state === 'unsure'));
	const asked = $derived(store.sheet.file?.type ?? 'pdf');
	/** Whether there is something that has not been handed in like this. */
	const isNewer = $derived(!standing.some((d) => d.packetVersion === store.view.version));
	/** To hand the same in once more, such as by mail as well. */
	let once = $state(false);

	let file = $state.raw<FileRow | null>(null);
	let problem = $state<string | null>(null);
	let busy = $state(false);
	let top: HTMLDivElement | undefined = $state();
	/** What became of the latest delivery since this was opened, for those who do not see it. */
	const opened = untrack(() => latest && `${latest.id} ${latest.state}`);
	const said = $derived.by(() => {
		if (!latest || `${latest.id} ${latest.state}` === opened) return '';
		const number = latest.receipt ? `. Receipt ${latest.receipt.number}` : '';
		return `${capital(stateOf(latest))}: ${whereTo(latest)}${number}.`;
	});
	/** One wish to hand in; a second click is the same wish. */
	let key = '';
	const current = $derived(
		file && file.packetVersion === store.view.version && file.type === asked && store.waiting === 0
			? file
			: null
	);

	/** Has the file made and waits for it. */
	async function make(type: 'pdf' | 'zip'): Promise<FileRow> {
		let made = await ask<FileRow>(store.view.id, 'file', post({ version: store.view.version, type }));
		while (made.state === 'making') {
			await new Promise((done) => setTimeout(done, 200));
			made = await ask<FileRow>(store.view.id, `files/${made.id}?state`);
		}
		if (made.state === 'failed') throw new Error(made.problem ?? 'The file could not be made.');
		return made;
	}

	async function attempt(work: () => Promise<void>): Promise<void> {
		busy = true;
		problem = null;
		try {
			await work();
		} catch (error) {
			problem = (error as Error).message;
		} finally {
			busy = false;
		}
	}

	const proof = () =>
		attempt(async () => {
			file = await make(asked);
			key = crypto.randomUUID();
		});
	const handIn = ({ target, to, confirmed }: ChosenTarget, comment: string) =>
		attempt(async () => {
			await ask(
				store.view.id,
				'deliveries',
				post({ file: current!.id, key, target, to, confirmed, comment })
			);
			file = null;
			once = false;
			// What becomes of it stands at the top.
			top?.scrollIntoView();
			// The button that was pressed is gone.
			top?.focus();
			store.refresh();
		});
	const settle = (id: string, what: 'now' | 'again' | 'arrived') =>
		attempt(async () => {
			await ask(store.view.id, `deliveries/${id}`, post({ what }));
			store.refresh();
		});
	const recall = (id: string) =>
		attempt(async () => {
			await ask(store.view.id, `deliveries/${id}`, { method: 'DELETE' });
			store.refresh();
		});
</script>

{#if store.packet.strip.length === 0 && deliveries.length === 0}
	<NoPage />
{:else}
	<div class="hand-in" bind:this={top} tabindex="-1" role="region" aria-label="Hand in">
		<p class="out-of-sight" role="status">{said}</p>
		{#if problem}
			<InlineNotification
				kind="error"
				lowContrast
				title="Not done."
				subtitle={problem}
				on:close={() => (problem = null)}
			/>
		{/if}
		{#each open as delivery (delivery.id)}
			<OnItsWay
				{delivery}
				{busy}
				ontry={() => settle(delivery.id, 'now')}
				onstop={() => recall(delivery.id)}
			/>
		{/each}
		{#each unsure as delivery (delivery.id)}
			<Unsure
				{delivery}
				{busy}
				onarrived={() => settle(delivery.id, 'arrived')}
				onagain={() => settle(delivery.id, 'again')}
			/>
		{/each}
		{#if open.length === 0 && latest?.state === 'refused'}
			<section class="refused">
				<LevelMark level="blocks" size={24} />
				<p>
					<b>Not handed in.</b>
					{latest.problem}
					<a download href="/api/packets/{store.view.id}/deliveries/{latest.id}/proof"
						>Save the proof of handing in</a
					>
				</p>
			</section>
		{/if}
		{#each standing as delivery (delivery.id)}
			<Receipt {delivery} onrecall={() => recall(delivery.id)} {busy} />
		{/each}
		{#if open.length === 0 && store.packet.strip.length > 0}
			{#if isNewer || once}
				<Proof
					file={current}
					{busy}
					again={isNewer && standing.some((d) => d.state === 'received')}
					onmake={proof}
					onhandin={handIn}
				/>
			{:else}
				<p class="same">
					What was handed in is this packet as it stands.
					<button class="textual" onclick={() => (once = true)}>Hand it in another way as well</button>
				</p>
			{/if}
		{/if}
		{#if store.packet.strip.length > 0}<ForYourself {busy} {make} {attempt} />{/if}
		{#if deliveries.length > 0}<Versions />{/if}
	</div>
{/if}

<style>
	.hand-in:focus {
		outline: none;
	}
	.hand-in {
		display: grid;
		gap: 1rem;
		max-width: 60rem;
		margin: 0 auto;
		padding: 1.25rem;
	}
	.refused {
		display: flex;
		align-items: flex-start;
		gap: 0.75rem;
		padding: 1.25rem 1.5rem;
		border: 2px solid var(--brick);
		background: var(--white);
		font-size: 1.125rem;
	}
	.refused a {
		color: var(--violet);
	}
	.same {
		padding: 0 0.25rem;
		font-size: 0.9375rem;
	}
	@media (max-width: 700px) {
		.hand-in {
			padding: 0.75rem;
		}
	}
</style>
