<script lang="ts">
	import { plural } from '$lib/core/rules/finding';
	import { isNamed, isSure, SURE, type Heap } from '$lib/core/stack/heaps';
	import LevelMark from '../theme/LevelMark.svelte';

	interface Props {
		heap: Heap;
		/** Cuts have been proposed, or nothing is left to wait for. */
		isCuttable: boolean;
		/** From 1. */
		number: number;
		/** Whose it is, in words; null where nobody is. */
		name: string | null;
		/** The person has another packet in this stack. */
		isTwice: boolean;
		current: string | null;
		picture: (page: string, kind: 'thumb' | 'view') => string | null;
		problem: (page: string) => string | null;
		onpage: (page: string) => void;
		onlook: (page: string) => void;
		onperson: () => void;
		onmake: () => void;
		ondropped: (page: string) => void;
	}
	let props: Props = $props();
	const { heap, name, current } = $derived(props);
	const made = $derived(heap.cut?.packet ?? null);
	const sure = $derived(isSure(heap) && !props.isTwice);
	let over = $state(false);

	/** What is known of whose it is and of where it begins, in one line. */
	const why = $derived.by(() => {
		const { cut } = heap;
		if (!cut) return 'Nothing says yet where packets begin.';
		if (props.isTwice) return 'This person has another packet in this stack.';
		const parts = [
			cut.person === null
				? 'No name could be told.'
				: cut.personBecause.length > 0
					? `${cut.personBecause.join(', ')}.`
					: 'You said so.',
			cut.person !== null && cut.personSure < SURE ? 'Not sure that it is theirs.' : '',
			cut.sure < SURE ? 'Not sure that it begins and ends here.' : '',
			cut.because.length > 0 ? `Begins here: ${cut.because.join(', ')}.` : ''
		];
		const said = parts.filter(Boolean).join(' ');
		return said[0]!.toUpperCase() + said.slice(1);
	});
</script>

<section
	class="heap"
	class:sure
	class:made={made !== null}
	class:over
	aria-label="Packet {props.number}{name ? `, ${name}` : ''}"
	ondragover={(e) => {
		if (!e.dataTransfer?.types.includes('text/x-page') || made) return;
		e.preventDefault();
		over = true;
	}}
	ondragleave={() => (over = false)}
	ondrop={(e) => {
		over = false;
		const page = e.dataTransfer?.getData('text/x-page');
		if (!page) return;
		e.preventDefault();
		e.stopPropagation();
		props.ondropped(page);
	}}
>
	<header>
		<span class="mark">
			<LevelMark level={made || sure ? 'clear' : 'look'} />
		</span>
		<div class="who">
			<h2>
				{#if made}{name}{:else if !heap.cut && !props.isCuttable}Not cut yet{:else}
					<button class="name" onclick={props.onperson} aria-haspopup="dialog"
						>{name === null ? 'Whose is it?' : isNamed(heap.cut) ? name : `Perhaps ${name}`}</button
					>{/if}
				<small>{plural(heap.pages.length, 'page')}</small>
			</h2>
			<p>{made ? 'Made into a packet.' : why}</p>
		</div>
		{#if made}
			<a href="/packets/{made}/order">Open the packet</a>
		{:else if heap.cut || props.isCuttable}
			<button class="quiet" disabled={!heap.cut?.person} onclick={props.onmake}>Make this packet</button>
		{/if}
	</header>
	<ol>
		{#each heap.pages as page, i (page)}
			{@const thumb = props.picture(page, 'thumb')}
			<li>
				<button
					class="page"
					class:current={page === current}
					data-page={page}
					tabindex={page === current ? 0 : -1}
					aria-current={page === current ? 'true' : undefined}
					aria-label="Page {i + 1} of packet {props.number}"
					draggable={made === null}
					onclick={() => props.onpage(page)}
					ondblclick={() => props.onlook(page)}
					ondragstart={(e) => e.dataTransfer?.setData('text/x-page', page)}
				>
					{#if thumb}
						<img src={thumb} alt="" loading="lazy" draggable="false" />
					{:else}
						<span class="waiting">{props.problem(page) ?? 'Being prepared'}</span>
					{/if}
					<span class="number">{i + 1}</span>
				</button>
			</li>
		{/each}
	</ol>
</section>

<style>
	.heap {
		/* Rows out of sight cost nothing. */
		content-visibility: auto;
		contain-intrinsic-size: auto 16.5rem;
		padding: 0.875rem 1rem;
		border: 1px solid var(--rule);
		border-left: 4px solid var(--ochre-fill);
		background: var(--white);
	}
	.heap.sure,
	.heap.made {
		border-left-color: var(--lichen);
	}
	.heap.made {
		background: transparent;
	}
	.heap.over {
		outline: 2px dashed var(--violet);
	}
	header {
		display: flex;
		align-items: flex-start;
		gap: 0.625rem;
		margin-bottom: 0.625rem;
	}
	.mark {
		padding-top: 0.25rem;
	}
	.who {
		flex: 1;
		min-width: 0;
	}
	h2 {
		display: flex;
		flex-wrap: wrap;
		align-items: baseline;
		gap: 0.75rem;
		font-size: 1.125rem;
		font-weight: 600;
		line-height: 1.4;
	}
	small {
		color: var(--ink-soft);
		font-size: 0.875rem;
		font-weight: 400;
	}
	p {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.name {
		padding: 0;
		border: 0;
		border-bottom: 1px dashed var(--violet);
		background: none;
		color: inherit;
		font: inherit;
		text-align: left;
		cursor: pointer;
	}
	ol {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem;
		margin: 0;
		padding: 0;
		list-style: none;
	}
	.page {
		position: relative;
		display: block;
		/* Before it is cut, the whole pile is one row. */
		content-visibility: auto;
		width: 7.5rem;
		height: 10.6rem;
		padding: 0;
		border: 1px solid var(--rule);
		background: var(--white);
		cursor: pointer;
	}
	.page.current {
		outline: 3px solid var(--violet);
		outline-offset: 1px;
	}
	img {
		width: 100%;
		height: 100%;
		object-fit: contain;
	}
	.waiting {
		display: grid;
		place-content: center;
		height: 100%;
		padding: 0.5rem;
		color: var(--ink-soft);
		font-size: 0.75rem;
	}
	.number {
		position: absolute;
		right: 0;
		bottom: 0;
		min-width: 1.25rem;
		padding: 0 0.25rem;
		background: var(--paper);
		color: var(--ink-soft);
		font-size: 0.75rem;
		line-height: 1.25rem;
		text-align: center;
	}
	.made img {
		opacity: 0.6;
	}
	@media (max-width: 700px) {
		header {
			flex-wrap: wrap;
		}
		.who {
			flex-basis: calc(100% - 3rem);
		}
		.page {
			width: 6rem;
			height: 8.5rem;
		}
	}
</style>
