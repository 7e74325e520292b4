<script lang="ts">
	import { scaleBand, scaleLinear, scaleTime } from 'd3-scale';
	import { curveStepAfter, line } from 'd3-shape';
	import { legibilityByQuestion, oftenUnreadable, type BoardView } from '$lib/core/board/board';
	import { plural } from '$lib/core/rules/finding';

	let { board }: { board: BoardView } = $props();
	const WIDTH = 320;
	const HEIGHT = 96;
	const FOOT = 18;

	// When they were handed in.
	const times = $derived(
		board.students.flatMap((s) => (s.handedInAt ? [Date.parse(s.handedInAt)] : [])).sort((a, b) => a - b)
	);
	const due = $derived(board.due ? Date.parse(board.due) : null);
	const from = $derived(Math.min(times[0] ?? board.now, board.now - 3_600_000));
	const until = $derived(Math.max(board.now, due ?? 0, times.at(-1) ?? 0));
	const x = $derived(
		scaleTime()
			.domain([from, until])
			.range([4, WIDTH - 4])
	);
	const y = $derived(
		scaleLinear()
			.domain([0, Math.max(1, board.students.length)])
			.range([HEIGHT - FOOT, 6])
	);
	const steps = $derived(
		line<[number, number]>(
			([at]) => x(at),
			([, n]) => y(n)
		).curve(curveStepAfter)([
			[from, 0],
			...times.map((at, i): [number, number] => [at, i + 1]),
			[Math.min(until, board.now), times.length]
		])
	);
	const day = (at: number) => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' });

	// Pages of each packet.
	const counts = $derived.by(() => {
		const known = board.students.flatMap((s) => (s.pages > 0 ? [s.pages] : []));
		const most = Math.max(1, ...known);
		const least = Math.min(most, ...known);
		return Array.from({ length: most - least + 1 }, (_, i) => ({
			pages: least + i,
			packets: known.filter((n) => n === least + i).length
		}));
	});
	const packets = $derived(counts.reduce((sum, c) => sum + c.packets, 0));
	const across = $derived(
		scaleBand<number>()
			.domain(counts.map((c) => c.pages))
			.range([4, WIDTH - 4])
			.padding(0.25)
	);
	const up = $derived(
		scaleLinear()
			.domain([0, Math.max(1, ...counts.map((c) => c.packets))])
			.range([0, HEIGHT - FOOT - 8])
	);

	// Legibility of each question's answers.
	const legibility = $derived(legibilityByQuestion(board));
	const known = $derived(legibility.some((l) => l.clear + l.doubtful + l.unreadable > 0));
	const bad = $derived(oftenUnreadable(board));
	const columns = $derived(
		scaleBand()
			.domain(board.questions)
			.range([4, WIDTH - 4])
			.padding(0.25)
	);
	const most = $derived(Math.max(1, ...legibility.map((l) => l.clear + l.doubtful + l.unreadable)));
	const high = $derived(
		scaleLinear()
			.domain([0, most])
			.range([0, HEIGHT - FOOT - 8])
	);
	const VERDICTS = ['unreadable', 'doubtful', 'clear'] as const;
	const below = (l: (typeof legibility)[number], upTo: number) =>
		VERDICTS.slice(0, upTo).reduce((sum, v) => sum + l[v], 0);
</script>

