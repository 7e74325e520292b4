<script lang="ts">
	import { onMount } from 'svelte';
	import { Asleep, Light } from 'carbon-icons-svelte';

	// What is chosen here holds in this browser; until then it is as the device is set.
	const root = () => document.documentElement;
	let isNight = $state(false);
	onMount(() => {
		isNight = root().getAttribute('theme') === 'g100';
	});

	function turn(): void {
		isNight = !isNight;
		root().setAttribute('theme', isNight ? 'g100' : 'g10');
		try {
			localStorage.setItem('membrana-screen', isNight ? 'night' : 'day');
		} catch {
			// Without a place to keep it, it holds until the page is left.
		}
	}
</script>

<button
	onclick={turn}
	aria-pressed={isNight}
	aria-label="Dark screen"
	title={isNight ? 'Make the screen light' : 'Make the screen dark'}
>
	{#if isNight}<Light size={20} />{:else}<Asleep size={20} />{/if}
</button>

<style>
	button {
		flex: none;
		display: grid;
		place-items: center;
		width: 2.75rem;
		height: 2.75rem;
		margin: 0 -0.5rem;
		padding: 0;
		border: 0;
		background: none;
		color: inherit;
		cursor: pointer;
	}
	/* There is no room on a phone, which has a setting of its own. */
	@media (max-width: 700px) {
		button {
			display: none;
		}
	}
</style>
