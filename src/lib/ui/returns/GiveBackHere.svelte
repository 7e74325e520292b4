<script lang="ts">
	import { usePacket } from '../packet/context';
	import GiveBack from './GiveBack.svelte';

	// For a teacher who looks at a student's packet.
	const store = usePacket();
	let open = $state(false);
	const packets = $derived([
		{
			packet: store.view.id,
			version: store.view.version,
			name: `${store.view.owner.given} ${store.view.owner.family}`,
			pages: store.packet.strip,
			reasons: store.findings
				.filter((f) => f.level === 'look' || f.level === 'blocks')
				.map(({ message, rule, pages, fix }) => {
					const page = fix?.page ?? store.packet.strip[(pages[0] ?? 0) - 1];
					const position = page ? store.packet.strip.indexOf(page) + 1 : 0;
					return { text: message, rule, ...(page ? { page } : {}), position: position || null };
				})
		}
	]);
</script>

<div>
	<button class="quiet" onclick={() => (open = true)}>Give back …</button>
</div>
<GiveBack
	bind:open
	{packets}
	page={store.current}
	ondone={(said) => {
		store.done = said;
		store.refresh();
	}}
/>

<style>
	div {
		padding: 1rem 1rem 0;
	}
</style>
