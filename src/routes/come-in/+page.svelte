<script lang="ts">
	import { Button, TextInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/frame/Door.svelte';
</script>

<svelte:head><title>Come in · Membrana</title></svelte:head>

<Door lead="From photographs of handwritten pages to one readable file, checked and handed in.">
	<form method="get">
		<h2>Come in with a slip</h2>
		<TextInput name="code" labelText="The code on it" placeholder="7KQM-02XD-9RTA" autocomplete="off" />
		<Button type="submit">Go on</Button>
		<p><a href="/sign-in">I have a password already</a></p>
	</form>
</Door>

<style>
	a {
		color: var(--violet);
	}
</style>
