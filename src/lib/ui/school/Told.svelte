<script lang="ts">
	import { InlineNotification } from 'carbon-components-svelte';

	/** What a form's action answered, whichever of them it was. */
	let { form }: { form: object | null } = $props();
	const of = (name: 'problem' | 'done') => {
		const value: unknown = form && name in form ? (form as Record<string, unknown>)[name] : null;
		return typeof value === 'string' ? value : '';
	};
	const problem = $derived(of('problem'));
	const done = $derived(of('done'));
</script>

{#if problem}<InlineNotification kind="error" lowContrast hideCloseButton title={problem} />{/if}
{#if done}<InlineNotification kind="success" lowContrast hideCloseButton title={done} />{/if}
