<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { DocumentAdd, Printer } from 'carbon-icons-svelte';
	import { plural } from '$lib/core/rules/finding';

	interface Props {
		/** Whether the demo's stack is there to be taken; null outside of the demo. */
		demoStack: { readonly isThere: boolean } | null;
		/** How many people the course has, and where their cover sheets are. */
		people: number;
		covers: string;
		onchoose: () => void;
		ondemo: () => void;
	}
	let { demoStack, people, covers, onchoose, ondemo }: Props = $props();
</script>

<div class="empty">
	<h1>One pile, thirty packets</h1>
	<p>
		Bring in the answers of the whole class as they come: a feeder’s PDF, photographs, several files, more
		later. Membrana proposes where each packet begins and whose it is, from names, page numbers, question
		labels and hands. You look at what is not sure; nothing becomes a packet before you say so.
	</p>
	<div class="actions">
		<Button icon={DocumentAdd} on:click={onchoose}>Choose files</Button>
		{#if demoStack}
			<Button kind="tertiary" disabled={!demoStack.isThere} on:click={ondemo}
				>{demoStack.isThere ? 'Take the demo’s stack' : 'The demo’s stack is being drawn …'}</Button
			>
		{/if}
	</div>
	<p class="soft">Or drop them anywhere on this page.</p>
	<section class="before" aria-labelledby="before-scanning">
		<h2 id="before-scanning">Not scanned yet?</h2>
		<p>
			Lay a cover sheet on top of each person’s pages: its code says whose they are, also where no name can be
			read. An empty sheet of coloured paper between packets helps as well. Neither gets into a packet.
		</p>
		{#if people > 0}
			<Button kind="ghost" icon={Printer} href={covers}>{plural(people, 'cover sheet')} to print</Button>
		{/if}
	</section>
</div>

<style>
	.empty {
		display: grid;
		justify-items: start;
		gap: 1rem;
		max-width: 40rem;
		margin: 4rem auto;
	}
	h1 {
		font-size: 1.75rem;
		font-weight: 400;
	}
	.actions {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem;
	}
	.soft {
		color: var(--ink-soft);
	}
	.before {
		display: grid;
		justify-items: start;
		gap: 0.5rem;
		margin-top: 1rem;
		padding-top: 1.25rem;
		border-top: 1px solid var(--rule);
	}
	h2 {
		font-size: 1.125rem;
		font-weight: 600;
	}
	.before :global(.bx--btn) {
		margin-left: -1rem;
	}
</style>
