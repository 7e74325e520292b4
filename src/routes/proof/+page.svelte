<script lang="ts">
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import { moment } from '$lib/ui/handIn/state';
	import LevelMark from '$lib/ui/theme/LevelMark.svelte';
	import type { HandInStatement } from '$lib/server/delivery/proof';

	type Outcome = { genuine: boolean; said: HandInStatement | null };
	let outcome = $state.raw<Outcome | null>(null);
	let problem = $state<string | null>(null);
	let fits = $state<boolean | null>(null);

	async function checkProof(event: Event & { currentTarget: HTMLInputElement }): Promise<void> {
		const file = event.currentTarget.files?.[0];
		outcome = null;
		problem = null;
		fits = null;
		if (!file) return;
		try {
			const proof = JSON.parse(await file.text()) as { statement?: string };
			const response = await fetch('/api/proof', {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify(proof)
			});
			const answer = (await response.json()) as { genuine?: boolean; message?: string };
			if (!response.ok) throw new Error(answer.message);
			outcome = {
				genuine: answer.genuine === true,
				said: answer.genuine ? (JSON.parse(proof.statement!) as HandInStatement) : null
			};
		} catch (error) {
			problem =
				error instanceof SyntaxError
					? 'This file is not a proof: it cannot be read as JSON.'
					: (error as Error).message;
		}
	}

	async function checkFile(event: Event & { currentTarget: HTMLInputElement }): Promise<void> {
		const file = event.currentTarget.files?.[0];
		if (!file || !outcome?.said) return;
		const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', await file.arrayBuffer()));
		fits = [...hash].map((b) => b.toString(16).padStart(2, '0')).join('') === outcome.said.sha256;
	}
</script>

<svelte:head><title>Check a proof · Membrana</title></svelte:head>
<TopBar />
<main>
	<h1>Check a proof of handing in</h1>
	<p>
		A proof says which file was handed in here, and when. It is signed, so nobody can have changed it since.
	</p>
	<label class="file">
		<span>The proof (a file ending in .json)</span>
		<input type="file" accept=".json,application/json" onchange={checkProof} />
	</label>
	<div aria-live="polite">
		{#if problem}
			<p class="verdict"><LevelMark level="blocks" size={24} /> {problem}</p>
		{:else if outcome && !outcome.genuine}
			<p class="verdict">
				<LevelMark level="blocks" size={24} /> This server did not sign it, or it was changed since.
			</p>
		{:else if outcome?.said}
			<p class="verdict">
				<LevelMark level="clear" size={24} /> This server signed it, and nothing was changed.
			</p>
			<dl>
				<dt>Handed in</dt>
				<dd class="large">{moment(outcome.said.handedInAt)}</dd>
				<dt>For</dt>
				<dd>{outcome.said.assignment}, {outcome.said.course}</dd>
				<dt>File</dt>
				<dd>{outcome.said.file}, {formatBytes(outcome.said.bytes)}</dd>
				<dt>SHA-256</dt>
				<dd><code>{outcome.said.sha256}</code></dd>
			</dl>
			<label class="file">
				<span>Compare a file with it (the file stays in this browser)</span>
				<input type="file" onchange={checkFile} />
			</label>
			{#if fits !== null}
				<p class="verdict">
					<LevelMark level={fits ? 'clear' : 'blocks'} size={24} />
					{fits ? 'This is the file that was handed in.' : 'This is another file than the one handed in.'}
				</p>
			{/if}
		{/if}
	</div>
</main>

<style>
	main {
		display: grid;
		gap: 1.25rem;
		max-width: 46rem;
		margin: 2rem auto;
		padding: 2rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	h1 {
		font-size: 1.75rem;
		font-weight: 400;
	}
	.file {
		display: grid;
		gap: 0.5rem;
	}
	.file span {
		font-weight: 600;
	}
	input {
		font: inherit;
		max-width: 100%;
	}
	input::file-selector-button {
		min-height: 2.75rem;
		margin-right: 0.75rem;
		padding: 0 1rem;
		border: 1px solid var(--violet);
		background: var(--white);
		color: var(--violet);
		font: inherit;
		cursor: pointer;
	}
	.verdict {
		display: flex;
		gap: 0.75rem;
		align-items: center;
		margin: 0.5rem 0;
		font-size: 1.125rem;
	}
	dl {
		display: grid;
		grid-template-columns: 7rem minmax(0, 1fr);
		gap: 0.625rem 0.75rem;
		align-items: baseline;
		margin: 1rem 0 1.5rem;
	}
	dt {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	dd {
		margin: 0;
		overflow-wrap: anywhere;
	}
	.large {
		font-size: 1.5rem;
	}
	code {
		font-size: 0.8125rem;
	}
	@media (max-width: 700px) {
		main {
			margin: 0;
			padding: 1rem;
		}
	}
</style>
