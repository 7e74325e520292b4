<script lang="ts">
	import { page } from '$app/state';
	import type { Task } from '$lib/core/rules/finding';
	import Gather from '$lib/ui/tasks/Gather.svelte';
	import HandIn from '$lib/ui/tasks/HandIn.svelte';
	import MapTask from '$lib/ui/tasks/MapTask.svelte';
	import NameTask from '$lib/ui/tasks/NameTask.svelte';
	import Order from '$lib/ui/tasks/Order.svelte';
	import Square from '$lib/ui/tasks/Square.svelte';
	import ToneTask from '$lib/ui/tasks/ToneTask.svelte';
	import WriteTask from '$lib/ui/write/WriteTask.svelte';

	const tasks: Record<Task, typeof Gather> = {
		gather: Gather,
		square: Square,
		tone: ToneTask,
		write: WriteTask,
		order: Order,
		map: MapTask,
		name: NameTask,
		'hand-in': HandIn
	};
	/** The route takes nothing else. */
	const Shown = $derived(tasks[page.params.task as Task]);
</script>

<Shown />
