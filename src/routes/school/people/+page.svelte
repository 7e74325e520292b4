<script lang="ts">
	import Told from '$lib/ui/school/Told.svelte';
	import { enhance } from '$app/forms';
	import { Button, Search, TextInput } from 'carbon-components-svelte';
	import { plural } from '$lib/core/rules/finding';
	import { formatBytes } from '$lib/core/rules/formatBytes';

	let { data, form } = $props();
	const last = $derived(data.from + data.people.length);
	const page = (from: number) => `?${new URLSearchParams({ find: data.words, from: String(from) })}`;
</script>

<svelte:head><title>People · {data.school}</title></svelte:head>

<Told {form} />

{#if form && 'erase' in form && form.erase}
	{@const { id, name, ...all } = form.erase}
	<form class="card" method="post" action="?/erase" use:enhance>
		<h2>Erase {name}?</h2>
		<p>
			Gone for good: the name and everything that says who it was, {plural(all.packets, 'packet')} with
			{plural(all.originals, 'original')} ({formatBytes(all.bytes)}).
		</p>
		<p>
			What remains: {plural(all.handedIn, 'packet')} handed in, wherever they were handed in to; {plural(
				all.ruleSheets,
				'rule sheet'
			)} they wrote, with their courses; a scan of a whole pile, as long as others’ pages come from it; and whatever
			is in backups made before today.
		</p>
		<input type="hidden" name="person" value={id} />
		<div class="line">
			<Button type="submit" size="field" kind="danger">Erase for good</Button>
			<a class="quiet" href="/school/people">Leave it</a>
		</div>
	</form>
{/if}

<form method="get" role="search">
	<Search
		size="lg"
		name="find"
		labelText="Find people"
		placeholder="Name, sign-in name, mail address or number"
		value={data.words}
	/>
</form>
<p class="soft" role="status">
	{data.all > data.window
		? `${data.from + 1} to ${last} of ${plural(data.all, 'person', 'people')}`
		: plural(data.all, 'person', 'people')}
</p>
{#if data.people.length > 0}
	<div class="wide">
		<table>
			<thead
				><tr
					><th>Name</th><th>Sign-in name</th><th>Number</th><th>Courses</th><th
						><span class="out-of-sight">What can be done</span></th
					></tr
				></thead
			>
			<tbody>
				{#each data.people as person (person.id)}
					<tr class:gone={person.isArchived}>
						<td>
							{person.family}{person.family && person.given ? ', ' : ''}{person.given}
							{#if person.isAdministrator}<small>administrator</small>{/if}
							{#if person.isArchived}<small>archived</small>{:else if !person.hasPassword}<small
									>has not come in yet</small
								>{/if}
						</td>
						<td
							>{person.login}{#if person.email && person.email !== person.login}<small>{person.email}</small
								>{/if}</td
						>
						<td>{person.identifier ?? ''}</td>
						<td>{person.courses.join(', ')}</td>
						<td>
							<form method="post" class="line" use:enhance>
								<input type="hidden" name="person" value={person.id} />
								{#if data.mails && person.email && !person.isArchived}
									<button class="textual" formaction="?/letter"
										>{person.hasPassword ? 'Send a new way in' : 'Send a letter'}</button
									>
								{/if}
								{#if person.id !== data.me}
									<details>
										<summary aria-label="More for {person.given} {person.family}">More</summary>
										<div class="line">
											<button class="textual" formaction="?/administrator"
												>{person.isAdministrator
													? 'No administrator any more'
													: 'Make an administrator'}</button
											>
											<button class="textual" formaction="?/archive"
												>{person.isArchived ? 'Take back' : 'Archive'}</button
											>
											{#if person.isArchived}<button class="textual" formaction="?/holdings">Erase …</button
												>{/if}
										</div>
									</details>
								{/if}
							</form>
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
	<div class="line">
		{#if data.from > 0}<a class="quiet" href={page(Math.max(0, data.from - data.window))}>Before</a>{/if}
		{#if last < data.all}<a class="quiet" href={page(last)}>Further</a>{/if}
	</div>
{/if}

<form class="card" method="post" action="?/add" use:enhance>
	<h2>Somebody new</h2>
	<div class="fields">
		<TextInput name="given" labelText="Given name" value={form && 'given' in form ? form.given : ''} />
		<TextInput name="family" labelText="Family name" value={form && 'family' in form ? form.family : ''} />
		<TextInput name="login" labelText="Sign-in name" value={form && 'login' in form ? form.login : ''} />
		<TextInput
			name="email"
			labelText="Mail address (may be left out)"
			value={form && 'email' in form ? (form.email ?? '') : ''}
		/>
	</div>
	<div><Button type="submit" size="field">Add</Button></div>
</form>

<style>
	summary {
		color: var(--violet);
		cursor: pointer;
		font-size: 0.875rem;
	}
	.gone td {
		color: var(--ink-soft);
	}
</style>
