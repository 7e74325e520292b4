<script lang="ts">
	import { clockAt, formatClock, formatDue, formatDuration } from '$lib/core/rules/dueTime';
	import { usePacket } from '../packet/context';

	/** From here on every second counts. */
	const NEAR = 2 * 3_600_000;

	const store = usePacket();
	/** How far this browser's clock is behind the server's, which judges. */
	const offset = $derived(store.view.now - store.viewTakenAt);
	let tick = $state(Date.now());
	$effect(() => {
		const timer = setInterval(() => (tick = Date.now()), 1000);
		return () => clearInterval(timer);
	});
	const clock = $derived(clockAt(store.sheet, tick + offset));
	const isNear = $derived(clock !== null && clock.phase !== 'over' && clock.left < NEAR);
	const words = $derived.by(() => {
		if (!clock) return '';
		const left = isNear ? formatClock(clock.left) : formatDuration(clock.left);
		switch (clock.phase) {
			case 'working':
				return `${left} to write`;
			case 'handing-in':
				return `${left} to hand in`;
			case 'open':
				return `due in ${left}`;
			case 'grace':
				return `late; taken for ${left} more`;
			case 'over':
				return `${left} late`;
		}
	});
	/** Told to screen readers only now and then. */
	const told = $derived.by(() => {
		if (!clock || clock.phase === 'over' || !isNear) return '';
		const minutes = Math.ceil(clock.left / 60_000);
		return [60, 30, 15, 10, 5, 2, 1].includes(minutes) ? `${minutes} min left` : '';
	});
</script>

{#if clock}
	<span
		class="clock {clock.phase}"
		class:near={isNear}
		class:last={isNear && clock.left < 10 * 60_000}
		role="timer"
		title={store.sheet.workUntil
			? `Write until ${formatDue(store.sheet.workUntil)}; hand in until ${formatDue(store.sheet.due!)}`
			: formatDue(store.sheet.due!)}>{words}</span
	>
	<span class="out-of-sight" aria-live="polite">{told}</span>
{/if}

<style>
	.clock {
		padding: 0.25rem 0.75rem;
		border: 1px solid #7c6d96;
		font-size: 0.875rem;
		font-variant-numeric: tabular-nums;
		white-space: nowrap;
	}
	@media (max-width: 700px) {
		.clock {
			padding: 0.25rem 0.375rem;
		}
	}
	.near {
		border-color: #f7f5f0;
		font-size: 1rem;
		font-weight: 600;
	}
	.last,
	.grace {
		background: #ffd9a0;
		border-color: #ffd9a0;
		color: var(--ink);
	}
	.over {
		background: #f3c1ba;
		border-color: #f3c1ba;
		color: var(--ink);
	}
</style>
