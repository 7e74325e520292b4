<script lang="ts">
	import type { Snippet } from 'svelte';

	// The page with all the room there is, and beside it what is set about it; below it on a phone.
	let { stage, settings }: { stage: Snippet; settings: Snippet } = $props();
</script>

<div class="task">
	<div class="stage">{@render stage()}</div>
	<div class="settings">{@render settings()}</div>
</div>

<style>
	.task {
		display: grid;
		grid-template: minmax(0, 1fr) / minmax(0, 1fr) 19rem;
		gap: 1rem;
		height: 100%;
		padding: 0 1rem 0 0;
		box-sizing: border-box;
	}
	.stage {
		position: relative;
		min-height: 0;
	}
	.settings {
		position: relative;
		display: flex;
		flex-direction: column;
		gap: 0.875rem;
		padding: 0.75rem 0;
		overflow: auto;
	}
	@media (max-width: 700px) {
		.task {
			grid-template: 24rem auto / minmax(0, 1fr);
			padding: 0 1rem;
		}
	}
</style>
