<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, InlineNotification, PasswordInput, TextInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/frame/Door.svelte';

	let { form } = $props();
</script>

<svelte:head><title>First start · Membrana</title></svelte:head>

<Door lead="A school of its own: name it, and become its first administrator.">
	<form
		method="post"
		use:enhance={() =>
			({ update }) =>
				update({ reset: false })}
	>
		<h2>The school</h2>
		{#if form?.problem}
			<InlineNotification kind="error" lowContrast hideCloseButton title={form.problem} />
		{/if}
		<TextInput name="school" labelText="Its name" value={form?.school ?? ''} />
		<h2>You</h2>
		<div class="two">
			<TextInput name="given" labelText="Given name" autocomplete="given-name" value={form?.given ?? ''} />
			<TextInput
				name="family"
				labelText="Family name"
				autocomplete="family-name"
				value={form?.family ?? ''}
			/>
		</div>
		<TextInput
			name="email"
			labelText="Mail address (may be left out)"
			type="email"
			autocomplete="email"
			value={form?.email ?? ''}
		/>
		<TextInput name="login" labelText="Sign-in name" autocomplete="username" value={form?.login ?? ''} />
		<PasswordInput
			tooltipAlignment="end"
			name="password"
			labelText="Password"
			helperText="At least 10 characters. Three or four words in a row make a good one."
			autocomplete="new-password"
		/>
		<Button type="submit">Set up the school</Button>
	</form>
</Door>
