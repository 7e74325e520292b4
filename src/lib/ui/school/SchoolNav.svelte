<script lang="ts">
	import { page } from '$app/state';

	const PLACES = [
		{ href: '/school', words: 'Courses' },
		{ href: '/school/people', words: 'People' },
		{ href: '/school/settings', words: 'Settings' },
		{ href: '/school/deeds', words: 'What was done' }
	];
</script>

<nav aria-label="School">
	{#each PLACES as { href, words } (href)}
		<a {href} aria-current={page.url.pathname === href ? 'page' : undefined}>{words}</a>
	{/each}
</nav>

<style>
	nav {
		display: flex;
		flex-wrap: wrap;
		gap: 0 2rem;
		border-bottom: 1px solid var(--rule);
	}
	a {
		padding: 0.625rem 0;
		color: var(--ink);
		text-decoration: none;
	}
	a[aria-current] {
		border-bottom: 3px solid var(--violet);
		font-weight: 600;
	}
</style>
