<script lang="ts">
	import { describeRules } from '$lib/core/check/describeRules';
	import { expectedFileName } from '$lib/core/rules/expectedFileName';
	import { usePacket } from '../packet/context';
	import LevelMark from '../theme/LevelMark.svelte';

	// The whole way in one look, while nothing has been brought in.
	const store = usePacket();
	const asked = $derived(describeRules(store.sheet, store.view.owner));
	const name = $derived(
		`${store.packet.fileName ?? expectedFileName(store.sheet, store.view.owner)}.${store.sheet.file?.type ?? 'pdf'}`
	);
	const blocking = $derived(asked.filter((a) => a.level === 'blocks').length);
</script>

<section class="way" aria-label="The whole way">
	<div>
		<h3>What is asked</h3>
		<ul>
			{#each asked as { rule, text, level } (rule)}
				<li class:must={level === 'blocks'}>{text}</li>
			{/each}
		</ul>
		{#if blocking > 0 && blocking < asked.length}<p class="note">What stands in bold has to be met.</p>{/if}
	</div>
	<div>
		<h3>What happens with your pages</h3>
		<ul>
			<li>Each is cut out of its photograph, made square, turned upright, and its paper made even.</li>
			<li>They are put in order by what you wrote on them, and every answer is found.</li>
			<li>
				<span class="marks"
					><LevelMark level="blocks" size={14} /><LevelMark level="look" size={14} /><LevelMark
						level="clear"
						size={14}
					/></span
				>
				What is asked is checked all the time, and each fault leads to the place where it is mended.
			</li>
			<li>You change whatever you see otherwise; nothing is lost, and everything can be undone.</li>
		</ul>
	</div>
	<div>
		<h3>What comes out</h3>
		<ul>
			<li>One file: <span class="file">{name}</span></li>
			<li>Handed in, or saved; and a receipt that says what arrived, where and when.</li>
		</ul>
	</div>
</section>

<style>
	.way {
		display: grid;
		grid-template-columns: repeat(3, 1fr);
		gap: 1.5rem 2rem;
	}
	h3 {
		margin-bottom: 0.5rem;
		padding-bottom: 0.5rem;
		border-bottom: 1px solid var(--rule);
		font-size: 1rem;
	}
	ul {
		display: grid;
		gap: 0.5rem;
		margin: 0;
		padding: 0;
		list-style: none;
	}
	li {
		font-size: 0.9375rem;
		line-height: 1.4;
	}
	.must {
		font-weight: 600;
	}
	.note {
		margin-top: 0.75rem;
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.marks {
		display: inline-flex;
		gap: 0.25rem;
		vertical-align: -2px;
	}
	.file {
		font-family: 'IBM Plex Mono', monospace;
		font-size: 0.875rem;
		overflow-wrap: anywhere;
	}
	@media (max-width: 900px) {
		.way {
			grid-template-columns: 1fr;
		}
	}
</style>
