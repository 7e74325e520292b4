<script lang="ts">
	import { onDestroy, onMount } from 'svelte';
	import { describeObstacle } from '$lib/core/camera/shotWatch';
	import { LiveOutline, type Seen } from '$lib/workers/liveOutline';
	import type { UploadList } from '../packet/uploads.svelte';
	import { cameraChoices, CameraError, openDeviceCamera, type Camera, type CameraChoice } from './camera';
	import LiveSheet from './LiveSheet.svelte';
	import Shots, { type Shot } from './Shots.svelte';

	interface Props {
		uploads: UploadList;
		/** Opens the stand-in camera, where there is one. */
		standIn?: (() => Promise<Camera>) | null;
		/** Where the shots go on the strip: see Placing. */
		after?: string;
		/** The page that the first shot is taken for again. */
		retake?: string | null;
		onclose: () => void;
	}
	let { uploads, standIn = null, after, retake = null, onclose }: Props = $props();

	const STAND_IN = 'stand-in';
	const RATE_WINDOW = 2000;
	let dialog: HTMLDialogElement | undefined = $state();
	let video: HTMLVideoElement | undefined = $state();
	let camera = $state.raw<Camera | null>(null);
	let problem = $state<CameraError | null>(null);
	let choices = $state.raw<CameraChoice[]>([]);
	let chosen = $state<string | null>(null);
	let byItself = $state(true);
	let lightOn = $state(false);
	let seen = $state.raw<Seen | null>(null);
	let shots = $state.raw<Shot[]>([]);
	/** The shot that the next one takes the place of. */
	let again = $state<string | null>(null);
	let flash = $state(0);
	let taking = $state(false);
	let live: LiveOutline | null = null;
	// svelte-ignore state_referenced_locally
	let pageToReplace = retake;

	const words = $derived.by(() => {
		if (taking) return 'Taking it';
		if (!seen) return 'Looking';
		if (seen.obstacle) return describeObstacle(seen.obstacle);
		return byItself ? 'Hold still' : 'Ready: press the space key or Take it';
	});
	/** What screen readers are told: only what has stood for a moment. */
	let said = $state('');
	$effect(() => {
		const now = words;
		const timer = setTimeout(() => (said = now), 600);
		return () => clearTimeout(timer);
	});

	onMount(() => {
		dialog?.showModal();
		void open(null);
	});
	onDestroy(() => {
		live?.close();
		camera?.close();
		for (const shot of shots) URL.revokeObjectURL(shot.picture);
	});

	async function open(id: string | null): Promise<void> {
		live?.close();
		camera?.close();
		[live, camera, seen, problem, lightOn] = [null, null, null, null, false];
		try {
			camera = id === STAND_IN && standIn ? await standIn() : await openDeviceCamera(id);
			chosen = id ?? camera.stream.getVideoTracks()[0]?.getSettings().deviceId ?? null;
			choices = await cameraChoices();
			camera.stream.getVideoTracks()[0]?.addEventListener('ended', () => {
				problem = new CameraError('The camera was taken away.', 'busy');
			});
			if (!video) return;
			video.srcObject = camera.stream;
			await video.play();
			live = new LiveOutline(video, look);
		} catch (error) {
			problem =
				error instanceof CameraError ? error : new CameraError('The camera could not be started.', 'busy');
		}
	}

	/** When the last frames were looked at, for the rate that `bench camera` reads. */
	let lookedAt: number[] = [];
	let rate = $state(0);

	function look(next: Seen): void {
		seen = next;
		const now = performance.now();
		lookedAt = [...lookedAt.filter((t) => t > now - RATE_WINDOW), now];
		rate = Math.round((lookedAt.length * 1000) / RATE_WINDOW);
		if (next.take && byItself && !taking) void take();
	}

	async function take(): Promise<void> {
		if (!camera || !video || !live || taking) return;
		taking = true;
		try {
			live.taken();
			const still = (await camera.still()) ?? (await live.encode(await createImageBitmap(video)));
			camera.taken?.();
			keep(still);
			flash++;
			navigator.vibrate?.(40);
		} finally {
			taking = false;
		}
	}

	function keep(still: Blob): void {
		const stamp = new Date().toLocaleString('sv').replaceAll(':', '.');
		const count = shots.length + 1;
		const file = new File([still], `Camera ${stamp} (${count}).jpg`, { type: still.type || 'image/jpeg' });
		const replaces = again !== null ? `key:${again}` : (pageToReplace ?? undefined);
		const [key] = uploads.add([file], {
			...(after !== undefined && { after }),
			...(replaces && { replaces })
		});
		const shot = { key: key!, picture: URL.createObjectURL(still) };
		const old = shots.findIndex((s) => s.key === again);
		shots = old < 0 ? [...shots, shot] : shots.with(old, shot);
		again = null;
		pageToReplace = null;
	}

	async function torch(): Promise<void> {
		lightOn = !lightOn;
		await camera?.torch?.(lightOn).catch(() => (lightOn = false));
	}

	function key(event: KeyboardEvent): void {
		const target = event.target as HTMLElement;
		if (event.key !== ' ' || target.matches('button, select, input')) return;
		event.preventDefault();
		void take();
	}
</script>

