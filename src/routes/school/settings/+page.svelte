<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';
	import SettingsForm from '$lib/ui/school/SettingsForm.svelte';

	let { data, form } = $props();
</script>

<svelte:head><title>Settings · {data.school}</title></svelte:head>

<form
	method="post"
	action="?/name"
	class="line"
	use:enhance={() =>
		({ update }) =>
			update({ reset: false })}
>
	<div><TextInput name="name" labelText="Name of the school" value={data.school} /></div>
	<Button type="submit" size="field" kind="tertiary">Rename</Button>
</form>
<SettingsForm
	settings={data.settings}
	held={data.held}
	ways={['mail', 'portal', 'folder', 'provider', 'storage']}
	{form}
/>

<style>
	form.line {
		align-items: end;
	}
	form div {
		width: 24rem;
	}
</style>
