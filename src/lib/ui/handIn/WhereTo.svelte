<script lang="ts">
	import { onMount } from 'svelte';
	import type { Destinations } from '$lib/server/delivery/destinations';
	import { TARGET_KINDS, TARGETS, type TargetName } from '$lib/core/delivery/targets';
	import { usePacket } from '../packet/context';
	import LevelMark from '../theme/LevelMark.svelte';
	import { ask } from '../packet/ask';

	/** What was chosen; `ready` when it may be sent there. */
	export interface ChosenTarget {
		target: TargetName;
		to: string;
		confirmed: string;
		ready: boolean;
	}
	let { outcome = $bindable() }: { outcome: ChosenTarget } = $props();

	const store = usePacket();
	const own = $derived({ title: store.sheet.title, course: store.view.assignment.courseCode });
	let known = $state.raw<(Destinations & { standIn: string | null }) | null>(null);
	/** What needs nothing more to be chosen goes before what does. */
	const BY_ITSELF: readonly TargetName[] = ['portal', 'folder', 'mail'];
	let problem = $state<string | null>(null);
	let chosenTarget = $state<TargetName | null>(null);
	/** The first that there is, until one is chosen. */
	const target = $derived<TargetName>(
		chosenTarget ?? BY_ITSELF.find((name) => !known || known[name]) ?? 'mail'
	);
	const none = $derived(known !== null && TARGETS.every((name) => !known![name]));
	let assignment = $state('');
	let address = $state('');
	let confirmed = $state(false);

	/** Milliseconds after which a portal that is being asked is looked at again. */
	const SOON = 500;
	let again: ReturnType<typeof setTimeout> | undefined;
	onMount(() => {
		void load();
		return () => clearTimeout(again);
	});
	async function load(): Promise<void> {
		problem = null;
		try {
			known = await ask(store.view.id, 'destinations');
			assignment ||= known!.own.id;
			address ||= known!.mail?.addresses[0]?.address ?? '';
			if (known!.portal?.asking && !known!.portal.list) again = setTimeout(load, SOON);
		} catch (error) {
			problem = (error as Error).message;
		}
	}

	const courses = $derived.by(() => {
		const all = known?.portal?.list ?? (known ? [known.own] : []);
		const first = own.course;
		return [...new Set(all.map((a) => a.course))]
			.sort((a, b) => Number(b === first) - Number(a === first) || a.localeCompare(b))
			.map((course) => ({
				course,
				assignments: all
					.filter((a) => a.course === course)
					.sort((a, b) => Number(b.id === known?.own.id) - Number(a.id === known?.own.id))
			}));
	});
	const chosen = $derived(known?.portal?.list?.find((a) => a.id === assignment));
	const isOther = $derived(
		target === 'portal' && known !== null && assignment !== '' && assignment !== known.own.id
	);

	$effect(() => {
		outcome = {
			target,
			to: target === 'portal' ? assignment : target === 'mail' ? address : '',
			confirmed: isOther && confirmed ? (chosen?.title ?? '') : '',
			// Until it is known what is set up here, nothing is sent anywhere.
			ready:
				known !== null && !none && (!isOther || confirmed) && (target !== 'mail' || address.includes('@'))
		};
	});
	$effect(() => {
		void assignment;
		confirmed = false;
	});
</script>

