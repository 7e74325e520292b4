<script lang="ts">
	let { data } = $props();
	const at = (iso: string | Date) =>
		new Date(iso).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
</script>

<svelte:head><title>What was done · {data.school}</title></svelte:head>

{#if data.deeds.length === 0}
	<p>Nothing has been done yet that concerns people or courses.</p>
{:else}
	<div class="wide">
		<table>
			<thead><tr><th>When</th><th>Who</th><th>What</th></tr></thead>
			<tbody>
				{#each data.deeds as deed, i (i)}
					<tr><td class="soft">{at(deed.at)}</td><td>{deed.who}</td><td>{deed.what}</td></tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}
