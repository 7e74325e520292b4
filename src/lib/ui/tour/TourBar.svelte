<script lang="ts">
	import { untrack } from 'svelte';
	import { goto } from '$app/navigation';
	import { page as route } from '$app/state';
	import type { Task } from '$lib/core/rules/finding';
	import { STOPS, tour } from './tour.svelte';

	const stop = $derived(tour.stop);
	const at = $derived(tour.at ?? 0);
	$effect(() => {
		const task = route.params.task as Task;
		untrack(() => tour.follow(task));
	});

	function go(by: 1 | -1): void {
		const task = tour.go(by);
		if (task) void goto(`/packets/${route.params.id}/${task}`);
	}
</script>

{#if stop}
	<section class="tour" aria-label="Short tour" aria-live="polite">
		<p><b>{at + 1} of {STOPS.length}</b> {stop.see} <em>{stop.attempt}</em></p>
		<div>
			{#if at > 0}<button class="quiet" onclick={() => go(-1)}>Back</button>{/if}
			<button class="quiet" onclick={() => go(1)}
				>{at + 1 < STOPS.length ? 'Go on' : 'End of the tour'}</button
			>
			{#if at + 1 < STOPS.length}<button class="textual" onclick={() => tour.leave()}>Leave the tour</button
				>{/if}
		</div>
	</section>
{/if}

<style>
	.tour {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem 1.5rem;
		align-items: center;
		justify-content: space-between;
		padding: 0.625rem 1rem;
		border-bottom: 1px solid var(--rule);
		background: var(--selected);
		color: var(--ink);
	}
	p {
		flex: 1 1 24rem;
		font-size: 0.9375rem;
		line-height: 1.4;
	}
	b {
		margin-right: 0.375rem;
		font-weight: 600;
	}
	em {
		font-style: normal;
		font-weight: 600;
	}
	div {
		display: flex;
		flex-wrap: wrap;
		gap: 0.75rem;
		align-items: center;
	}
</style>
