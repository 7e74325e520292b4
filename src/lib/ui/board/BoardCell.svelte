<script lang="ts">
	import { CELL_WORDS } from '$lib/core/board/boardTable';
	import type { BoardStudent } from '$lib/core/board/board';
	import { cellOf } from '$lib/core/board/board';
	import { namePages } from '$lib/core/rules/finding';
	import LevelMark from '../theme/LevelMark.svelte';

	let { student, question }: { student: BoardStudent; question: string } = $props();
	const cell = $derived(cellOf(student, question));
	/** Where the worst that is said of these pages is mended; the map where nothing is wrong. */
	const address = $derived.by(() => {
		const wrong = student.summary?.open.filter((f) => f.pages.some((p) => cell.pages.includes(p))) ?? [];
		const finding = wrong.find((f) => f.level === 'blocks') ?? wrong[0];
		const page = finding?.page ?? cell.page;
		const query = page ? `?page=${encodeURIComponent(page)}` : '';
		return `/packets/${student.packetId}/${finding?.task ?? 'map'}${query}`;
	});
	const words = $derived(
		[
			`Question ${question}: ${cell.state === 'open' && cell.pages.length > 0 ? 'found there, not confirmed yet' : CELL_WORDS[cell.state]}`,
			...(cell.pages.length > 0 ? [namePages(cell.pages)] : []),
			...(cell.verdict ? [`reads ${cell.verdict}`] : [])
		].join(', ')
	);
</script>

{#if student.packetId && student.pages > 0}
	<a href={address} title={words} aria-label={words} data-state={cell.state}>
		<LevelMark level={cell.state} size={15} />
		<span class="bar {cell.verdict ?? 'none'}"></span>
	</a>
{:else}
	<span class="nothing" title={words}>·</span>
{/if}

<style>
	a,
	.nothing {
		display: grid;
		justify-items: center;
		gap: 2px;
		padding: 0.375rem 0.25rem 0.25rem;
		color: var(--ink-soft);
	}
	a:hover {
		background: var(--selected);
	}
	/* Legibility in small: as long as it reads well. */
	.bar {
		height: 3px;
		width: 22px;
	}
	.clear {
		background: var(--lichen-fill);
	}
	.doubtful {
		background: linear-gradient(90deg, var(--ochre-fill) 60%, var(--rule) 60%);
	}
	.unreadable {
		background: linear-gradient(90deg, var(--brick) 25%, var(--rule) 25%);
	}
</style>
