<script lang="ts">
	import Told from '$lib/ui/school/Told.svelte';
	import { enhance } from '$app/forms';
	import { Button, InlineNotification, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import { plural } from '$lib/core/rules/finding';
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import type { Holdings } from '$lib/server/store/erase';
	import TopBar from '$lib/ui/frame/TopBar.svelte';
	import RosterIn from '$lib/ui/school/RosterIn.svelte';
	import '$lib/ui/school/school.css';

	let { data, form } = $props();
	const { as } = $derived(data);
	let chosen = $state<Record<string, boolean>>({});
	let printing = $state(false);
	let printed = $state<string | null>(null);
	const students = $derived(data.members.filter((m) => m.role === 'student'));
	const outside = $derived(data.members.filter((m) => !m.hasPassword));
	const picked = $derived(data.members.filter((m) => chosen[m.id]));
	/** Those that are chosen, or everybody who has not come in yet. */
	const meant = $derived(picked.length > 0 ? picked : outside);
	const withMail = $derived(meant.filter((m) => m.email));

	async function slips(): Promise<void> {
		printing = true;
		printed = null;
		try {
			const response = await fetch(`/api/courses/${data.course.id}/slips`, {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({ people: meant.map((m) => m.id) })
			});
			if (!response.ok) {
				printed =
					((await response.json().catch(() => ({}))) as { message?: string }).message ?? 'This did not work.';
				return;
			}
			const link = document.createElement('a');
			link.href = URL.createObjectURL(await response.blob());
			link.download = `${data.course.code} slips.pdf`;
			link.click();
			setTimeout(() => URL.revokeObjectURL(link.href), 1000);
			printed = `${plural(meant.length, 'slip')} saved as a PDF. Earlier slips of theirs do not work any more.`;
			chosen = {};
		} catch {
			printed = 'The line is down. Try again.';
		} finally {
			printing = false;
		}
	}
	function wayIn(m: (typeof data.members)[number]): string {
		if (m.hasPassword) return 'has come in';
		const at =
			m.invitedAt && new Date(m.invitedAt).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });
		return m.invitedBy === 'mail'
			? `letter sent ${at}`
			: m.invitedBy === 'slip'
				? `slip made ${at}`
				: 'no way in yet';
	}
</script>

