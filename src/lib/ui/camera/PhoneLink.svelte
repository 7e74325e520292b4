<script lang="ts">
	import { onMount } from 'svelte';
	import { toString as drawQr } from 'qrcode';
	import { formatDuration } from '$lib/core/rules/dueTime';
	import { usePacket } from '../packet/context';

	let { onclose }: { onclose: () => void } = $props();
	const store = usePacket();
	let dialog: HTMLDialogElement | undefined = $state();
	let qr = $state<string | null>(null);
	let address = $state('');
	let reach = $state<'network' | 'this-machine'>('network');
	let problem = $state<string | null>(null);
	let copied = $state(false);

	const phone = $derived(store.view.phone);
	const left = $derived(phone ? Math.max(0, Date.parse(phone.expiresAt) - store.now) : 0);

	onMount(() => {
		dialog?.showModal();
		// A code that is open already was shown before and is not kept; a new one ends it, so that is asked first.
		if (!store.view.phone) void make();
	});

	async function make(): Promise<void> {
		problem = null;
		const response = await fetch(`/api/packets/${store.view.id}/phone-link`, { method: 'POST' }).catch(
			() => null
		);
		if (!response?.ok) {
			problem = 'No code could be made. Check the line and try again.';
			return;
		}
		const made = (await response.json()) as { address: string; reach: typeof reach };
		({ address, reach } = made);
		const svg = await drawQr(address, {
			type: 'svg',
			margin: 2,
			color: { dark: '#2a1f3d', light: '#fffefb' }
		});
		qr = `data:image/svg+xml;utf8,${encodeURIComponent(svg)}`;
		store.refresh();
	}
	async function end(): Promise<void> {
		const response = await fetch(`/api/packets/${store.view.id}/phone-link`, { method: 'DELETE' }).catch(
			() => null
		);
		if (!response?.ok) {
			problem = 'The link could not be ended. Check the line and try again.';
			return;
		}
		qr = null;
		store.refresh();
		dialog?.close();
	}
	async function copy(): Promise<void> {
		copied = await navigator.clipboard.writeText(address).then(
			() => true,
			() => false
		);
	}
</script>

<dialog bind:this={dialog} aria-labelledby="phone-title" {onclose}>
	<h2 id="phone-title">Photograph with a phone</h2>
	<div class="body">
		{#if qr}
			<img src={qr} alt="Code that opens this packet on a phone" width="264" height="264" />
		{:else if phone}
			<p class="open">
				A link is open already. A new code ends it, also on the phone that has it open.
				<button class="quiet" onclick={make}>Show a new code</button>
			</p>
		{:else}
			<p class="open">{problem ? '' : 'Making a code …'}</p>
		{/if}
		<div class="text">
			<ol>
				<li>Point the phone’s camera at this code and open the address.</li>
				<li>Photograph page after page. No signing in.</li>
				<li>The pages appear here by themselves.</li>
			</ol>
			{#if reach === 'this-machine' && qr}
				<p class="warn">
					This Membrana answers on this computer only, so a phone cannot reach it. Whoever runs it starts it
					with HOST=0.0.0.0; then this works on the same network.
				</p>
			{/if}
			{#if problem}<p class="warn" role="alert">{problem}</p>{/if}
			{#if phone}
				<p class="state" class:on={phone.connected > 0} aria-live="polite">
					{phone.connected > 0
						? phone.connected === 1
							? 'A phone is connected.'
							: `${phone.connected} phones are connected.`
						: 'No phone has opened it yet.'}
					<span>It lets a phone add pages to this packet, nothing else, for {formatDuration(left)} more.</span
					>
				</p>
			{/if}
		</div>
	</div>
	{#if qr}
		<p class="address">
			<code>{address}</code> <button class="textual" onclick={copy}>{copied ? 'Copied' : 'Copy'}</button>
		</p>
	{/if}
	<div class="buttons">
		<button class="quiet" onclick={() => dialog?.close()}>Close, the link stays open</button>
		{#if phone}<button class="quiet" onclick={end}>End the link</button>{/if}
	</div>
</dialog>

<style>
	dialog {
		width: min(44rem, calc(100vw - 2rem));
		box-sizing: border-box;
		padding: 1.75rem;
		border: 0;
		background: var(--white);
		color: var(--ink);
	}
	dialog::backdrop {
		background: rgb(42 31 61 / 0.55);
	}
	h2 {
		margin-bottom: 1.25rem;
		font-size: 1.5rem;
		font-weight: 400;
	}
	.body {
		display: grid;
		grid-template-columns: 264px minmax(0, 1fr);
		gap: 1.75rem;
		align-items: start;
	}
	img {
		display: block;
		border: 1px solid var(--rule);
	}
	.open {
		display: grid;
		gap: 1rem;
		justify-items: start;
		align-content: center;
		min-height: 264px;
	}
	ol {
		margin: 0 0 1rem;
		padding-left: 1.25rem;
		list-style: decimal;
		line-height: 1.6;
	}
	.warn {
		margin-bottom: 1rem;
		padding: 0.625rem 0.75rem;
		border-left: 4px solid var(--ochre-fill);
		background: var(--look-soft);
		font-size: 0.9375rem;
	}
	.state {
		font-weight: 600;
	}
	.state.on {
		color: var(--lichen);
	}
	.state span {
		display: block;
		margin-top: 0.25rem;
		color: var(--ink-soft);
		font-weight: 400;
		font-size: 0.9375rem;
	}
	.address {
		margin-top: 1rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
		overflow-wrap: anywhere;
	}
	.buttons {
		display: flex;
		flex-wrap: wrap;
		gap: 0.75rem;
		margin-top: 1.5rem;
	}
	@media (max-width: 700px) {
		.body {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
