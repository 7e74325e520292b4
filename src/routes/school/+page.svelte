<script lang="ts">
	import { enhance } from '$app/forms';
	import { onMount } from 'svelte';
	import { Button, InlineNotification, TextInput } from 'carbon-components-svelte';
	import { plural } from '$lib/core/rules/finding';
	import { formatBytes } from '$lib/core/rules/formatBytes';
	import RosterIn from '$lib/ui/school/RosterIn.svelte';

	let { data, form } = $props();
	let zone = $state('UTC');
	onMount(() => (zone = Intl.DateTimeFormat().resolvedOptions().timeZone));
	const inUse = $derived(data.courses.filter((c) => !c.isArchived));
	const archived = $derived(data.courses.filter((c) => c.isArchived));
</script>

<svelte:head><title>Courses · {data.school}</title></svelte:head>

{#if inUse.length === 0}
	<p>
		There is no course yet. Make the first one here, or bring in the roster of the whole school, and its
		courses with it.
	</p>
{:else}
	<div class="wide">
		<table>
			<thead
				><tr
					><th>Course</th><th>Teachers</th><th>Students</th><th>Originals</th><th
						><span class="out-of-sight">Open</span></th
					></tr
				></thead
			>
			<tbody>
				{#each inUse as course (course.id)}
					<tr>
						<td><b>{course.code}</b><small>{course.title}</small></td>
						<td>{course.teachers.join(', ') || 'nobody yet'}</td>
						<td>
							{course.students}
							{#if course.cameIn < course.students}<small>{course.cameIn} have come in</small>{/if}
						</td>
						<td>{formatBytes(course.bytes)}</td>
						<td><a class="quiet" href="/courses/{course.id}">Open</a></td>
					</tr>
				{/each}
			</tbody>
		</table>
	</div>
{/if}

<form class="card" method="post" action="?/make" use:enhance>
	<h2>A new course</h2>
	<div class="fields">
		<TextInput name="code" labelText="Code" placeholder="HY-2" value={form?.code ?? ''} />
		<TextInput name="title" labelText="Title" placeholder="Stream Hydrology" value={form?.title ?? ''} />
		<TextInput name="timeZone" labelText="Time zone" bind:value={zone} />
		<TextInput name="language" labelText="Language" value={form?.language ?? 'en'} />
	</div>
	{#if form?.problem}<InlineNotification kind="error" lowContrast hideCloseButton title={form.problem} />{/if}
	<div><Button type="submit" size="field">Make the course</Button></div>
</form>

<section class="card" aria-labelledby="roster-title">
	<h2 id="roster-title">The whole school's roster</h2>
	<p>
		A OneRoster ZIP (1.1 or 1.2) with users, classes and enrollments. You see what would change before
		anything does. The list of a single course is brought in on the course's own page.
	</p>
	<RosterIn address="/api/school/roster" accept=".zip,application/zip" />
	{#if data.courses.length > 0}<p>
			<a class="textual" href="/api/school/roster" download>Save the roster as it is now</a>
		</p>{/if}
</section>

{#if archived.length > 0}
	<details>
		<summary>{plural(archived.length, 'archived course')}</summary>
		<ul>
			{#each archived as course (course.id)}
				<li><a href="/courses/{course.id}">{course.code} {course.title}</a></li>
			{/each}
		</ul>
	</details>
{/if}