<svelte:head><title>{data.course.code} · Membrana</title></svelte:head>
<TopBar>{data.course.code} {data.course.title}</TopBar>
<main class="school-page">
	<div class="line">
		<h1>{data.course.code} {data.course.title}</h1>
		{#if as === 'administrator'}<a class="quiet" href="/school">All courses</a>{/if}
	</div>
	{#if data.course.isArchived}
		<InlineNotification
			kind="info"
			lowContrast
			hideCloseButton
			title="This course is archived: it stands on nobody's desk. Nothing of it is lost."
		/>
	{/if}
	<Told {form} />

	{#if form && 'holdings' in form && form.holdings}
		{@const all = form.holdings as Holdings}
		<form class="card" method="post" action="?/delete" use:enhance>
			<h2>Delete {data.course.code} for good?</h2>
			<p>
				Gone: the course, {plural(all.ruleSheets, 'rule sheet')}, {plural(all.packets, 'packet')} with
				{plural(all.originals, 'original')} ({formatBytes(all.bytes)}). People stay.
			</p>
			<p>
				What remains: {plural(all.handedIn, 'packet')} handed in, wherever they were handed in to, and whatever
				is in backups made before today.
			</p>
			<div class="line">
				<Button type="submit" size="field" kind="danger">Delete for good</Button>
				<a class="quiet" href="/courses/{data.course.id}">Leave it</a>
			</div>
		</form>
	{/if}

	{#if data.members.length === 0}
		<p>Nobody is in this course yet. Bring in its list, or add people one by one.</p>
	{:else}
		<section class="card" aria-labelledby="in-title">
			<h2 id="in-title">
				{plural(students.length, 'student')}{#if outside.length > 0}, {outside.length} without a way in yet{/if}
			</h2>
			<div class="line">
				<Button size="field" disabled={printing || meant.length === 0} on:click={slips}>
					{printing
						? 'Making them …'
						: meant.length === 0
							? 'Print slips'
							: `Print ${plural(meant.length, 'slip')}`}
				</Button>
				{#if data.mails}
					<form method="post" action="?/letter" use:enhance>
						{#each withMail as m (m.id)}<input type="hidden" name="person" value={m.id} />{/each}
						<button class="quiet" disabled={withMail.length === 0}
							>{withMail.length === 0 ? 'Send letters' : `Send ${plural(withMail.length, 'letter')}`}</button
						>
					</form>
				{/if}
				<span class="soft" role="status">
					{printed ??
						(form && 'letters' in form
							? `${plural(Number(form.letters), 'letter')} on their way.`
							: picked.length > 0
								? 'For those who are ticked. A password they have works until they choose a new one.'
								: meant.length === 0
									? 'Everybody has come in. Tick whoever needs a new way in.'
									: 'A slip or a letter lets one person choose a password, once.')}
				</span>
			</div>
			<div class="wide">
				<table>
					<thead>
						<tr
							><th><span class="out-of-sight">Mark</span></th><th>Name</th><th>Sign-in name</th><th>Number</th
							><th>Mail</th><th>Way in</th><th><span class="out-of-sight">What can be done</span></th></tr
						>
					</thead>
					<tbody>
						{#each data.members as m (m.id)}
							<tr>
								<td
									><input type="checkbox" aria-label="{m.given} {m.family}" bind:checked={chosen[m.id]} /></td
								>
								<td
									>{m.family}{m.family && m.given ? ', ' : ''}{m.given}{#if m.role === 'teacher'}<small
											>teacher</small
										>{/if}</td
								>
								<td>{m.login}</td>
								<td>{m.identifier ?? ''}</td>
								<td>{m.email ?? ''}</td>
								<td class="soft">{wayIn(m)}</td>
								<td>
									<form method="post" action="?/remove" use:enhance>
										<input type="hidden" name="person" value={m.id} />
										<button class="textual" title="Their work is kept">Take out</button>
									</form>
								</td>
							</tr>
						{/each}
					</tbody>
				</table>
			</div>
			<p><a class="textual" href="/api/courses/{data.course.id}/roster" download>Save this list as CSV</a></p>
		</section>
	{/if}

	<section class="card" aria-labelledby="list-title">
		<h2 id="list-title">Bring in the list of this course</h2>
		<p>
			Any table with names: CSV, tabs or semicolons, with or without titles. Numbers or mail addresses tell
			people apart. You see what would change before anything does.
		</p>
		<RosterIn
			address="/api/courses/{data.course.id}/roster"
			accept=".csv,.tsv,.txt,text/csv,text/plain"
			paste
		/>
	</section>

	<form class="card" method="post" action="?/add" use:enhance>
		<h2>Add somebody who is here already</h2>
		<div class="fields">
			<TextInput
				name="called"
				labelText="Sign-in name, mail address or number"
				value={form && 'called' in form ? String(form.called) : ''}
			/>
			{#if as === 'administrator'}
				<Select name="role" labelText="As">
					<SelectItem value="student" text="a student" />
					<SelectItem value="teacher" text="a teacher" />
				</Select>
			{/if}
		</div>
		<div><Button type="submit" size="field" kind="tertiary">Add to the course</Button></div>
	</form>

	{#if as === 'administrator'}
		{#key data.course.version}
			<form
				class="card"
				method="post"
				action="?/change"
				use:enhance={() =>
					({ update }) =>
						update({ reset: false })}
			>
				<h2>The course</h2>
				<input type="hidden" name="version" value={data.course.version} />
				<div class="fields">
					<TextInput name="code" labelText="Code" value={data.course.code} />
					<TextInput name="title" labelText="Title" value={data.course.title} />
					<TextInput name="timeZone" labelText="Time zone" value={data.course.timeZone} />
					<TextInput name="language" labelText="Language" value={data.course.language} />
				</div>
				<div class="line">
					<Button type="submit" size="field" kind="tertiary">Save</Button>
					<button class="quiet" formaction="?/archive">
						{data.course.isArchived ? 'Take it back out of the archive' : 'Archive the course'}
					</button>
					{#if data.course.isArchived}<button class="quiet" formaction="?/holdings">Delete it …</button>{/if}
				</div>
			</form>
		{/key}
	{/if}
</main>

<style>
	input[type='checkbox'] {
		width: 1.125rem;
		height: 1.125rem;
		accent-color: var(--violet);
	}
</style>
