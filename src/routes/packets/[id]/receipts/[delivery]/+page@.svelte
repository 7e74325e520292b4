<script lang="ts">
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import LevelMark from '$lib/ui/theme/LevelMark.svelte';

	let { data } = $props();
	const receipt = $derived(data.receipt);
</script>

<svelte:head><title>Receipt · {receipt.lines[0]?.[1]}</title></svelte:head>

<div class="top"><TopBar /></div>
<main>
	<h1><LevelMark level="clear" size={32} /> {receipt.title}</h1>
	<dl>
		{#each receipt.lines as [label, text] (label)}
			<div>
				<dt>{label}</dt>
				<dd class:number={label === 'Receipt'} class:hash={label === 'SHA-256'}>{text}</dd>
			</div>
		{/each}
	</dl>
	<p class="footer">{receipt.footer}</p>
	<div class="buttons">
		<a class="quiet" href="/api/packets/{data.packet}/deliveries/{data.delivery}/receipt">Save as PDF</a>
		<button class="quiet" onclick={() => print()}>Print</button>
		<a class="quiet" href="/packets/{data.packet}/hand-in">Back to the packet</a>
	</div>
</main>

<style>
	main {
		max-width: 46rem;
		margin: 2rem auto;
		padding: 2rem;
		background: var(--white);
		border: 2px solid var(--lichen-fill);
	}
	h1 {
		display: flex;
		align-items: center;
		gap: 0.75rem;
		font-size: 2.25rem;
		font-weight: 400;
	}
	dl {
		display: grid;
		gap: 0.75rem;
		margin: 1.5rem 0;
	}
	dl div {
		display: grid;
		grid-template-columns: 7rem minmax(0, 1fr);
		gap: 0.75rem;
		align-items: baseline;
	}
	dt {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	dd {
		margin: 0;
		line-height: 1.4;
		overflow-wrap: anywhere;
		white-space: pre-line;
	}
	.number {
		font-size: 1.75rem;
		font-weight: 600;
	}
	.hash {
		font-family: 'IBM Plex Mono', monospace;
		font-size: 0.8125rem;
	}
	.footer {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.buttons {
		display: flex;
		flex-wrap: wrap;
		gap: 0.625rem;
		margin-top: 1.5rem;
	}
	@media (max-width: 700px) {
		main {
			margin: 0.75rem;
			padding: 1.25rem;
		}
		dl div {
			grid-template-columns: 1fr;
			gap: 0;
		}
	}
	@media print {
		.top,
		.buttons {
			display: none;
		}
		main {
			border: 0;
		}
	}
</style>
