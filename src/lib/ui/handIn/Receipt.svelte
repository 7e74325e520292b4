<script lang="ts">
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import { plural } from '$lib/core/rules/finding';
	import type { DeliveryRow } from '$lib/server/store/deliveries';
	import LevelMark from '../theme/LevelMark.svelte';
	import { whereTo } from './state';

	interface Props {
		delivery: DeliveryRow;
		busy: boolean;
		onrecall: () => void;
	}
	let { delivery, busy, onrecall }: Props = $props();
	const receipt = $derived(delivery.receipt!);
	const isSent = $derived(delivery.state === 'sent');
	/** Into a folder of the person's own: nobody else has it. */
	const isSaved = $derived(delivery.target === 'folder' && delivery.destination.to !== '');
	const word = $derived(isSent ? 'Passed on by mail' : isSaved ? 'Saved' : 'Received');
	let asking = $state(false);
</script>

<section class="receipt" class:sent={isSent} aria-labelledby="receipt-{delivery.id}">
	<h2 id="receipt-{delivery.id}">
		<LevelMark level={isSent ? 'look' : 'clear'} size={28} />
		{isSent || !receipt.late ? word : `${word}, late`}
	</h2>
	{#if isSent}
		<p>
			The mail server took it. Nobody confirms that it was received; ask, or hand in at the portal as well.
		</p>
	{/if}
	<dl>
		<div>
			<dt>Receipt</dt>
			<dd class="large">{receipt.number}</dd>
		</div>
		<div>
			<dt>{isSent ? 'Taken' : word}</dt>
			<dd>
				{new Date(receipt.receivedAt).toLocaleString('en-GB', { dateStyle: 'full', timeStyle: 'long' })}
			</dd>
		</div>
		<div>
			<dt>For</dt>
			<dd>{whereTo(delivery)}</dd>
		</div>
		<div>
			<dt>File</dt>
			<dd>
				{delivery.fileName}.{delivery.type}, {plural(delivery.pages, 'page')}, {formatBytes(receipt.bytes)}
			</dd>
		</div>
		<div>
			<dt>SHA-256</dt>
			<dd><code>{receipt.sha256}</code></dd>
		</div>
	</dl>
	{#if delivery.problem}<p class="trouble"><LevelMark level="look" /> {delivery.problem}</p>{/if}
	<div class="buttons">
		<a class="quiet" href="/api/packets/{delivery.packetId}/deliveries/{delivery.id}/receipt"
			>Save the receipt (PDF)</a
		>
		<a class="quiet" href="/packets/{delivery.packetId}/receipts/{delivery.id}">Receipt as a page</a>
		<a
			class="quiet"
			href="/api/packets/{delivery.packetId}/files/{delivery.fileId}?open"
			target="_blank"
			rel="noopener"
		>
			Open what was sent
		</a>
		{#if isSent}
			<span class="soft">A letter cannot be taken back.</span>
		{:else if asking}
			<span
				>{isSaved
					? 'Take the file out of the folder again?'
					: 'Take it back? You can hand in again until it is due.'}</span
			>
			<button class="quiet" disabled={busy} onclick={onrecall}>Yes, recall it</button>
			<button class="quiet" onclick={() => (asking = false)}>Leave it</button>
		{:else}
			<button class="quiet" onclick={() => (asking = true)}>Recall</button>
		{/if}
	</div>
</section>

<style>
	.receipt {
		display: grid;
		gap: 1rem;
		padding: 1.5rem;
		background: var(--white);
		border: 2px solid var(--lichen-fill);
	}
	h2 {
		display: flex;
		align-items: center;
		gap: 0.5rem;
		font-size: 1.75rem;
		font-weight: 400;
	}
	.receipt.sent {
		border-color: var(--ochre-fill);
	}
	.trouble {
		display: flex;
		gap: 0.5rem;
	}
	.soft {
		color: var(--ink-soft);
	}
	dl {
		display: grid;
		gap: 0.5rem;
		margin: 0;
	}
	dl div {
		display: flex;
		gap: 0.75rem;
		align-items: baseline;
	}
	dt {
		flex: none;
		width: 5rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	dd {
		margin: 0;
		line-height: 1.4;
		overflow-wrap: anywhere;
	}
	.large {
		font-size: 1.5rem;
		font-weight: 600;
	}
	code {
		font-size: 0.8125rem;
	}
	.buttons {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.625rem;
		font-size: 0.875rem;
	}
</style>
