<script lang="ts">
	import { Button, InlineLoading, InlineNotification } from 'carbon-components-svelte';
	import { piecesByQuestion, stretchesOf } from '$lib/core/mapping/stretches';
	import { formatDue, formatDuration } from '$lib/core/rules/dueTime';
	import { namePages, plural } from '$lib/core/rules/finding';
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import { answerables } from '$lib/core/rules/question';
	import type { FileRow } from '$lib/server/store/deliveries';
	import { usePacket } from '../packet/context';
	import LevelMark from '../rules/LevelMark.svelte';
	import NoPage from './NoPage.svelte';
	import Receipt from './Receipt.svelte';

	const store = usePacket();
	const blocking = $derived(store.findings.filter((f) => f.level === 'blocks'));
	const looks = $derived(store.findings.filter((f) => f.level === 'look'));
	const deliveries = $derived(store.view.deliveries);
	const latest = $derived(deliveries[0]);
	const standing = $derived(deliveries.find((d) => d.state === 'received'));
	const sending = $derived(deliveries.find((d) => d.state === 'sending' || d.state === 'recalling'));
	const asked = $derived(store.sheet.file?.type ?? 'pdf');
	const pieces = $derived(piecesByQuestion(stretchesOf(store.packet)));
	const isNewer = $derived(!standing || standing.packetVersion !== store.view.version);

	let file = $state.raw<FileRow | null>(null);
	let problem = $state<string | null>(null);
	let busy = $state(false);
	let proofOpen = $state(false);
	/** One wish to hand in; a second click is the same wish. */
	let key = '';

	const ready = $derived(store.waiting === 0 && store.preparing === 0 && store.packet.strip.length > 0);
	const current = $derived(
		file && file.packetVersion === store.view.version && file.type === asked ? file : null
	);

	async function ask<T>(path: string, init?: RequestInit): Promise<T> {
		const response = await fetch(`/api/packets/${store.view.id}/${path}`, init).catch(() => {
			throw new Error('The line is down. Nothing is lost; try again when it is back.');
		});
		const body = (await response.json()) as T & { message?: string };
		if (!response.ok) throw new Error(body.message ?? 'This could not be done.');
		return body;
	}

	/** Has the file made and waits for it. */
	async function make(type: 'pdf' | 'zip'): Promise<FileRow> {
		const post = {
			method: 'POST',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ version: store.view.version, type })
		};
		let made = await ask<FileRow>('file', post);
		while (made.state === 'making') {
			await new Promise((done) => setTimeout(done, 200));
			made = await ask<FileRow>(`files/${made.id}?state`);
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
			proofOpen = true;
		});
	const handIn = () =>
		attempt(async () => {
			await ask('deliveries', {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ file: current!.id, key })
			});
			proofOpen = false;
			store.refresh();
		});
	const save = (type: 'pdf' | 'zip') =>
		attempt(async () => {
			const made = await make(type);
			location.assign(`/api/packets/${store.view.id}/files/${made.id}`);
		});
	const recall = (id: string) =>
		attempt(async () => {
			await ask(`deliveries/${id}`, { method: 'DELETE' });
			store.refresh();
		});

	const due = $derived(store.sheet.due);
	const left = $derived(due ? Date.parse(due) - store.now : null);
</script>

