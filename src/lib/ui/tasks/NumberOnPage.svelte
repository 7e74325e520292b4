<script lang="ts">
	import { usePacket } from '../packet/context';

	// The number written on a page: as read, or as a person says, which the proposed order then follows.
	let { page }: { page: string } = $props();
	const store = usePacket();
	const said = $derived(store.packet.pages[page]?.number);
	const placed = $derived(store.order?.strip.find((s) => s.page === page)?.number ?? null);
	/** Less likely readings are not worth a word. */
	const LEAST = 0.2;
	const read = $derived(store.view.pages[page]?.reading?.numbers.find((n) => n.probability >= LEAST) ?? null);
	const words = $derived(
		said === null
			? 'none, as you say'
			: said !== undefined
				? `${said}, as you say`
				: placed
					? `reads ${placed.number}${placed.of ? ` of ${placed.of}` : ''}`
					: read
						? `reads ${read.number}, perhaps`
						: store.view.pages[page]?.reading
							? 'none read'
							: 'not read yet'
	);
	let editing = $state(false);
	/** The field holds a number, or nothing. */
	let value = $state<number | null>(null);
	let field = $state<HTMLInputElement | null>(null);
	$effect(() => {
		void page;
		editing = false;
	});
	$effect(() => field?.select());

	function begin(): void {
		value = said ?? placed?.number ?? read?.number ?? null;
		editing = true;
	}
	function save(event: SubmitEvent): void {
		event.preventDefault();
		const number = value ?? null;
		if (number !== null && !(Number.isInteger(number) && number >= 1 && number <= 999)) return;
		store.edit({ kind: 'setNumber', page, number });
		editing = false;
	}
</script>

<div class="number">
	{#if editing}
		<form onsubmit={save}>
			<label>
				Number on the page
				<input
					class="small-field"
					bind:this={field}
					bind:value
					type="number"
					min="1"
					max="999"
					onkeydown={(e) => {
						if (e.key === 'Escape') editing = false;
					}}
				/>
			</label>
			<button class="quiet">Save</button>
		</form>
		<p>Leave it empty when there is no number.</p>
	{:else}
		<span>Number on the page: <b>{words}</b></span>
		<button class="textual" onclick={begin}>Correct</button>
		{#if said !== undefined}
			<button class="textual" onclick={() => store.edit({ kind: 'setNumber', page, number: 'as-read' })}>
				Back to what was read
			</button>
		{/if}
	{/if}
</div>

<style>
	.number {
		font-size: 0.875rem;
		line-height: 1.6;
	}
	form {
		display: flex;
		align-items: end;
		gap: 0.375rem;
	}
	label {
		display: flex;
		align-items: center;
		gap: 0.5rem;
	}
	p {
		color: var(--ink-soft);
		font-size: 0.8125rem;
	}
</style>
