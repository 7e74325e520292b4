<script lang="ts">
	import type { UploadLine } from '../packet/uploads.svelte';

	/** What is only on this device so far, beside what is safe on the server. */
	let { lines, lineUp }: { lines: readonly UploadLine[]; lineUp: boolean } = $props();
	const SHOWN = 4;
	const shown = $derived(lines.slice(0, SHOWN));

	function stateOf(line: UploadLine): string {
		if (line.state === 'sending') return `${Math.floor((100 * line.sent) / Math.max(line.bytes, 1))} % sent`;
		if (line.state === 'elsewhere') return 'another tab';
		return 'only here';
	}
</script>

<section aria-label="Not on the server yet">
	<h2>{lineUp ? 'On the way' : 'Only here'} <span>({lines.length})</span></h2>
	<ul>
		{#each shown as line (line.key)}
			<li title={line.problem ?? line.name}>
				{#if line.picture}<img src={line.picture} alt={line.name} />{:else}<span class="file"
						>{line.name}</span
					>{/if}
				<progress value={line.sent} max={Math.max(line.bytes, 1)} aria-label={line.name}></progress>
				<span>{stateOf(line)}</span>
			</li>
		{/each}
	</ul>
	{#if lines.length > SHOWN}<p>and {lines.length - SHOWN} more</p>{/if}
	{#if !lineUp}<p>They are kept on this device and go when the line is back.</p>{/if}
</section>

<style>
	section {
		flex: none;
		width: 15rem;
		padding: 0.5rem 0.75rem;
		border: 1px dashed var(--ochre-fill);
		box-sizing: border-box;
		max-height: 232px;
		overflow: auto;
	}
	h2 {
		font-size: 0.875rem;
	}
	h2 span,
	p,
	li {
		color: var(--ink-soft);
		font-weight: 400;
		font-size: 0.75rem;
	}
	ul {
		display: grid;
		grid-template-columns: repeat(4, 1fr);
		gap: 0.375rem;
		margin: 0.375rem 0;
		padding: 0;
		list-style: none;
	}
	li {
		display: grid;
		justify-items: center;
		align-content: end;
		gap: 0.25rem;
		text-align: center;
	}
	img,
	.file {
		width: 100%;
		height: 72px;
		object-fit: contain;
		opacity: 0.75;
	}
	.file {
		overflow: hidden;
		overflow-wrap: anywhere;
		font-size: 0.6875rem;
	}
	progress {
		width: 100%;
		height: 4px;
		accent-color: var(--violet);
	}
</style>