{#if store.packet.strip.length === 0}
	<NoPage />
{:else}
	<div class="hand-in">
		{#if problem}
			<InlineNotification
				kind="error"
				lowContrast
				title="Not done."
				subtitle={problem}
				on:close={() => (problem = null)}
			/>
		{/if}

		{#if sending}
			<section class="card" aria-live="polite">
				<InlineLoading
					description={sending.state === 'recalling' ? 'Taking it back' : 'On its way to the grading portal'}
				/>
				{#if sending.problem}
					<p class="trouble">
						<LevelMark level="look" />
						{sending.problem} It is tried again by itself ({plural(sending.tries, 'try', 'tries')} so far). You
						may close this page. It is not handed in until a receipt stands here.
					</p>
				{/if}
			</section>
		{:else if latest?.state === 'refused'}
			<section class="card">
				<p class="trouble"><LevelMark level="blocks" /> Not handed in: {latest.problem}</p>
			</section>
		{/if}

		{#if standing}
			<Receipt delivery={standing} title={store.sheet.title} onrecall={() => recall(standing.id)} {busy} />
			{#if standing.problem}<p class="trouble"><LevelMark level="look" /> {standing.problem}</p>{/if}
		{/if}

		{#if !sending && isNewer}
			<section class="card" aria-labelledby="to-send">
				<h2 id="to-send">{standing ? 'Hand in the changed packet instead' : 'Exactly this will be sent'}</h2>
				<dl>
					<div>
						<dt>To</dt>
						<dd>{store.sheet.title}, {store.view.assignment.courseCode}</dd>
					</div>
					{#if due}
						<div>
							<dt>Due</dt>
							<dd>
								{formatDue(due)}, {left! >= 0
									? `in ${formatDuration(left!)}`
									: `${formatDuration(-left!)} ago`}
							</dd>
						</div>
					{/if}
					<div>
						<dt>File</dt>
						<dd>
							{store.findings.find((f) => f.rule === 'fileName')?.level === 'clear'
								? store.findings.find((f) => f.rule === 'fileName')!.message
								: (store.packet.fileName ?? '')}
							{#if current}<small
									>{formatBytes(current.bytes ?? 0)}, {plural(current.pages ?? 0, 'page')}</small
								>{/if}
						</dd>
					</div>
				</dl>
				{#if blocking.length > 0}
					<p class="trouble">
						<LevelMark level="blocks" />
						{blocking.length === 1 ? 'One rule still blocks' : `${blocking.length} rules still block`}; the
						rule sheet leads to each.
					</p>
				{:else if looks.length > 0}
					<p class="trouble"><LevelMark level="look" /> {looks.length} to look at. They do not stop you.</p>
				{/if}
				<div class="buttons">
					{#if proofOpen && current}
						<Button disabled={busy || blocking.length > 0} on:click={handIn}>Hand in now</Button>
						<a
							class="quiet"
							href="/api/packets/{store.view.id}/files/{current.id}?open"
							target="_blank"
							rel="noopener"
						>
							Open the file itself
						</a>
					{:else}
						<Button disabled={busy || !ready} on:click={proof}>
							{busy ? 'Making the file …' : 'Make the file and look at it'}
						</Button>
					{/if}
					{#if !ready && store.preparing > 0}
						<span class="hint">{plural(store.preparing, 'page')} still being prepared</span>
					{/if}
				</div>
				{#if proofOpen && current}
					<ol class="proof" aria-label="Pages of the file, in sequence">
						{#each store.packet.strip as page, i (page)}
							<li>
								<img src={store.image(page, 'view')} alt="Page {i + 1} as it will be sent" />
								<span>{i + 1}</span>
							</li>
						{/each}
					</ol>
					<p class="contents">
						{#each answerables(store.sheet.questions) as question (question.id)}
							{@const own = pieces.get(question.id)}
							<span>
								<b>{question.id}</b>
								{own ? namePages([...new Set(own.map((p) => p.position))]) : 'not attempted'}
							</span>
						{/each}
					</p>
					<p class="hash">SHA-256 <code>{current.sha256}</code></p>
				{/if}
			</section>
		{/if}

		<section class="card slim" aria-label="For yourself">
			<span>For yourself:</span>
			<button class="quiet" disabled={busy || !ready} onclick={() => save('pdf')}>Save as PDF</button>
			<button class="quiet" disabled={busy || !ready} onclick={() => save('zip')}
				>Save page images (ZIP)</button
			>
		</section>

		{#if deliveries.length > 0}
			<section class="card" aria-labelledby="deliveries">
				<h2 id="deliveries">What was handed in</h2>
				<ul class="history">
					{#each deliveries as delivery (delivery.id)}
						<li>
							<time
								>{new Date(delivery.handedInAt).toLocaleString('en-GB', {
									dateStyle: 'medium',
									timeStyle: 'short'
								})}</time
							>
							<b
								>{delivery.state === 'sending'
									? 'on its way'
									: delivery.state === 'recalling'
										? 'being recalled'
										: delivery.state}</b
							>
							<span>
								{delivery.fileName}.{delivery.type}, {plural(delivery.pages, 'page')}, {formatBytes(
									delivery.bytes
								)}, by {delivery.by}{delivery.receipt ? `, receipt ${delivery.receipt.number}` : ''}
							</span>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
	</div>
{/if}

<style>
	.hand-in {
		display: grid;
		gap: 1rem;
		max-width: 56rem;
		margin: 0 auto;
		padding: 1.25rem;
	}
	.card {
		display: grid;
		gap: 0.875rem;
		padding: 1.25rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	.slim {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.625rem;
		padding: 0.75rem 1.25rem;
		font-size: 0.875rem;
	}
	h2 {
		font-size: 1.25rem;
		font-weight: 400;
	}
	dl {
		display: grid;
		gap: 0.375rem;
		margin: 0;
	}
	dl div {
		display: flex;
		gap: 0.75rem;
		align-items: baseline;
	}
	dt {
		flex: none;
		width: 3rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	dd {
		margin: 0;
		font-size: 1.25rem;
		overflow-wrap: anywhere;
	}
	dd small {
		margin-left: 0.5rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.proof {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(11rem, 1fr));
		gap: 0.75rem;
		margin: 0;
		padding: 0.75rem;
		list-style: none;
		background: var(--table);
	}
	.proof li {
		display: grid;
		justify-items: center;
		gap: 0.25rem;
		font-size: 0.875rem;
		font-weight: 600;
	}
	.proof img {
		width: 100%;
		background: #fff;
	}
	.contents {
		display: flex;
		flex-wrap: wrap;
		gap: 0.375rem 1.25rem;
		font-size: 0.9375rem;
	}
	.contents b {
		font-weight: 600;
	}
	.hash {
		color: var(--ink-soft);
		font-size: 0.75rem;
		overflow-wrap: anywhere;
	}
	.trouble {
		display: flex;
		align-items: flex-start;
		gap: 0.5rem;
		font-size: 0.9375rem;
	}
	.buttons {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.75rem;
	}
	.hint {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.history {
		margin: 0;
		padding: 0;
		list-style: none;
		font-size: 0.875rem;
	}
	.history li {
		display: flex;
		flex-wrap: wrap;
		gap: 0.25rem 0.75rem;
		padding: 0.5rem 0;
		border-top: 1px solid var(--rule);
	}
</style>
