<script module lang="ts">
	/** One shot of this sitting. */
	export interface Shot {
		/** Key of its upload. */
		readonly key: string;
		readonly picture: string;
	}
</script>

<script lang="ts">
	import type { UploadLine } from '../packet/uploads.svelte';

	interface Props {
		shots: readonly Shot[];
		/** The shot that is to be taken again. */
		again: string | null;
		lines: readonly UploadLine[];
		onagain: (key: string) => void;
	}
	let { shots, again, lines, onagain }: Props = $props();
	const states = $derived(new Map(lines.map((l) => [l.key, l])));

	function stateOf(key: string): string {
		const line = states.get(key);
		if (!line || line.state === 'safe') return 'safe';
		if (line.state === 'failed') return line.problem ?? 'not sent';
		return line.state === 'sending' ? 'sending' : 'only here';
	}
	let list: HTMLOListElement | undefined = $state();
	$effect(() => {
		if (shots.length > 0) list?.lastElementChild?.scrollIntoView({ block: 'nearest', inline: 'end' });
	});
</script>

<ol bind:this={list} aria-label="Shots of this sitting">
	{#each shots as shot, i (shot.key)}
		<li class:again={again === shot.key}>
			<img src={shot.picture} alt="Shot {i + 1}" />
			<span>{i + 1}, {stateOf(shot.key)}</span>
			<button aria-pressed={again === shot.key} onclick={() => onagain(shot.key)}>
				{again === shot.key ? 'Next shot replaces it' : 'Take again'}
			</button>
		</li>
	{/each}
</ol>

<style>
	ol {
		display: grid;
		grid-template-columns: repeat(3, 1fr);
		align-content: start;
		gap: 0.75rem;
		margin: 0;
		padding: 0;
		list-style: none;
		overflow: auto;
	}
	li {
		display: grid;
		justify-items: center;
		gap: 0.25rem;
		font-size: 0.75rem;
		color: #d8d0e6;
	}
	img {
		height: 6rem;
		max-width: 100%;
		object-fit: contain;
		background: #000;
	}
	.again img {
		outline: 3px solid #b79be0;
	}
	button {
		padding: 0.25rem 0;
		border: 0;
		border-bottom: 1px solid #b79be0;
		background: none;
		color: #f7f5f0;
		font: inherit;
		cursor: pointer;
	}
	@media (max-width: 800px) {
		ol {
			display: flex;
			min-height: 0;
		}
		li {
			flex: none;
			width: 4.75rem;
			text-align: center;
		}
		img {
			height: 4rem;
		}
	}
</style>
