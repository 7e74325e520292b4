<script lang="ts">
	import { Slider, Toggle } from 'carbon-components-svelte';
	import { heldBy, type Tone } from '$lib/core/tone/tone';

	let { tone, set }: { tone: Tone; set: (next: Partial<Tone>) => void } = $props();

	const SLIDERS = [
		{ name: 'inkWeight', label: 'Ink weight, thin to heavy' },
		{ name: 'brightness', label: 'Brightness, darker to lighter' },
		{ name: 'contrast', label: 'Contrast, soft to hard' }
	] as const;
	const shown = $derived(SLIDERS.filter((s) => s.name === 'inkWeight' || heldBy(tone.name) !== 'ink'));
</script>

<div class="settings">
	<Toggle
		labelText="Even light"
		labelA="Shadows stay"
		labelB="Shadows taken out"
		toggled={tone.evenLight}
		on:toggle={(e) => {
			if (e.detail.toggled !== tone.evenLight) set({ evenLight: e.detail.toggled });
		}}
	/>
	{#each shown as { name, label } (name)}
		<Slider
			labelText={label}
			min={-2}
			max={2}
			step={0.5}
			value={tone[name] ?? 0}
			minLabel=" "
			maxLabel=" "
			hideTextInput
			fullWidth
			on:change={(e) => {
				if (e.detail !== (tone[name] ?? 0)) set({ [name]: Number(e.detail) });
			}}
		/>
	{/each}
</div>

<style>
	.settings {
		display: grid;
		gap: 0.5rem;
	}
	/* Carbon leaves room for numbers that are not shown here. */
	.settings :global(.bx--slider-container) {
		margin-top: -0.75rem;
	}
	.settings :global(.bx--toggle__switch) {
		margin-top: 0.25rem;
	}
</style>
