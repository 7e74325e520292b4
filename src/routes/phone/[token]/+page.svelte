<script lang="ts">
	import { chosenFiles } from '$lib/ui/frame/chosenFiles';
	import { onMount, untrack } from 'svelte';
	import { formatDuration } from '$lib/core/rules/dueTime';
	import Camera from '$lib/ui/camera/Camera.svelte';
	import { hasCameraAccess } from '$lib/ui/camera/camera';
	import { PhoneStore } from '$lib/ui/camera/phoneStore.svelte';
	import { openStandIn } from '$lib/ui/camera/standIn';

	let { data } = $props();
	const store = untrack(() => new PhoneStore(data.view, data.token));
	const { uploads } = store;
	onMount(() => store.listen());

	let cameraOpen = $state(false);
	let live = $state(true);
	onMount(() => (live = hasCameraAccess()));

	const left = $derived(Math.max(0, Date.parse(store.view.expiresAt) - store.now));
	const arrived = $derived(
		store.view.brought.filter((b) => b.state === 'ready' || b.state === 'waiting').length
	);
	const connection = $derived(
		store.ended
			? 'The link has ended'
			: !store.online
				? 'The line is down'
				: store.view.computer
					? 'Connected to the computer'
					: 'Connected; the packet is not open on a computer now'
	);
</script>

<svelte:head><title>Photograph · {store.view.assignment}</title></svelte:head>
<svelte:window
	onbeforeunload={(e) => {
		if (uploads.open > 0) e.preventDefault();
	}}
/>

<main>
	<header>
		<p class="connection" class:on={!store.ended && store.online && store.view.computer} aria-live="polite">
			{connection}
		</p>
		<h1>{store.view.assignment}</h1>
		<p>{store.view.course} · {store.view.owner}’s packet</p>
	</header>

	{#if store.ended}
		<section>
			<h2>This link has ended</h2>
			<p>Ask the computer for a new code and open it on this phone.</p>
			{#if uploads.unsent.length > 0}
				<p>
					<strong>{uploads.unsent.length} not sent yet.</strong> They are kept on this phone and go with the new
					code.
				</p>
			{/if}
		</section>
	{:else}
		<div class="actions">
			{#if live}
				<button class="main" onclick={() => (cameraOpen = true)}>Photograph the pages</button>
			{:else}
				<label class="main">
					Photograph a page
					<input
						type="file"
						accept="image/*"
						capture="environment"
						{@attach chosenFiles((files) => uploads.add(files))}
					/>
				</label>
				<p class="note">
					Over this address the browser gives no live camera, so the phone’s own camera opens for each page.
				</p>
			{/if}
			<label class="second">
				Choose pictures from this phone
				<input
					type="file"
					multiple
					accept="image/*,application/pdf"
					{@attach chosenFiles((files) => uploads.add(files))}
				/>
			</label>
		</div>
	{/if}

	<section aria-labelledby="brought">
		<h2 id="brought">
			{arrived === 0
				? 'Nothing has arrived yet'
				: `${arrived} ${arrived === 1 ? 'picture' : 'pictures'} arrived`}
		</h2>
		<ul>
			{#each uploads.lines as line (line.key)}
				<li>
					{#if line.picture}<img src={line.picture} alt={line.name} />{/if}
					<span
						class="state"
						class:safe={store.stateOf(line) === 'arrived'}
						class:bad={line.state === 'failed'}
					>
						{store.stateOf(line)}
					</span>
				</li>
			{/each}
		</ul>
	</section>
	{#if !store.ended}
		<p class="note">
			This link only adds pages to this packet. It ends in {formatDuration(left)}, or when the computer ends
			it.
		</p>
	{/if}
</main>

{#if cameraOpen}
	<Camera {uploads} standIn={data.demo ? openStandIn : null} onclose={() => (cameraOpen = false)} />
{/if}

<style>
	main {
		display: grid;
		gap: 1.5rem;
		max-width: 36rem;
		margin: 0 auto;
		padding: 1.25rem;
	}
	.connection {
		display: inline-block;
		margin-bottom: 1rem;
		padding: 0.375rem 0.75rem;
		border-left: 4px solid var(--ochre-fill);
		background: var(--look-soft);
	}
	.connection.on {
		border-color: var(--lichen-fill);
		background: var(--good-soft);
	}
	h1 {
		font-size: 1.5rem;
		font-weight: 400;
	}
	h2 {
		margin-bottom: 0.5rem;
		font-size: 1.125rem;
	}
	.actions {
		display: grid;
		gap: 0.75rem;
	}
	.main,
	.second {
		position: relative;
		display: grid;
		place-items: center;
		border: 1px solid var(--violet);
		font: inherit;
		cursor: pointer;
	}
	.main {
		min-height: 6rem;
		background: var(--fill);
		color: #fff;
		font-size: 1.375rem;
		font-weight: 600;
	}
	.second {
		min-height: 3.25rem;
		background: var(--white);
		color: var(--violet);
	}
	label input {
		position: absolute;
		inset: 0;
		opacity: 0;
		cursor: pointer;
	}
	label:focus-within {
		outline: 2px solid var(--violet);
		outline-offset: 2px;
	}
	.note {
		color: var(--ink-soft);
		font-size: 0.9375rem;
	}
	ul {
		display: grid;
		grid-template-columns: repeat(auto-fill, minmax(6rem, 1fr));
		gap: 0.75rem;
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		display: grid;
		align-content: start;
		gap: 0.25rem;
		font-size: 0.8125rem;
	}
	img {
		width: 100%;
		height: 8rem;
		object-fit: cover;
		background: var(--table);
	}
	.state {
		color: var(--ochre);
	}
	.state.safe {
		color: var(--lichen);
	}
	.state.bad {
		color: var(--brick);
	}
</style>
