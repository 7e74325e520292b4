<script lang="ts">
	import { toTheMinute } from '$lib/ui/frame/toTheMinute';
	let { data } = $props();
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
					<tr><td class="soft">{toTheMinute(deed.at)}</td><td>{deed.who}</td><td>{deed.what}</td></tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}
