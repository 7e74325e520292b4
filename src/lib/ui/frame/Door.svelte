<script lang="ts">
	import type { Snippet } from 'svelte';
	import Mark from './Mark.svelte';

	interface Props {
		/** Under the name, what this is. */
		lead: string;
		children: Snippet;
	}
	let { lead, children }: Props = $props();
</script>

<main>
	<div class="intro">
		<Mark size={64} pages={1.6} run={2} />
		<h1>Membrana</h1>
		<p>{lead}</p>
	</div>
	<div class="door">{@render children()}</div>
</main>

<style>
	main {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
		min-height: 100vh;
	}
	.intro {
		display: grid;
		align-content: center;
		gap: 1rem;
		padding: 4rem;
		background: var(--bar);
		color: #f7f5f0;
	}
	h1 {
		font-size: 2.75rem;
		font-weight: 400;
	}
	.intro p {
		max-width: 26rem;
		font-size: 1.25rem;
		line-height: 1.5;
		color: #d8d0e6;
	}
	.door {
		display: grid;
		align-content: center;
		gap: 2.5rem;
		max-width: 30rem;
		padding: 3rem;
	}
	.door :global(h2) {
		font-size: 1.25rem;
	}
	.door :global(form) {
		display: grid;
		gap: 1rem;
		justify-items: stretch;
	}
	.door :global(.two) {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 1rem;
	}
	@media (max-width: 700px) {
		main {
			grid-template: auto 1fr / minmax(0, 1fr);
		}
		.intro,
		.door {
			padding: 2rem min(1.5rem, 6vw);
		}
		.door {
			align-content: start;
		}
	}
</style>
