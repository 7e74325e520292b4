<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, InlineNotification, PasswordInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/frame/Door.svelte';

	let { data, form } = $props();
</script>

<svelte:head><title>Come in · Membrana</title></svelte:head>

<Door lead="From photographs of handwritten pages to one readable file, checked and handed in.">
	<form
		method="post"
		use:enhance={() =>
			({ update }) =>
				update({ reset: false })}
	>
		<h2>{data.given} {data.family}</h2>
		<p>
			{data.hasPassword ? 'Choose a new password.' : 'Choose a password.'} From then on you sign in as
			<b>{data.login}</b>.
		</p>
		{#if form?.problem}<InlineNotification
				kind="error"
				lowContrast
				hideCloseButton
				title={form.problem}
			/>{/if}
		<input
			type="text"
			class="out-of-sight"
			tabindex="-1"
			aria-hidden="true"
			autocomplete="username"
			value={data.login}
			readonly
		/>
		<PasswordInput
			tooltipAlignment="end"
			name="password"
			labelText="Password"
			helperText="At least 10 characters. Three or four words in a row make a good one."
			autocomplete="new-password"
		/>
		<Button type="submit">Come in</Button>
	</form>
</Door>

<style>
	p {
		line-height: 1.5;
	}
	b {
		font-weight: 600;
	}
</style>
