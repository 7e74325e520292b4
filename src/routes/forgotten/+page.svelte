<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, InlineNotification, TextInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/frame/Door.svelte';

	let { data, form } = $props();
</script>

<svelte:head><title>A new password · Membrana</title></svelte:head>

<Door lead="From photographs of handwritten pages to one readable file, checked and handed in.">
	{#if form && 'asked' in form}
		<section>
			<h2>A letter is on its way</h2>
			<p>
				If there is somebody of that name with a mail address, it goes there, with a link to choose a new
				password.
			</p>
			<p>Nothing arrives? Your teacher can print you a slip.</p>
		</section>
	{:else if data.mails}
		<form method="post" use:enhance>
			<h2>A new password</h2>
			{#if form?.problem}<InlineNotification
					kind="error"
					lowContrast
					hideCloseButton
					title={form.problem}
				/>{/if}
			<TextInput name="called" labelText="Sign-in name or mail address" autocomplete="username" />
			<Button type="submit">Send me a letter</Button>
		</form>
	{:else}
		<section>
			<h2>A new password</h2>
			<p>This school sends no mail. Ask your teacher for a slip; with its code you choose a new password.</p>
		</section>
	{/if}
	<p><a href="/sign-in">Back to signing in</a></p>
</Door>

<style>
	section {
		display: grid;
		gap: 1rem;
	}
	p {
		line-height: 1.5;
	}
	a {
		color: var(--violet);
	}
</style>