<dialog bind:this={dialog} aria-label="Camera" onclose={() => onclose()} onkeydown={key} data-rate={rate}>
	<div class="stage">
		<video bind:this={video} playsinline muted hidden={problem !== null}></video>
		{#if camera && video && !problem}
			<LiveSheet {video} {seen} />
			{#key flash}
				{#if flash > 0}<div class="flash" aria-hidden="true"></div>{/if}
			{/key}
		{/if}
		{#if problem}
			<div class="problem" role="alert">
				<h2>{problem.reason === 'missing' ? 'No camera here' : 'The camera cannot be used'}</h2>
				<p>{problem.message}</p>
				<p>
					You can go on without it: photograph with the phone’s own camera and bring in the pictures as files.
				</p>
				<div class="row">
					<button class="quiet" onclick={() => dialog?.close()}>Go on with files</button>
					<button class="quiet" onclick={() => open(chosen)}>Try again</button>
					{#if standIn}<button class="quiet" onclick={() => open(STAND_IN)}>Use the stand-in camera</button
						>{/if}
				</div>
			</div>
		{/if}
	</div>
	<div class="side">
		<div class="words" class:ready={seen && !seen.obstacle}>
			<p class="large">{problem ? '' : words}</p>
			<div class="wait" aria-hidden="true">
				<div style:width="{100 * (byItself ? (seen?.steady ?? 0) : 0)}%"></div>
			</div>
		</div>
		<Shots {shots} {again} lines={uploads.lines} onagain={(shot) => (again = again === shot ? null : shot)} />
		<div class="controls">
			<div class="settings">
				<label><input type="checkbox" bind:checked={byItself} /> Take by itself when steady</label>
				{#if choices.length + (standIn ? 1 : 0) > 1}
					<label>
						<span class="out-of-sight">Camera</span>
						<select value={chosen} onchange={(e) => open(e.currentTarget.value)}>
							{#each choices as choice (choice.id)}<option value={choice.id}>{choice.label}</option>{/each}
							{#if standIn}<option value={STAND_IN}>Stand-in camera</option>{/if}
						</select>
					</label>
				{/if}
				{#if camera?.torch}
					<button class="quiet" aria-pressed={lightOn} onclick={torch}>Lamp</button>
				{/if}
			</div>
			<div class="row">
				<button class="take" disabled={!camera || taking || problem !== null} onclick={take}>Take it</button>
				<button class="quiet done" onclick={() => dialog?.close()}>
					{shots.length === 0 ? 'Back' : `Done, ${shots.length} ${shots.length === 1 ? 'page' : 'pages'}`}
				</button>
			</div>
		</div>
	</div>
	<p class="out-of-sight" aria-live="polite">{said}</p>
</dialog>

<style>
	dialog {
		display: grid;
		grid-template: minmax(0, 1fr) / minmax(0, 1fr) 24rem;
		width: 100vw;
		height: 100dvh;
		max-width: none;
		max-height: none;
		margin: 0;
		padding: 0;
		border: 0;
		background: #1b1329;
		color: #f7f5f0;
	}
	.stage {
		position: relative;
		display: grid;
		place-items: center;
		min-height: 0;
		min-width: 0;
		overflow: hidden;
	}
	video {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
		object-fit: contain;
	}
	.flash {
		position: absolute;
		inset: 0;
		background: #fff;
		opacity: 0;
		animation: flash 0.25s ease-out;
		pointer-events: none;
	}
	@keyframes flash {
		from {
			opacity: 0.75;
		}
	}
	.problem {
		max-width: 28rem;
		padding: 2rem;
		display: grid;
		gap: 1rem;
	}
	.side {
		display: grid;
		grid-template-rows: auto minmax(0, 1fr) auto;
		gap: 1.25rem;
		padding: 1.5rem;
		background: var(--bar);
		min-height: 0;
	}
	.large {
		min-height: 2.6em;
		font-size: 1.75rem;
		line-height: 1.3;
	}
	.wait {
		height: 6px;
		background: #453760;
	}
	.wait div {
		height: 100%;
		background: #b79be0;
	}
	.ready .large {
		color: #d9ecc0;
	}
	.controls,
	.settings {
		display: grid;
		gap: 0.75rem;
	}
	.settings {
		font-size: 0.9375rem;
	}
	.settings input {
		accent-color: #b79be0;
		width: 1.125rem;
		height: 1.125rem;
		vertical-align: -0.2rem;
	}
	select {
		width: 100%;
		padding: 0.5rem;
		border: 1px solid #7c6d96;
		background: var(--bar);
		color: inherit;
		font: inherit;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 0.75rem;
	}
	.take {
		flex: 1;
		min-height: 3.5rem;
		padding: 0 1.5rem;
		border: 0;
		background: var(--fill);
		color: #fff;
		font: inherit;
		font-size: 1.125rem;
		font-weight: 600;
		cursor: pointer;
	}
	.take:disabled {
		background: #453760;
		color: #a99fb8;
		cursor: default;
	}
	.done {
		min-height: 3.5rem;
		font-size: 1rem;
	}
	dialog :global(:focus-visible) {
		outline-color: #d9c8f5;
	}
	@media (max-width: 800px) {
		dialog {
			grid-template: minmax(0, 1fr) auto / minmax(0, 1fr);
		}
		.side {
			gap: 0.625rem;
			padding: 0.75rem;
			grid-template-rows: auto auto auto;
		}
		.large {
			min-height: 1.3em;
			font-size: 1.375rem;
		}
		.settings {
			grid-auto-flow: column;
			align-items: center;
		}
	}
</style>
