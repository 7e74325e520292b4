<script lang="ts">
	import 'carbon-components-svelte/css/all.css';
	import '@fontsource/ibm-plex-sans/400.css';
	import '@fontsource/ibm-plex-sans/600.css';
	import '@fontsource/ibm-plex-mono/400.css';
	import '$lib/ui/theme/theme.css';
	import { onMount } from 'svelte';

	let { children } = $props();

	// What was pressed before (static/early.js) is done now.
	onMount(() => dispatchEvent(new Event('membrana:alive')));
</script>

{@render children()}
