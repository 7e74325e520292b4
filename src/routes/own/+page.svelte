<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import SettingsForm from '$lib/ui/school/SettingsForm.svelte';

	let { data, form } = $props();
</script>

<svelte:head><title>Settings · Membrana</title></svelte:head>
<TopBar>Settings</TopBar>
<main>
	<h1>Settings</h1>
	<form
		method="post"
		action="?/name"
		use:enhance={() =>
			({ update }) =>
				update({ reset: false })}
	>
		<h2>Your name, as it stands on your work</h2>
		<div class="two">
			<TextInput name="given" labelText="Given name" value={data.given} />
			<TextInput name="family" labelText="Family name" value={data.family} />
		</div>
		<div class="line">
			<Button type="submit" size="field">Save the name</Button>
			{#if form && 'named' in form}<span role="status">Saved.</span>{/if}
		</div>
	</form>
	<SettingsForm settings={data.settings} held={data.held} ways={['mail', 'folder']} {form} />
	<section>
		<h2>Where everything is</h2>
		<p>Your pages and files are on this computer only, in <code>{data.data}</code>.</p>
	</section>
</main>

<style>
	main {
		display: grid;
		gap: 2.5rem;
		max-width: 48rem;
		margin: 0 auto;
		padding: 2rem 1.5rem;
	}
	h1 {
		font-size: 2.25rem;
		font-weight: 400;
	}
	h2 {
		font-size: 1.25rem;
	}
	form,
	section {
		display: grid;
		gap: 1rem;
		max-width: 40rem;
	}
	.two {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 1rem;
	}
	.line {
		display: flex;
		align-items: center;
		gap: 0.75rem;
	}
	code {
		overflow-wrap: anywhere;
	}
</style>
