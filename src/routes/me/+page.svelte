<script lang="ts">
	import { toTheMinute } from '$lib/ui/frame/toTheMinute';
	import Told from '$lib/ui/school/Told.svelte';
	import { enhance } from '$app/forms';
	import { Button, PasswordInput } from 'carbon-components-svelte';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import '$lib/ui/school/school.css';

	let { data, form } = $props();

	/** "Firefox on Linux", of what a browser calls itself. */
	function browserOf(text: string): string {
		const browser = /Edg|OPR|Firefox|Chrome|Safari/.exec(text)?.[0] ?? 'A browser';
		const system = /Android|iPhone|iPad|Windows|Mac OS X|Linux/.exec(text)?.[0] ?? '';
		const name = { Edg: 'Edge', OPR: 'Opera' }[browser] ?? browser;
		return system ? `${name} on ${system}` : name;
	}
</script>

<svelte:head><title>You · Membrana</title></svelte:head>
<TopBar>You</TopBar>
<main class="school-page">
	<h1>{data.person?.given} {data.person?.family}</h1>
	<p class="soft">Sign-in name {data.login}{data.email ? `, mail to ${data.email}` : ''}</p>
	<Told {form} />
	<form class="card" method="post" action="?/password" use:enhance>
		<h2>Another password</h2>
		<div class="fields">
			<PasswordInput
				tooltipAlignment="end"
				name="now"
				labelText="The one you have now"
				autocomplete="current-password"
			/>
			<PasswordInput
				tooltipAlignment="end"
				name="next"
				labelText="The new one, at least 10 characters"
				autocomplete="new-password"
			/>
		</div>
		<div><Button type="submit" size="field">Change the password</Button></div>
	</form>
	<section class="card" aria-labelledby="where-title">
		<h2 id="where-title">Where you are signed in</h2>
		<ul>
			{#each data.sessions as session (session.id)}
				<li class="line">
					<span>{browserOf(session.browser)}, since {toTheMinute(session.begunAt)}</span>
					{#if session.isThis}
						<span class="soft">this one</span>
					{:else}
						<form method="post" action="?/end" use:enhance>
							<input type="hidden" name="session" value={session.id} />
							<button class="textual">Sign out there</button>
						</form>
					{/if}
				</li>
			{/each}
		</ul>
		{#if data.sessions.length > 1}
			<form method="post" action="?/everywhere" use:enhance>
				<button class="quiet">Sign out everywhere but here</button>
			</form>
		{/if}
	</section>
</main>

<style>
	ul {
		display: grid;
		gap: 0.5rem;
		margin: 0;
		padding: 0;
		list-style: none;
	}
</style>
