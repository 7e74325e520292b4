<script lang="ts">
	import 'carbon-components-svelte/css/all.css';
	import '@fontsource/ibm-plex-sans/400.css';
	import '@fontsource/ibm-plex-sans/600.css';
	import '@fontsource/ibm-plex-mono/400.css';
	import '$lib/ui/theme/theme.css';

	let { children } = $props();
</script>

{@render children()}
