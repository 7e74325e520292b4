<script lang="ts">
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import SchoolNav from '$lib/ui/school/SchoolNav.svelte';
	import '$lib/ui/school/school.css';

	let { data, children } = $props();
</script>

<TopBar>{data.school}</TopBar>
<main class="school-page">
	<h1>{data.school}</h1>
	<SchoolNav />
	{@render children()}
</main>