<fieldset class="where">
	<legend>Where to</legend>
	<div class="ways" role="radiogroup" aria-label="Where to">
		{#each TARGETS as name (name)}
			{#if known === null ? name === 'portal' : known[name]}
				<label>
					<input
						type="radio"
						name="way"
						value={name}
						checked={target === name}
						onchange={() => (chosenTarget = name)}
					/>
					{name === 'folder' && known?.folder?.path ? 'A folder on this computer' : TARGET_KINDS[name].title}
				</label>
			{/if}
		{/each}
	</div>
	{#if problem}
		<p class="line">
			<LevelMark level="look" />
			{problem} <button class="textual" onclick={load}>Ask again</button>
		</p>
	{:else if none}
		<p class="line">
			<LevelMark level="look" /> No way of handing in has been set up here. Save the file below, and hand it in
			yourself.
		</p>
	{:else if target === 'portal'}
		<label class="field">
			<span>Assignment at the portal</span>
			<select bind:value={assignment} disabled={!known?.portal?.list}>
				{#each courses as { course, assignments } (course)}
					<optgroup label={course}>
						{#each assignments as one (one.id)}
							<option value={one.id}
								>{one.title}{one.id === known?.own.id ? ' (this packet’s own)' : ''}</option
							>
						{/each}
					</optgroup>
				{/each}
			</select>
		</label>
		{#if known?.portal?.asking && !known.portal.list}
			<p class="hint" aria-live="polite">Asking the portal for its assignments …</p>
		{:else if known && !known.portal?.list}
			<p class="line">
				<LevelMark level="look" /> The portal does not answer just now. You can hand in all the same: it goes to
				this packet's own assignment and is sent as soon as the portal is back.
				<button class="textual" onclick={load}>Ask again</button>
			</p>
		{/if}
		{#if isOther && chosen}
			<div class="other" role="alert">
				<p class="line"><LevelMark level="blocks" /> <b>This is another assignment.</b></p>
				<p>This packet answers <b>{own.title}</b> ({own.course}).</p>
				<p>You chose <b>{chosen.title}</b> ({chosen.course}).</p>
				<label
					><input type="checkbox" bind:checked={confirmed} /> I mean {chosen.title}, not {own.title}</label
				>
			</div>
		{/if}
	{:else if target === 'mail'}
		{#if known?.mail?.anyone}
			<label class="field">
				<span>To, such as your teacher’s address</span>
				<input type="email" bind:value={address} autocomplete="email" />
			</label>
		{:else}
			<label class="field">
				<span>To, of those the course approves</span>
				<select bind:value={address}>
					{#each known?.mail?.addresses ?? [] as one (one.address)}
						<option value={one.address}>{one.name}, {one.address}</option>
					{/each}
				</select>
			</label>
		{/if}
		<p class="hint">
			Mail is passed on; nobody confirms that it was received.{known?.portal ? ' The portal does.' : ''}
		</p>
	{:else}
		<p class="hint">
			{#if known?.folder?.path}
				It is kept there as it is, with a receipt: <code>{known.folder.path}</code>
			{:else}
				The file is laid in the folder of {own.course}, {own.title}.
			{/if}
		</p>
	{/if}
	{#if known?.standIn}
		<p class="hint">
			Demo: <a href={known.standIn} target="_blank" rel="noopener">the stand-in portal</a> can be told to be slow,
			to fail or to lose its answer.
		</p>
	{/if}
</fieldset>

<style>
	.where {
		display: grid;
		gap: 0.75rem;
		margin: 0;
		padding: 0;
		border: 0;
	}
	legend {
		padding: 0 0 0.5rem;
		font-weight: 600;
	}
	.ways {
		display: flex;
		flex-wrap: wrap;
		gap: 0.5rem 1.5rem;
	}
	input[type='radio'],
	input[type='checkbox'] {
		width: 1.125rem;
		height: 1.125rem;
		margin: 0 0.25rem 0 0;
		vertical-align: -0.1875rem;
		accent-color: var(--violet);
	}
	.field {
		display: grid;
		gap: 0.25rem;
		font-size: 0.875rem;
	}
	.field span,
	.hint {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	select,
	input[type='email'] {
		width: 100%;
		max-width: 34rem;
		min-height: 2.5rem;
		padding: 0 0.5rem;
		border: 1px solid var(--ink-soft);
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 1rem;
	}
	.line {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 0.5rem;
	}
	.other b {
		font-weight: 600;
	}
	.other {
		display: grid;
		gap: 0.5rem;
		padding: 1rem;
		border: 2px solid var(--brick);
		background: var(--bad-soft);
	}
	a {
		color: var(--violet);
	}
</style>
