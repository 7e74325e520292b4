<script lang="ts">
	import { onMount, untrack } from 'svelte';
	import { Button, Checkbox, InlineLoading, NumberInput, Select, SelectItem } from 'carbon-components-svelte';
	import { plural } from '$lib/core/rules/finding';
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import type { BundleOptions } from '$lib/core/bundle/plan';
	import type { BundleRow } from '$lib/server/store/bundles';
	import { askAssignment } from '$lib/ui/board/askAssignment';
	import LookThrough from '$lib/ui/bundle/LookThrough.svelte';
	import { toTheMinute } from '$lib/ui/frame/toTheMinute';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import LevelMark from '$lib/ui/theme/LevelMark.svelte';

	let { data } = $props();
	let bundles = $state.raw<readonly BundleRow[]>(untrack(() => data.bundles));
	let options = $state<Omit<BundleOptions, 'seed'>>({
		order: 'random',
		graders: 1,
		hidden: true,
		around: 'unsure',
		apart: false
	});
	let problem = $state('');
	let looking = $state<BundleRow | null>(null);
	const of = (question: string | null) => bundles.find((b) => b.question === question) ?? null;
	const busy = $derived(bundles.some((b) => b.state === 'making'));
	const bag = $derived(of(null));
	/** Those that somebody answers, as far as is known. */
	const answered = $derived(data.questions.filter((q) => q.answers > 0).map((q) => q.question));

	/** Milliseconds between two looks, while something is being made. */
	const LOOK_AGAIN = 1500;
	onMount(() => {
		const timer = setInterval(() => busy && void refresh(), LOOK_AGAIN);
		return () => clearInterval(timer);
	});
	async function refresh(): Promise<void> {
		const response = await fetch(`/api/assignments/${data.id}/bundles`).catch(() => null);
		if (response?.ok) bundles = (await response.json()) as BundleRow[];
	}

	async function make(questions: readonly (string | null)[]): Promise<void> {
		problem = '';
		try {
			for (const question of questions) {
				bundles = await askAssignment<BundleRow[]>(data.id, 'bundles', { question, options });
			}
		} catch (error) {
			problem = (error as Error).message;
		}
	}
</script>

