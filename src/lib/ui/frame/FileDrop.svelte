<script lang="ts">
	import { chosenFiles } from './chosenFiles';
	import type { Snippet } from 'svelte';

	interface Props {
		/** What the place is called, and what is brought there. */
		name: string;
		what: string;
		accept: string;
		onfile: (file: File) => void;
		/** Given how to open the choice of a file. */
		children: Snippet<[choose: () => void]>;
	}
	let { name, what, accept, onfile, children }: Props = $props();
	let over = $state(false);
	let input: HTMLInputElement | undefined = $state();

	function take(file: File | undefined): void {
		if (file) onfile(file);
	}
</script>

<!-- A place for one file: dropped, or chosen. -->
<div
	class="drop"
	class:over
	role="group"
	aria-label={name}
	ondragover={(e) => {
		e.preventDefault();
		over = true;
	}}
	ondragleave={() => (over = false)}
	ondrop={(e) => {
		e.preventDefault();
		over = false;
		take(e.dataTransfer?.files[0]);
	}}
>
	{@render children(() => input?.click())}
	<input
		bind:this={input}
		class="out-of-sight"
		type="file"
		{accept}
		aria-label={what}
		tabindex="-1"
		{@attach chosenFiles(([file]) => take(file))}
	/>
</div>

<style>
	.drop {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 1rem;
	}
	.over {
		outline: 2px dashed var(--violet);
		outline-offset: 0.375rem;
	}
</style>
