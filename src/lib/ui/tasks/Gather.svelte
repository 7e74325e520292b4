<script lang="ts">
	import { Button, ProgressBar } from 'carbon-components-svelte';
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import { page as route } from '$app/state';
	import { usePacket, useUploads } from '../packet/context';
	import LevelMark from '../rules/LevelMark.svelte';

	const store = usePacket();
	const uploads = useUploads();
	let input: HTMLInputElement | undefined = $state();
	let over = $state(false);
	let fetching = $state(false);

	const asked = $derived.by(() => {
		const { min, max, size } = store.sheet.pages ?? {};
		const count =
			min && max
				? min === max
					? `${min}`
					: `${min} to ${max}`
				: min
					? `at least ${min}`
					: max
						? `at most ${max}`
						: null;
		return [count && `${count} pages`, size].filter(Boolean).join(', ');
	});

	/** Files the server has, and those it refused. */
	const pagesOf = (source: string) => {
		const positions = store.packet.strip.flatMap((id, i) =>
			store.packet.pages[id]?.source === source ? [i + 1] : []
		);
		const aside = store.packet.tray.filter((t) => store.packet.pages[t.page]?.source === source).length;
		const parts = [
			positions.length === 1
				? `page ${positions[0]}`
				: positions.length > 1
					? `pages ${positions[0]} to ${positions.at(-1)}`
					: '',
			aside > 0 ? `${aside} set aside` : ''
		];
		return parts.filter(Boolean).join(', ') || 'being looked at';
	};

	function take(files: FileList | null | undefined): void {
		if (files && files.length > 0) uploads.add(files);
	}
	function drop(event: DragEvent): void {
		event.preventDefault();
		over = false;
		take(event.dataTransfer?.files);
	}
	async function demoPictures(): Promise<void> {
		fetching = true;
		try {
			const names = (await (await fetch('/api/demo-pictures')).json()) as string[];
			const files = await Promise.all(
				names.map(async (name) => {
					const response = await fetch(`/api/demo-pictures/${encodeURIComponent(name)}`);
					return new File([await response.blob()], name);
				})
			);
			uploads.add(files);
		} finally {
			fetching = false;
		}
	}
</script>

<div class="gather">
	<!-- svelte-ignore a11y_no_static_element_interactions -->
	<div
		class="drop"
		class:over
		class:small={store.view.sources.length > 0}
		ondragover={(e) => {
			e.preventDefault();
			over = true;
		}}
		ondragleave={() => (over = false)}
		ondrop={drop}
	>
		<h2>Bring in your pages</h2>
		<p>Drop photographs or a scanner's PDF here, as many as you like. {asked ? `Asked: ${asked}.` : ''}</p>
		<input
			bind:this={input}
			type="file"
			multiple
			accept="image/jpeg,image/png,image/webp,application/pdf,.jpg,.jpeg,.png,.webp,.pdf"
			class="out-of-sight"
			aria-label="Choose files"
			tabindex="-1"
			onchange={(e) => {
				take(e.currentTarget.files);
				e.currentTarget.value = '';
			}}
		/>
		<div class="buttons">
			<Button on:click={() => input?.click()}>Choose files</Button>
			{#if route.data.demo}
				<button class="quiet" disabled={fetching} onclick={demoPictures}>Use the five demo photographs</button
				>
			{/if}
		</div>
		<p class="small">JPEG, PNG, WebP and PDF, up to 200 MB each. Originals are kept exactly as they are.</p>
	</div>

	{#if uploads.lines.some((line) => line.state !== 'safe')}
		<section aria-labelledby="on-their-way">
			<h3 id="on-their-way">
				{uploads.open > 0 ? `${uploads.lines.length - uploads.open} of ${uploads.lines.length} sent` : 'Sent'}
			</h3>
			{#if uploads.open > 0}
				<ProgressBar
					size="sm"
					labelText="All files"
					hideLabel
					value={uploads.sent}
					max={Math.max(uploads.total, 1)}
					helperText="{formatBytes(uploads.sent)} of {formatBytes(uploads.total)}"
				/>
			{/if}
			<ul>
				{#each uploads.lines as line (line.id)}
					{#if line.state !== 'safe'}
						<li class:problem={line.state === 'failed'}>
							{#if line.state === 'failed'}<LevelMark level="blocks" />{/if}
							<span class="name">{line.name}</span>
							<span class="state">
								{line.problem ??
									(line.state === 'waiting'
										? 'waiting'
										: `${Math.round((100 * line.sent) / Math.max(line.bytes, 1))} % of ${formatBytes(line.bytes)}`)}
							</span>
						</li>
					{/if}
				{/each}
			</ul>
			{#if uploads.open === 0}
				<button class="textual" onclick={() => uploads.clear()}>Clear this list</button>
			{/if}
		</section>
	{/if}

	{#if store.view.sources.length > 0}
		<section aria-labelledby="safe-here">
			<h3 id="safe-here">Safe here ({store.view.sources.length})</h3>
			<ul>
				{#each store.view.sources as source (source.id)}
					<li class:problem={source.state === 'refused'}>
						<LevelMark level={source.state === 'refused' ? 'blocks' : 'clear'} />
						<span class="name">{source.name}</span>
						<span class="state">
							{source.problem ?? `${formatBytes(source.bytes)}, ${pagesOf(source.id)}`}
						</span>
					</li>
				{/each}
			</ul>
		</section>
	{/if}
</div>

<style>
	.gather {
		display: grid;
		gap: 1.5rem;
		max-width: 60rem;
		margin: 0 auto;
		padding: 1.5rem;
	}
	.drop {
		display: grid;
		justify-items: center;
		gap: 0.75rem;
		padding: 2.5rem 1.5rem;
		border: 2px dashed #a99fb8;
		background: var(--white);
		text-align: center;
	}
	.drop.small {
		padding: 1.25rem 1.5rem;
	}
	.drop.over {
		border-color: var(--violet);
		background: #f1ebf8;
	}
	h2 {
		font-size: 1.75rem;
		font-weight: 400;
	}
	h3 {
		margin-bottom: 0.5rem;
		font-size: 1rem;
	}
	.buttons {
		display: flex;
		flex-wrap: wrap;
		justify-content: center;
		align-items: center;
		gap: 0.75rem;
	}
	.small {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	ul {
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		display: flex;
		align-items: center;
		gap: 0.75rem;
		padding: 0.5rem 0;
		border-top: 1px solid var(--rule);
		font-size: 0.9375rem;
	}
	.name {
		flex: 0 1 auto;
		min-width: 6rem;
		font-weight: 600;
		overflow-wrap: anywhere;
	}
	.state {
		flex: 1;
		color: var(--ink-soft);
	}
	.problem .state {
		color: var(--brick);
	}
</style>