<svelte:head><title>Bundles · {data.title}</title></svelte:head>
<TopBar>{data.title} · {data.courseCode}</TopBar>
<main>
	<div class="top">
		<h1>Bundles</h1>
		<p>
			One question’s answers of the whole class in one PDF, for whoever grades it. {plural(
				data.packets,
				'packet'
			)}, {data.handedIn} handed in; all are taken as they stand now.
		</p>
		<a class="quiet" href="/assignments/{data.id}/class">Board</a>
		<a class="quiet" download href="/api/assignments/{data.id}/codes">Save the key to the codes</a>
	</div>
	{#if data.packets === 0}
		<p class="none">
			There are no packets yet. When your students have brought theirs in, their answers stand here.
		</p>
	{:else}
		<div class="two">
			<section aria-labelledby="how">
				<h2 id="how">How they are made</h2>
				<Checkbox labelText="Names hidden, a code in their place" bind:checked={options.hidden} />
				<Select labelText="Order of the answers" bind:selected={options.order}>
					<SelectItem value="random" text="at random" />
					<SelectItem value="code" text="by code" />
					<SelectItem value="roster" text="as on the roster" />
				</Select>
				<NumberInput labelText="Split among graders" min={1} max={99} bind:value={options.graders} />
				<Select labelText="What lies around an answer, in grey" bind:selected={options.around}>
					<SelectItem value="unsure" text="where its end is unsure" />
					<SelectItem value="always" text="always" />
					<SelectItem value="never" text="never" />
				</Select>
				<Checkbox labelText="Every answer on pages of its own" bind:checked={options.apart} />
				<Button disabled={busy || answered.length === 0} on:click={() => make(answered)}
					>{answered.length === data.questions.length
						? `Make all ${answered.length}`
						: answered.length === 0
							? 'Make all'
							: `Make the ${answered.length} that are answered`}</Button
				>
				{#if answered.length === 0}
					<p class="soft">
						No question is placed in any packet yet. On the <a href="/assignments/{data.id}/class">board</a> you
						can place what was read, in all of them at once.
					</p>
				{/if}
				{#if problem}<p class="problem" role="alert">{problem}</p>{/if}
			</section>
			<section aria-labelledby="which">
				<h2 id="which" class="out-of-sight">Questions</h2>
				<ul aria-live="polite">
					{#each data.questions as { question, answers } (question)}
						{@const bundle = of(question)}
						<li data-question={question} data-state={bundle?.state ?? 'none'}>
							<div class="which">
								<b>Question {question}</b>
								<span>{plural(answers, 'answer')} of {data.packets}</span>
							</div>
							<div class="what">
								{#if !bundle}
									<span class="soft">{answers > 0 ? 'Not made yet' : 'Nobody’s answer is placed yet'}</span>
								{:else if bundle.state === 'making'}
									<InlineLoading description="Being made …" />
								{:else if bundle.state === 'unsure'}
									<p class="line">
										<LevelMark level="look" />
										On {plural(bundle.look, 'page')} it is not sure that every name is hidden.
									</p>
									<Button size="field" on:click={() => (looking = bundle)}>Look through</Button>
								{:else if bundle.state === 'failed'}
									<p class="line"><LevelMark level="blocks" /> {bundle.problem}</p>
								{:else}
									{#each bundle.files as file, i (file.name)}
										<p class="line">
											<a download href="/api/bundles/{bundle.id}/files/{i}">{file.name}</a>
											<span class="soft"
												>{plural(file.answers.length, 'answer')}, {formatBytes(file.bytes)}</span
											>
										</p>
									{:else}
										<span class="soft">Nobody answers it.</span>
									{/each}
									<p class="soft">
										Made {toTheMinute(bundle.madeAt)}, names {bundle.options.hidden ? 'hidden' : 'shown'}.
										{#if bundle.without.length > 0}Without: {bundle.without.join(', ')}.{/if}
										{#if bundle.changedSince}<b>Packets were changed since.</b>{/if}
									</p>
								{/if}
							</div>
							<button
								class="quiet"
								disabled={bundle?.state === 'making' || answers === 0}
								onclick={() => make([question])}
								>{bundle && bundle.state !== 'making' ? 'Make it again' : 'Make it'}</button
							>
						</li>
					{/each}
					<li data-question="" data-state={bag?.state ?? 'none'}>
						<div class="which">
							<b>Everything</b>
							<span>to keep</span>
						</div>
						<div class="what">
							{#if bag?.state === 'making'}
								<InlineLoading description="Being packed …" />
							{:else if bag?.state === 'failed'}
								<p class="line"><LevelMark level="blocks" /> {bag.problem}</p>
							{:else if bag?.state === 'ready'}
								<p class="line">
									<a download href="/api/bundles/{bag.id}/files/0">{bag.files[0]!.name}</a>
									<span class="soft">{formatBytes(bag.files[0]!.bytes)}</span>
								</p>
								<p class="soft">Packed {toTheMinute(bag.madeAt)}.</p>
							{/if}
							<p class="soft">
								What was handed in with receipts and manifests, the bundles that are made, rule sheet, board
								and key, in one ZIP that lists a checksum of every file. It holds names.
							</p>
						</div>
						<button class="quiet" disabled={busy} onclick={() => make([null])}
							>{bag ? 'Pack it again' : 'Pack it'}</button
						>
					</li>
				</ul>
			</section>
		</div>
	{/if}
</main>
{#if looking}
	<LookThrough
		bundle={looking.id}
		onclose={() => {
			looking = null;
			void refresh();
		}}
	/>
{/if}

<style>
	main {
		max-width: 80rem;
		margin: 0 auto;
		padding: 1.5rem;
	}
	.top {
		display: flex;
		flex-wrap: wrap;
		align-items: baseline;
		gap: 0.5rem 1rem;
		margin-bottom: 1.25rem;
	}
	.top p {
		flex: 1;
		min-width: min(20rem, 100%);
		color: var(--ink-soft);
	}
	h1 {
		font-size: 2.25rem;
		font-weight: 400;
	}
	h2 {
		font-size: 1.125rem;
	}
	.two {
		display: grid;
		grid-template-columns: 18rem minmax(0, 1fr);
		gap: 1.5rem;
		align-items: start;
	}
	@media (max-width: 800px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
		}
	}
	section:first-child {
		display: grid;
		gap: 1rem;
		padding: 1rem 1.25rem 1.25rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	ul {
		margin: 0;
		padding: 0;
		background: var(--white);
		border: 1px solid var(--rule);
		list-style: none;
	}
	li {
		display: grid;
		grid-template-columns: 9rem minmax(0, 1fr) auto;
		gap: 1rem;
		align-items: start;
		padding: 0.875rem 1.25rem;
	}
	li + li {
		border-top: 1px solid var(--rule);
	}
	.which b,
	.which span {
		display: block;
		line-height: 1.4;
	}
	.which span,
	.soft {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	.what {
		display: grid;
		gap: 0.25rem;
		justify-items: start;
		line-height: 1.4;
	}
	.line {
		display: flex;
		gap: 0.625rem;
		align-items: baseline;
	}
	.none {
		padding: 3rem 0;
		color: var(--ink-soft);
		text-align: center;
	}
	.problem {
		color: var(--brick);
	}
</style>