<div class="pictures">
	<figure>
		<figcaption>Handed in <b>{times.length} of {board.students.length}</b></figcaption>
		<svg
			viewBox="0 0 {WIDTH} {HEIGHT}"
			role="img"
			aria-label="{times.length} of {board.students.length} handed in"
		>
			<line class="ground" x1="0" x2={WIDTH} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} />
			{#if due !== null}
				<line class="due" x1={x(due)} x2={x(due)} y1="2" y2={HEIGHT - FOOT} />
				<text x={Math.min(WIDTH - 26, x(due) - 3)} y="12" text-anchor="end">due</text>
			{/if}
			<path class="line" d={steps} />
			<text x="4" y={HEIGHT - 4}>{day(from)}</text>
			<text x={WIDTH - 4} y={HEIGHT - 4} text-anchor="end">{day(until)}</text>
		</svg>
	</figure>
	<figure>
		<figcaption>Pages a packet, <b>{plural(packets, 'packet')}</b></figcaption>
		<svg
			viewBox="0 0 {WIDTH} {HEIGHT}"
			role="img"
			aria-label={counts
				.map((c) => `${plural(c.packets, 'packet')} of ${plural(c.pages, 'page')}`)
				.join(', ')}
		>
			<line class="ground" x1="0" x2={WIDTH} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} />
			{#each packets > 0 ? counts : [] as { pages, packets: n } (pages)}
				<rect
					class="bar"
					x={across(pages)}
					width={Math.min(48, across.bandwidth())}
					y={HEIGHT - FOOT - up(n)}
					height={up(n)}
				/>
				<text x={across(pages)! + Math.min(48, across.bandwidth()) / 2} y={HEIGHT - 4} text-anchor="middle"
					>{pages}</text
				>
			{/each}
		</svg>
	</figure>
	<figure>
		<figcaption>
			{#if bad.length > 0}
				<b>Question {bad[0]!.question} reads badly in {bad[0]!.bad} of {bad[0]!.of}</b>{bad.length > 1
					? `, and ${plural(bad.length - 1, 'other')}`
					: ''}
			{:else}
				Legibility by question{known ? '' : ', not known yet'}
			{/if}
		</figcaption>
		<svg
			viewBox="0 0 {WIDTH} {HEIGHT}"
			role="img"
			aria-label={legibility
				.map(
					(l) =>
						`Question ${l.question}: ${l.clear} clear, ${l.doubtful} doubtful, ${l.unreadable} unreadable`
				)
				.join('; ')}
		>
			<defs>
				<pattern
					id="doubtful"
					width="5"
					height="5"
					patternUnits="userSpaceOnUse"
					patternTransform="rotate(45)"
				>
					<rect width="5" height="5" fill="var(--look-soft)" /><rect
						width="2"
						height="5"
						fill="var(--ochre-fill)"
					/>
				</pattern>
			</defs>
			<line class="ground" x1="0" x2={WIDTH} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} />
			{#each legibility as l (l.question)}
				{#each VERDICTS as verdict, i (verdict)}
					<rect
						class={verdict}
						x={columns(l.question)}
						width={columns.bandwidth()}
						y={HEIGHT - FOOT - high(below(l, i + 1))}
						height={high(l[verdict])}
					/>
				{/each}
				<text x={columns(l.question)! + columns.bandwidth() / 2} y={HEIGHT - 4} text-anchor="middle"
					>{l.question}</text
				>
			{/each}
		</svg>
	</figure>
</div>

<style>
	.pictures {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(15rem, 1fr));
		gap: 1rem;
		margin-bottom: 1.25rem;
	}
	figure {
		margin: 0;
		padding: 0.625rem 0.875rem 0.25rem;
		background: var(--white);
		border: 1px solid var(--rule);
	}
	figcaption {
		color: var(--ink-soft);
		font-size: 0.875rem;
	}
	b {
		color: var(--ink);
		font-weight: 600;
	}
	svg {
		display: block;
		width: 100%;
		height: auto;
	}
	text {
		fill: var(--ink-soft);
		font-size: 11px;
	}
	.ground {
		stroke: var(--rule);
	}
	.due {
		stroke: var(--brick);
		stroke-dasharray: 3 3;
	}
	.line {
		fill: none;
		stroke: var(--violet);
		stroke-width: 2;
	}
	.bar {
		fill: #b9a6d6;
	}
	.clear {
		fill: #b9c9a3;
	}
	.doubtful {
		fill: url(#doubtful);
	}
	.unreadable {
		fill: var(--brick);
	}
</style>
