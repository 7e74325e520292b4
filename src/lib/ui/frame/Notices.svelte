<script lang="ts">
	import { InlineNotification } from 'carbon-components-svelte';

	/** What went wrong, and what was done, each until it is closed. */
	let { store }: { store: { notice: string | null; done?: string | null } } = $props();
</script>

{#if store.notice}
	<InlineNotification
		kind="warning"
		lowContrast
		title={store.notice}
		on:close={() => (store.notice = null)}
	/>
{/if}
{#if store.done}
	<InlineNotification kind="success" lowContrast title={store.done} on:close={() => (store.done = null)} />
{/if}
