<script lang="ts">
	import { ComboBox, Modal } from 'carbon-components-svelte';

	interface Person {
		readonly id: string;
		readonly given: string;
		readonly family: string;
	}
	interface Props {
		open: boolean;
		people: readonly Person[];
		/** People who have a packet in this stack already. */
		taken: ReadonlySet<string>;
		chosen: string | null;
		/** The top of the packet's first page. */
		header: string | null;
		onchosen: (person: string | null) => void;
	}
	let { open = $bindable(), people, taken, chosen, header, onchosen }: Props = $props();
	let selected = $state<string | undefined>();
	let box: HTMLElement | undefined = $state();
	$effect(() => {
		if (open) selected = chosen ?? undefined;
	});
	/** Until it has come into view the dialog takes no keyboard: tried for a second, in milliseconds. */
	const AGAIN = 50;
	const LONGEST = 1_000;
	$effect(() => {
		if (!open) return;
		const begun = performance.now();
		const timer = setInterval(() => {
			const field = box?.querySelector('input');
			field?.focus();
			const isThere = field && document.activeElement === field && performance.now() - begun > LONGEST / 2;
			if (isThere || performance.now() - begun > LONGEST) clearInterval(timer);
		}, AGAIN);
		return () => clearInterval(timer);
	});
	// Who has no packet yet comes first.
	const items = $derived(
		[...people]
			.sort((a, b) => Number(taken.has(a.id)) - Number(taken.has(b.id)))
			.map(({ id, given, family }) => ({
				id,
				text: `${family}, ${given}${taken.has(id) && id !== chosen ? ' (has a packet)' : ''}`
			}))
	);
	/** Enter on a name is all that it takes. */
	function choose(id: string): void {
		if (!open || id === chosen) return;
		onchosen(id);
		open = false;
	}
	/** Each word typed begins one of the name's. */
	function matches(item: { text: string }, value: string): boolean {
		const words = item.text.toLowerCase().split(/[\s,]+/);
		return value
			.toLowerCase()
			.split(/[\s,]+/)
			.every((typed) => words.some((word) => word.startsWith(typed)));
	}
</script>

<Modal
	bind:open
	modalHeading="Whose packet is it?"
	primaryButtonText="It is theirs"
	primaryButtonDisabled={!selected}
	secondaryButtonText="Not known"
	size="sm"
	on:submit={() => {
		onchosen(selected ?? null);
		open = false;
	}}
	on:click:button--secondary={() => {
		onchosen(null);
		open = false;
	}}
>
	{#if header}
		<div class="header"><img src={header} alt="Top of the first page" /></div>
	{/if}
	<div class="box" bind:this={box}>
		<ComboBox
			labelText="Type a few letters of the name"
			placeholder=""
			{items}
			bind:selectedId={selected}
			shouldFilterItem={matches}
			on:select={({ detail }) => choose(detail.selectedId)}
		/>
	</div>
</Modal>

<style>
	.header {
		height: 7rem;
		margin-bottom: 1rem;
		overflow: hidden;
		border: 1px solid var(--rule);
	}
	.header img {
		width: 100%;
	}
	.box {
		min-height: 18rem;
	}
</style>
