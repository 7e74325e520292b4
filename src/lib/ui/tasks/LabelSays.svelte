<script lang="ts">
	import { questionSaid } from '$lib/core/rules/questionSaid';
	import type { Answerable } from '$lib/core/assignment/question';

	// What a label really says, where it was misread: typed as it stands there.
	let { questions, onsay }: { questions: readonly Answerable[]; onsay: (question: string) => void } =
		$props();
	let text = $state('');
	let problem = $state('');

	function say(event: SubmitEvent): void {
		event.preventDefault();
		const question = questionSaid(text, questions);
		if (question === null) {
			problem = `The rule sheet has no “${text.trim()}”. It has ${questions.map((q) => q.id).join(', ')}.`;
			return;
		}
		text = '';
		onsay(question);
	}
</script>

<form onsubmit={say}>
	<label>
		It says
		<input
			class="small-field"
			bind:value={text}
			size="6"
			autocomplete="off"
			aria-invalid={problem !== ''}
			oninput={() => (problem = '')}
		/>
	</label>
	<button class="quiet" disabled={text.trim() === ''}>Correct</button>
	{#if problem}<span role="alert">{problem}</span>{/if}
</form>

<style>
	form,
	label {
		display: inline-flex;
		align-items: center;
		gap: 0.5rem;
	}
	input {
		width: 5.5rem;
	}
	[role='alert'] {
		color: var(--brick);
	}
</style>
