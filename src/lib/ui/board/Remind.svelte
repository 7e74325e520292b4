<script lang="ts">
	import { Modal, TextArea } from 'carbon-components-svelte';
	import { plural } from '$lib/core/rules/finding';
	import { askAssignment } from './askAssignment';

	interface Props {
		open: boolean;
		assignment: string;
		people: readonly { readonly id: string; readonly hasMail: boolean }[];
		ondone: (said: string) => void;
	}
	let { open = $bindable(false), assignment, people, ondone }: Props = $props();
	const reached = $derived(people.filter((p) => p.hasMail).length);
	let words = $state('');
	let problem = $state('');
	$effect(() => {
		if (open) problem = '';
	});

	async function write(): Promise<void> {
		try {
			const { written } = await askAssignment<{ written: number }>(assignment, 'reminders', {
				people: people.map((p) => p.id),
				words
			});
			open = false;
			words = '';
			ondone(`${plural(written, 'letter')} sent.`);
		} catch (error) {
			problem = (error as Error).message;
		}
	}
</script>

<Modal
	bind:open
	size="sm"
	modalHeading="Remind {plural(people.length, 'person', 'people')}"
	primaryButtonText="Send {plural(reached, 'letter')}"
	secondaryButtonText="Leave it"
	primaryButtonDisabled={reached === 0}
	on:click:button--secondary={() => (open = false)}
	on:submit={write}
>
	<p>
		Each gets a letter of their own: what is due when, how far they have come, what still blocks.
		{#if reached < people.length}{people.length - reached} of them {people.length - reached === 1
				? 'has'
				: 'have'} no mail address here.{/if}
	</p>
	<div class="words">
		<TextArea labelText="Words of your own (may be left out)" bind:value={words} rows={3} maxCount={2000} />
	</div>
	{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
</Modal>

<style>
	.words {
		margin-top: 1rem;
	}
	.problem {
		margin-top: 0.75rem;
		color: var(--brick);
	}
</style>
