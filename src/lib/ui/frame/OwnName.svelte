<script lang="ts">
	import { enhance } from '$app/forms';
	import { invalidateAll } from '$app/navigation';
	import { Button, TextInput } from 'carbon-components-svelte';

	let problem = $state<string | null>(null);
</script>

<form
	method="post"
	action="/own?/name"
	use:enhance={() =>
		async ({ result }) => {
			if (result.type === 'failure') problem = String(result.data?.problem);
			else await invalidateAll();
		}}
>
	<h2>What is your name?</h2>
	<p>As it should stand on what you hand in. It is needed for the names of files, and goes nowhere else.</p>
	<div class="two">
		<TextInput name="given" labelText="Given name" autocomplete="given-name" />
		<TextInput name="family" labelText="Family name" autocomplete="family-name" />
	</div>
	{#if problem}<p role="alert">{problem}</p>{/if}
	<Button type="submit">Go on</Button>
</form>

<style>
	form {
		display: grid;
		gap: 1.25rem;
		justify-items: start;
		max-width: 40rem;
		padding: 2rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	h2 {
		font-size: 1.5rem;
		font-weight: 400;
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 1rem;
		width: 100%;
	}
</style>
