<script lang="ts">
	import { browser } from '$app/environment';
	import { enhance } from '$app/forms';
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

<main>
	<div class="intro">
		<svg width="64" height="64" viewBox="0 0 32 32" aria-hidden="true">
			<path d="M5 21V9h9v12zM18 23V11h9v12z" fill="none" stroke="#f7f5f0" stroke-width="1.6" />
			<path
				d="M3 17c5-4 8 4 13 0s8-4 13 0"
				fill="none"
				stroke="#b79be0"
				stroke-width="2"
				stroke-linecap="round"
			/>
		</svg>
		<h1>Membrana</h1>
		<p>From photographs of handwritten pages to one readable file, checked and handed in.</p>
	</div>
	<div class="door">
		<form
			method="post"
			use:enhance={() =>
				({ update }) =>
					update({ reset: false })}
		>
			<h2>Sign in</h2>
			{#if form?.problem}
				<InlineNotification kind="error" lowContrast hideCloseButton title={form.problem} />
			{/if}
			<TextInput name="login" labelText="Sign-in name" autocomplete="username" bind:value={login} />
			<PasswordInput
				name="password"
				labelText="Password"
				autocomplete="current-password"
				bind:value={password}
			/>
			<Button type="submit">Sign in</Button>
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
	</div>
</main>

<style>
	main {
		display: grid;
		grid-template-columns: 1fr 1fr;
		min-height: 100vh;
	}
	.intro {
		display: grid;
		align-content: center;
		gap: 1rem;
		padding: 4rem;
		background: var(--ink);
		color: #f7f5f0;
	}
	h1 {
		font-size: 2.75rem;
		font-weight: 400;
	}
	.intro p {
		max-width: 26rem;
		font-size: 1.25rem;
		line-height: 1.5;
		color: #d8d0e6;
	}
	.door {
		display: grid;
		align-content: center;
		gap: 2.5rem;
		max-width: 24rem;
		padding: 3rem;
	}
	h2 {
		font-size: 1.25rem;
	}
	form {
		display: grid;
		gap: 1rem;
		justify-items: stretch;
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
	@media (max-width: 700px) {
		main {
			grid-template: auto 1fr / 1fr;
		}
		.intro {
			padding: 2rem 1.5rem;
		}
		.door {
			padding: 2rem 1.5rem;
			align-content: start;
		}
	}
</style>
