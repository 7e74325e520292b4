<script lang="ts">
	import { browser } from '$app/environment';
	import { enhance } from '$app/forms';
	import Door from '$lib/ui/frame/Door.svelte';
	import { Button, InlineNotification, PasswordInput, TextInput } from 'carbon-components-svelte';

	let { data, form } = $props();
	/** What was typed before the page came to life: taking it over would clear the field. */
	function typed(name: string): string {
		if (!browser) return '';
		return (
			document.querySelector<HTMLInputElement>(`form input:not([type=hidden])[name=${name}]`)?.value ?? ''
		);
	}
	let login = $state(typed('login'));
	let password = $state(typed('password'));
	$effect(() => {
		if (form?.login) login = form.login;
	});
</script>

<svelte:head><title>Sign in · Membrana</title></svelte:head>

<Door lead="From photographs of handwritten pages to one readable file, checked and handed in.">
	<form
		method="post"
		use:enhance={() =>
			({ update }) =>
				update({ reset: false })}
	>
		<h2>Sign in</h2>
		{#if data.provider}<a class="provider" href={data.provider}
				>Sign in through {data.school || 'the school'}</a
			>{/if}
		{#if form?.problem}
			<InlineNotification kind="error" lowContrast hideCloseButton title={form.problem} />
		{/if}
		<TextInput name="login" labelText="Sign-in name" autocomplete="username" bind:value={login} />
		<PasswordInput
			tooltipAlignment="end"
			name="password"
			labelText="Password"
			autocomplete="current-password"
			bind:value={password}
		/>
		<Button type="submit">Sign in</Button>
		<p class="ways"><a href="/come-in">I have a slip</a> <a href="/forgotten">I forgot my password</a></p>
	</form>
	{#if data.demo.length > 0}
		<section aria-labelledby="demo-title">
			<h2 id="demo-title">This is the demo</h2>
			<p>Everybody and everything in it is made up. Come in as</p>
			{#each data.demo as account (account.login)}
				<form method="post" use:enhance>
					<input type="hidden" name="login" value={account.login} />
					<input type="hidden" name="password" value={account.password} />
					<button class="quiet">{account.who}</button>
				</form>
			{/each}
		</section>
	{/if}
</Door>

<style>
	.provider {
		padding: 0.75rem 1rem;
		border: 1px solid var(--violet);
		color: var(--violet);
		text-decoration: none;
	}
	.provider:hover {
		background: var(--fill);
		color: var(--white);
	}
	.ways {
		display: flex;
		gap: 1.5rem;
		font-size: 0.875rem;
	}
	.ways a {
		color: var(--violet);
	}
	section {
		display: grid;
		gap: 0.5rem;
		padding-top: 1.5rem;
		border-top: 1px solid var(--rule);
	}
	section p {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
</style>
