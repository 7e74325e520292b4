<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import { formatDue, formatOffset, zoneOffset } from '$lib/core/rules/dueTime';
	import { plural } from '$lib/core/rules/finding';
	import { askAssignment } from './askAssignment';

	interface Props {
		open: boolean;
		assignment: string;
		due: string;
		people: readonly { readonly id: string; readonly moreTime: string | null }[];
		ondone: () => void;
	}
	let { open = $bindable(false), assignment, due, people, ondone }: Props = $props();
	const zone = $derived(zoneOffset(due));
	const local = (at: number) => new Date(at + zone * 60_000).toISOString().slice(0, 16);
	let until = $state('');
	let problem = $state('');
	$effect(() => {
		if (open) {
			problem = '';
			until = local(Math.max(Date.now(), Date.parse(due)) + 24 * 3_600_000);
		}
	});

	async function give(to: string | null): Promise<void> {
		try {
			await askAssignment(assignment, 'time', { people: people.map((p) => p.id), due: to });
			open = false;
			ondone();
		} catch (error) {
			problem = (error as Error).message;
		}
	}
</script>

<Modal
	bind:open
	size="sm"
	modalHeading="More time for {plural(people.length, 'person', 'people')}"
	primaryButtonText="Give it"
	secondaryButtonText="Leave it"
	primaryButtonDisabled={until === ''}
	on:click:button--secondary={() => (open = false)}
	on:submit={() => give(`${until}:00${formatOffset(zone)}`)}
>
	<p>For everybody it is due {formatDue(due)}. They see their own time wherever the due time stands.</p>
	<label
		>Due for them ({formatOffset(zone)})
		<input type="datetime-local" bind:value={until} data-modal-primary-focus /></label
	>
	{#if people.some((p) => p.moreTime)}
		<p><button class="textual" onclick={() => give(null)}>Take the time given before back</button></p>
	{/if}
	{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
</Modal>

<style>
	label {
		display: grid;
		gap: 0.25rem;
		margin: 1rem 0;
	}
	input {
		width: 16rem;
		height: 2.5rem;
		padding: 0 0.5rem;
		border: 1px solid var(--ink-soft);
		background: var(--white);
		font: inherit;
	}
	.problem {
		margin-top: 0.75rem;
		color: var(--brick);
	}
</style>
