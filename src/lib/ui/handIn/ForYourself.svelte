<script lang="ts">
	import { onMount } from 'svelte';
	import { PasswordInput } from 'carbon-components-svelte';
	import type { FileRow } from '$lib/server/store/deliveries';
	import { usePacket } from '../packet/context';
	import { askResponse, post } from '../packet/ask';

	interface Props {
		busy: boolean;
		/** Has the file made and waits for it. */
		make: (type: 'pdf' | 'zip') => Promise<FileRow>;
		/** Runs something that takes its time, and tells what went wrong. */
		attempt: (work: () => Promise<void>) => Promise<void>;
	}
	let { busy, make, attempt }: Props = $props();
	const store = usePacket();
	const ready = $derived(store.waiting === 0 && store.preparing === 0);
	let locking = $state(false);
	let password = $state('');

	const path = (file: FileRow, rest = '') => `/api/packets/${store.view.id}/files/${file.id}${rest}`;
	const save = (type: 'pdf' | 'zip', rest = '') =>
		attempt(async () => location.assign(path(await make(type), rest)));

	const saveLocked = () =>
		attempt(async () => {
			const file = await make('pdf');
			const response = await askResponse(store.view.id, `files/${file.id}`, post({ password }));
			const link = document.createElement('a');
			link.href = URL.createObjectURL(await response.blob());
			link.download = `${file.name}.pdf`;
			link.click();
			URL.revokeObjectURL(link.href);
			locking = false;
			password = '';
		});

	/** Whether this device can pass a file on to its other programs. */
	let shares = $state(false);
	onMount(() => {
		const sample = new File([''], 'a.pdf', { type: 'application/pdf' });
		shares = navigator.canShare?.({ files: [sample] }) ?? false;
	});

	const share = () =>
		attempt(async () => {
			const made = await make('pdf');
			const response = await askResponse(store.view.id, `files/${made.id}`);
			const file = new File([await response.blob()], `${made.name}.pdf`, { type: 'application/pdf' });
			await navigator.share({ files: [file], title: made.name }).catch((error: Error) => {
				// Closed without choosing: that is an answer too.
				if (error.name !== 'AbortError') throw error;
			});
		});

	const print = () =>
		attempt(async () => {
			const file = await make('pdf');
			const frame = document.createElement('iframe');
			frame.hidden = true;
			frame.title = 'The file, to print';
			frame.src = path(file, '?open');
			frame.onload = () => frame.contentWindow?.print();
			document.body.append(frame);
		});
</script>

<section class="card" aria-label="For yourself">
	<span>For yourself:</span>
	<button class="quiet" disabled={busy || !ready} onclick={() => save('pdf')}>Save as PDF</button>
	<button class="quiet" disabled={busy || !ready} aria-expanded={locking} onclick={() => (locking = !locking)}
		>… with a password</button
	>
	<button class="quiet" disabled={busy || !ready} onclick={() => save('zip')}>Save page images (ZIP)</button>
	<button class="quiet" disabled={busy || !ready} onclick={print}>Print</button>
	{#if shares}<button class="quiet" disabled={busy || !ready} onclick={share}>Pass on to another app</button
		>{/if}
	<button
		class="quiet"
		disabled={busy || !ready}
		title="Which page answers which question, as a table"
		onclick={() => save('pdf', '/manifest?as=csv')}>Contents (CSV)</button
	>
	<button
		class="quiet"
		disabled={busy || !ready}
		title="The same with checks and hashes, for programs"
		onclick={() => save('pdf', '/manifest')}>Contents (JSON)</button
	>
	{#if locking}
		<form
			onsubmit={(e) => {
				e.preventDefault();
				void saveLocked();
			}}
		>
			<PasswordInput
				tooltipAlignment="end"
				labelText="Password for the saved PDF"
				helperText="It is not kept anywhere: without it the copy cannot be opened. What you hand in has none."
				bind:value={password}
				autocomplete="new-password"
			/>
			<button class="quiet" disabled={busy || password.length < 4}>Save locked</button>
		</form>
	{/if}
</section>

<style>
	.card {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.625rem;
		padding: 0.875rem 1.5rem;
		background: var(--white);
		border: 1px solid var(--rule);
		font-size: 0.875rem;
	}
	form {
		flex-basis: 100%;
		display: grid;
		gap: 0.75rem;
		justify-items: start;
		max-width: 30rem;
	}
</style>
