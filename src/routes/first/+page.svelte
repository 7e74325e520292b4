<script lang="ts">
	import Door from '$lib/ui/frame/Door.svelte';
</script>

<svelte:head><title>Not set up yet · Membrana</title></svelte:head>

<Door lead="This Membrana has not been set up yet.">
	<section class="text">
		<h2>Open the address that was printed</h2>
		<p>
			Where Membrana was started, it wrote an address that ends in <code>/first/…</code>. Whoever opens it
			names the school and becomes its first administrator.
		</p>
		<p>It works once, within an hour. Start Membrana again, and it prints a new one.</p>
	</section>
</Door>

<style>
	.text {
		display: grid;
		gap: 1rem;
	}
	p {
		line-height: 1.5;
	}
</style>
