<script lang="ts">
	import type { Change } from '$lib/core/packet/change';
	import type { TrayReason } from '$lib/core/packet/packet';
	import { asPacket, cutBefore, joinToBefore, moveTo, setAside } from '$lib/core/stack/edits';
	import { usePacket } from '$lib/ui/packet/context';

	interface Props {
		/** The page that is cut, joined and set aside; null while it is in no packet, or in one that is made. */
		chosen: string | null;
		/** A page of the packet that takes in what was set aside; null where there is none, or it is made already. */
		taking: string | null;
		/** Whether there is a packet that is not made yet. */
		isAnyOpen: boolean;
		/** Who has no packet, and of how many. */
		missing: readonly string[];
		people: number;
		onlook: (page: string) => void;
		onperson: () => void;
		onedit: (change: Change | null) => void;
	}
	let { chosen, taking, isAnyOpen, missing, people, onlook, onperson, onedit }: Props = $props();
	const store = usePacket();

	const ASIDE: Readonly<Record<TrayReason, string>> = {
		blank: 'Blank',
		cover: 'Divider',
		duplicate: 'There twice',
		extra: 'Nobody’s'
	};
	const putIn = (page: string) =>
		onedit(taking ? moveTo(store.packet, page, taking) : asPacket(store.packet, page));
</script>

<aside>
	{#if chosen}
		{@const cut = cutBefore(store.packet, chosen)}
		{@const joined = joinToBefore(store.packet, chosen)}
		<section class="chosen" aria-label="The chosen page">
			<h3>The chosen page</h3>
			<div class="tools">
				<button class="quiet" onclick={() => onlook(chosen)}>Look at it <kbd>Space</kbd></button>
				<button class="quiet" disabled={!cut} onclick={() => onedit(cut)}>Cut before it <kbd>x</kbd></button>
				<button class="quiet" disabled={!joined} onclick={() => onedit(joined)}
					>Join to the packet before <kbd>j</kbd></button
				>
				<button class="quiet" onclick={onperson}>Whose packet <kbd>w</kbd></button>
				<button class="quiet" onclick={() => onedit(setAside(store.packet, chosen))}
					>Set it aside <kbd>Delete</kbd></button
				>
			</div>
		</section>
	{/if}
	<section aria-label="Without a packet">
		<h3>Without a packet <span>{missing.length} of {people}</span></h3>
		{#if missing.length === 0}
			<p class="soft">Everybody has one.</p>
		{:else}
			<ul>
				{#each missing as name, i (i)}<li>{name}</li>{/each}
			</ul>
		{/if}
	</section>
	{#if store.packet.tray.length > 0}
		<section aria-label="Set aside">
			<h3>Set aside <span>{store.packet.tray.length}</span></h3>
			<ul class="tray">
				{#each store.packet.tray as { page, reason } (page)}
					{@const thumb = store.image(page, 'thumb')}
					<li>
						<button
							class="aside"
							draggable="true"
							aria-label="Page set aside, {ASIDE[reason].toLowerCase()}"
							ondragstart={(e) => e.dataTransfer?.setData('text/x-page', page)}
							onclick={() => onlook(page)}
						>
							{#if thumb}<img src={thumb} alt="" loading="lazy" draggable="false" />{/if}
						</button>
						<span class="reason">{ASIDE[reason]}</span>
						<button
							class="textual"
							aria-label="{taking ? 'Put in' : 'Own packet'}, {ASIDE[reason].toLowerCase()}"
							onclick={() => putIn(page)}>{taking ? 'Put in' : 'Own packet'}</button
						>
					</li>
				{/each}
			</ul>
			{#if taking}
				<p class="soft">Put in: into the packet of the chosen page. Or drag it onto a packet.</p>
			{:else if isAnyOpen}
				<p class="soft">Choose a page of a packet that is not made yet to put them into it.</p>
			{/if}
		</section>
	{/if}
</aside>

<style>
	aside {
		position: sticky;
		top: 1rem;
		display: grid;
		gap: 1.25rem;
		max-height: calc(100vh - 2rem);
		overflow: auto;
	}
	h3 {
		margin-bottom: 0.375rem;
		font-size: 1rem;
		font-weight: 600;
	}
	h3 span {
		color: var(--ink-soft);
		font-weight: 400;
	}
	.tools {
		display: grid;
		gap: 0.25rem;
	}
	.tools button {
		display: flex;
		justify-content: space-between;
		gap: 0.5rem;
		width: 100%;
		text-align: left;
	}
	kbd {
		color: var(--ink-soft);
		font-family: inherit;
		font-size: 0.75rem;
	}
	ul {
		margin: 0;
		padding: 0;
		line-height: 1.5;
		list-style: none;
	}
	.soft {
		color: var(--ink-soft);
	}
	.soft,
	.tray {
		font-size: 0.875rem;
	}
	.tray {
		display: grid;
		grid-template-columns: repeat(3, 1fr);
		gap: 0.5rem;
		margin-bottom: 0.5rem;
	}
	.aside {
		display: block;
		width: 100%;
		height: 6.5rem;
		padding: 0;
		border: 1px solid var(--rule);
		background: var(--white);
		cursor: pointer;
	}
	.tray li {
		display: grid;
		justify-items: start;
	}
	.tray .textual {
		text-align: left;
	}
	.reason {
		color: var(--ink-soft);
	}
	.aside img {
		width: 100%;
		height: 100%;
		object-fit: contain;
	}
	@media (max-width: 60rem) {
		aside {
			display: contents;
		}
		/* What is done to a page stays at hand while packets are looked through. */
		.chosen {
			position: sticky;
			z-index: 1;
			bottom: 0;
			margin: 0 -1.5rem;
			padding: 0.5rem 1rem;
			border-top: 1px solid var(--rule);
			background: var(--paper);
		}
		.chosen h3,
		.chosen kbd {
			display: none;
		}
		.chosen .tools {
			display: flex;
			flex-wrap: wrap;
		}
		.chosen .tools button {
			flex: 1 1 auto;
			justify-content: center;
			width: auto;
		}
	}
	@media (max-width: 700px) {
		.chosen {
			margin: 0 -1rem;
		}
	}
</style>
