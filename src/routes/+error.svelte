<script lang="ts">
	import { page } from '$app/state';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
</script>

<svelte:head><title>Membrana</title></svelte:head>
<TopBar />
<main>
	<h1>{page.status === 404 ? 'Not here' : 'That did not work'}</h1>
	<p>{page.error?.message}</p>
	<a class="quiet" href="/">To the desk</a>
</main>

<style>
	main {
		display: grid;
		justify-items: start;
		gap: 1rem;
		max-width: 40rem;
		margin: 4rem auto;
		padding: 0 1.5rem;
	}
</style>
