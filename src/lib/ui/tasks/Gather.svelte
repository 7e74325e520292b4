<script lang="ts">
	import { chosenFiles } from '$lib/ui/frame/chosenFiles';
	import { Button, ProgressBar } from 'carbon-components-svelte';
	import { Camera, DocumentAdd, Mobile } from 'carbon-icons-svelte';
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import { page as route } from '$app/state';
	import CameraDialog from '../camera/Camera.svelte';
	import { openStandIn } from '../camera/standIn';
	import PhoneLink from '../camera/PhoneLink.svelte';
	import { usePacket, useUploads } from '../packet/context';
	import type { Placing } from '../packet/uploads.svelte';
	import LevelMark from '../theme/LevelMark.svelte';
	import FirstLook from './FirstLook.svelte';
	import { tour } from '../tour/tour.svelte';

	const store = usePacket();
	const uploads = useUploads();
	let input: HTMLInputElement | undefined = $state();
	let over = $state(false);
	let fetching = $state(false);
	let cameraOpen = $state(false);
	let phoneOpen = $state(false);
	/** Behind which page new ones go: 'end', 'start' or a page. */
	let where = $state('end');
	const place = $derived.by((): Placing => {
		if (where === 'end' || (where !== 'start' && !store.packet.strip.includes(where))) return {};
		return { after: where === 'start' ? '' : where };
	});

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

	const MARKS = { waiting: 'clear', ready: 'clear', refused: 'blocks', repeat: 'look' } as const;

	/** Files the server has, and those it refused. */
	const pagesOf = (source: string, name: string) => {
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
		const said = parts.filter(Boolean).join(', ');
		return said || (name.toLowerCase().endsWith('.zip') ? 'its files stand below' : 'being looked at');
	};

	function take(files: Iterable<File> & { readonly length: number } = []): void {
		if (files.length > 0) uploads.add(files, place);
	}
	function drop(event: DragEvent): void {
		event.preventDefault();
		// The workspace takes what is dropped elsewhere.
		event.stopPropagation();
		over = false;
		take(event.dataTransfer?.files);
	}
	function paste(event: ClipboardEvent): void {
		if ((event.target as HTMLElement).matches('input, textarea')) return;
		take(event.clipboardData?.files);
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
			uploads.add(files, place);
		} finally {
			fetching = false;
		}
	}
</script>

<svelte:window onpaste={paste} />

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
		<p>
			{asked ? `Asked: ${asked}. ` : ''}Photograph them, or drop, paste or choose pictures and a scanner's
			PDF, as many as you like.
		</p>
		<input
			bind:this={input}
			type="file"
			multiple
			accept="image/jpeg,image/png,image/webp,image/tiff,image/heic,image/avif,image/gif,image/bmp,application/pdf,application/zip,.jpg,.jpeg,.png,.webp,.tif,.tiff,.heic,.avif,.gif,.bmp,.pdf,.zip"
			class="out-of-sight"
			aria-label="Choose files"
			tabindex="-1"
			{@attach chosenFiles(take)}
		/>
		<div class="buttons">
			<Button icon={Camera} on:click={() => (cameraOpen = true)}>Photograph here</Button>
			<!-- Nothing but this computer reaches a Membrana of one's own. -->
			{#if !route.data.own}
				<!-- Whoever holds a phone photographs here. -->
				<span class="with-phone">
					<Button kind="tertiary" icon={Mobile} on:click={() => (phoneOpen = true)}>
						{store.view.phone ? 'Phone link is open' : 'Photograph with a phone'}
					</Button>
				</span>
			{/if}
			<Button kind="tertiary" icon={DocumentAdd} on:click={() => input?.click()}>Choose files</Button>
		</div>
		{#if store.packet.strip.length > 0}
			<label class="where">
				New pages go
				<select bind:value={where}>
					<option value="end">at the end</option>
					<option value="start">at the start</option>
					{#each store.packet.strip as page, i (page)}
						<option value={page}>behind page {i + 1}</option>
					{/each}
				</select>
			</label>
		{/if}
		<p class="small">
			JPEG, PNG, WebP, TIFF, HEIC, AVIF, GIF, BMP, PDF and ZIPs of these, up to 200 MB each. Originals are
			kept exactly as they are.
			{#if route.data.demo}
				{@const theirs = route.data.demo.picturesOf === store.sheet.title}
				<button class="textual" disabled={fetching} onclick={demoPictures}
					>Use the five demo photographs{theirs ? '' : ` (of ${route.data.demo.picturesOf})`}</button
				>
				{#if theirs && store.view.sources.length === 0 && tour.at === null}
					<button class="textual" onclick={() => tour.begin()}>Take a short tour with them</button>
				{/if}
			{/if}
		</p>
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
				{#each uploads.lines as line (line.key)}
					{#if line.state !== 'safe'}
						<li class:problem={line.state === 'failed'}>
							{#if line.state === 'failed'}<LevelMark level="blocks" />{/if}
							<span class="name">{line.name}</span>
							<span class="state">
								{line.problem ??
									(line.state === 'waiting'
										? uploads.lineUp
											? 'only here, waits its turn'
											: 'only here, goes on when the line is back'
										: line.state === 'elsewhere'
											? 'is being sent by another tab'
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
						<LevelMark level={MARKS[source.state]} />
						<span class="name">{source.name}</span>
						<span class="state">
							{source.problem ?? `${formatBytes(source.bytes)}, ${pagesOf(source.id, source.name)}`}
						</span>
					</li>
				{/each}
			</ul>
		</section>
	{/if}
	{#if store.view.sources.length === 0 && uploads.lines.length === 0}<FirstLook />{/if}
</div>

{#if cameraOpen}
	<CameraDialog
		{uploads}
		standIn={route.data.demo ? openStandIn : null}
		{...place}
		onclose={() => (cameraOpen = false)}
	/>
{/if}
{#if phoneOpen}<PhoneLink onclose={() => (phoneOpen = false)} />{/if}

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
		border: 2px dashed var(--soft-edge);
		background: var(--white);
		text-align: center;
	}
	@media (max-width: 700px) {
		.with-phone {
			display: none;
		}
	}
	.drop.small {
		padding: 1.25rem 1.5rem;
	}
	.drop.over {
		border-color: var(--violet);
		background: var(--selected);
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
	.small .textual + .textual {
		margin-left: 1rem;
	}
	.where select {
		padding: 0.375rem 0.5rem;
		border: 1px solid var(--rule);
		background: var(--white);
		color: inherit;
		font: inherit;
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
