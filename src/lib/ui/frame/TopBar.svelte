<script lang="ts">
	import type { Snippet } from 'svelte';
	import Mark from './Mark.svelte';
	import Night from './Night.svelte';
	import { page } from '$app/state';

	let { children }: { children?: Snippet } = $props();
	const person = $derived(
		page.data.person as { given: string; family: string; isAdministrator: boolean } | null
	);
	const own = $derived(page.data.own as boolean);
</script>

<header>
	<a class="home" href="/" aria-label="Membrana, to the desk">
		<Mark size={28} pages={2} run={2.4} />
		<span>Membrana</span>
	</a>
	<div class="middle">{@render children?.()}</div>
	<Night />
	{#if own}
		<a class="plain" href="/own">Settings</a>
	{:else if person}
		{#if person.isAdministrator}<a class="plain" href="/school">School</a>{/if}
		<form method="post" action="/sign-out">
			<a class="who" class:alone={!children} href="/me"
				><span class="name">{person.given} {person.family}</span><span class="short">You</span></a
			>
			<button class:alone={!children}>Sign out</button>
		</form>
	{/if}
</header>

<style>
	/* What a page puts into the bar to be pressed. */
	.middle :global(.bar) {
		padding: 0.25rem 0.375rem;
		border: 0;
		background: none;
		color: #f7f5f0;
		font: inherit;
		font-size: 0.875rem;
		cursor: pointer;
		text-decoration: none;
	}
	.middle :global(.bar:disabled) {
		color: #8d81a3;
		cursor: default;
	}
	header {
		display: flex;
		align-items: center;
		gap: 1.25rem;
		min-height: 48px;
		overflow: hidden;
		padding: 0 1rem;
		background: var(--bar);
		color: #f7f5f0;
	}
	.home {
		display: flex;
		align-items: center;
		gap: 0.625rem;
		color: inherit;
		font-weight: 600;
		text-decoration: none;
	}
	.middle {
		flex: 1;
		display: flex;
		align-items: center;
		gap: 0.75rem;
		min-width: 0;
	}
	form {
		flex: none;
		display: flex;
		align-items: center;
		gap: 0.75rem;
		font-size: 0.875rem;
	}
	.who {
		color: #d8d0e6;
	}
	.plain,
	.who {
		font-size: 0.875rem;
		text-underline-offset: 0.25em;
	}
	.plain {
		flex: none;
		color: inherit;
	}
	button {
		border: 0;
		border-bottom: 1px solid #b79be0;
		padding: 0;
		background: none;
		color: inherit;
		font: inherit;
		cursor: pointer;
	}
	header :global(:focus-visible) {
		outline-color: #d9c8f5;
	}
	.short {
		display: none;
	}
	@media (max-width: 700px) {
		header {
			gap: 0.75rem;
		}
		.middle {
			gap: 0.25rem;
		}
		.who:not(.alone),
		.who .name,
		.home span {
			display: none;
		}
		.who .short {
			display: inline;
		}
	}
	/* Where time is short, the time that is left comes first; one signs out on the desk. */
	@media (max-width: 375px) {
		button:not(.alone) {
			display: none;
		}
	}
</style>
