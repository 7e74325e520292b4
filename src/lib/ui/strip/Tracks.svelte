<script lang="ts">
	import { scaleLinear } from 'd3-scale';
	import { area, curveMonotoneX } from 'd3-shape';
	import { CLEAR, UNREADABLE } from '$lib/core/legibility/legibility';
	import { stretchesOf } from '$lib/core/mapping/stretches';
	import { answerables } from '$lib/core/assignment/question';
	import { usePacket } from '../packet/context';
	import { questionColours } from '../theme/questionColours';

	// The tracks run as one reads: within a page's column, left to right is top to bottom of the page.
	interface Props {
		column: number;
		/** The pages that are drawn, as places on the strip. */
		from: number;
		to: number;
		/** Half as high. */
		low?: boolean;
	}
	let { column, from, to, low = false }: Props = $props();
	const store = usePacket();

	const uid = $props.id();
	const LEGIBLE = $derived(low ? 18 : 34);
	const QUESTIONS = $derived(low ? 18 : 26);
	const GAP = $derived(low ? 3 : 6);
	const height = $derived(LEGIBLE + GAP + QUESTIONS + 2);

	const width = $derived(column * Math.max(to - from, 1));
	const drawn = $derived(store.packet.strip.slice(from, to));
	const colour = $derived(questionColours(answerables(store.sheet.questions).map((q) => q.id)));
	const level = $derived(scaleLinear([0, 1], [LEGIBLE, 3]));
	const bar = $derived(level(store.sheet.legibility === 'clear' ? CLEAR : UNREADABLE));

	/** One run of points for each unbroken piece of writing. */
	function profileRuns(profile: readonly number[]): [number, number][][] {
		const runs: [number, number][][] = [[]];
		profile.forEach((score, i) => {
			if (score < 0) {
				if (runs.at(-1)!.length > 0) runs.push([]);
				return;
			}
			const run = runs.at(-1)!;
			if (run.length === 0) run.push([i / profile.length, score]);
			run.push([(i + 1) / profile.length, score]);
		});
		return runs.filter((run) => run.length > 0);
	}
	const shape = $derived(
		area<[number, number]>()
			.x(([x]) => x * column)
			.y0(LEGIBLE)
			.y1(([, score]) => level(score))
			.curve(curveMonotoneX)
	);

	/** About the width of a letter of a label, and what is left free on both sides; pixels. */
	const LETTER = 8;
	const BESIDE = 9;
	/** As much of a band's label as has room: with the mark of a proposal, without it, or nothing. */
	function labelled(label: string, width: number, proposed: boolean) {
		const fits = (words: string) => words.length * LETTER + BESIDE <= width;
		const words = [proposed ? `${label} ?` : label, label].find((w) => w !== '' && fits(w)) ?? '';
		return { words, proposed, name: label };
	}

	const proposals = $derived(new Set(store.proposedSeams.map((s) => s.id)));
	const bands = $derived(
		stretchesOf(store.mapped).flatMap((stretch, s) => {
			const first = stretch.pieces[0]!;
			const last = stretch.pieces.at(-1)!;
			const left = (first.position - 1 + first.top) * column;
			const right = (last.position - 1 + last.bottom) * column;
			const id = stretch.questions[0];
			return [
				{
					key: stretch.seam?.id ?? `before-${s}`,
					from: left,
					width: Math.max(0, right - left - 2),
					...labelled(
						stretch.questions.join(', ') || (stretch.seam ? 'not an answer' : ''),
						Math.max(0, right - left - 2),
						stretch.seam !== null && proposals.has(stretch.seam.id)
					),
					fill: id ? colour(id) : null
				}
			];
		})
	);
</script>

<svg
	{width}
	{height}
	viewBox="{from * column} 0 {width} {height}"
	style:margin-left="{from * column}px"
	role="img"
	aria-label="Legibility and questions along the pages"
>
	<defs>
		<pattern
			id="hatch-{uid}"
			width="7"
			height="7"
			patternUnits="userSpaceOnUse"
			patternTransform="rotate(45)"
		>
			<rect width="3.5" height="7" fill="#fffefb" fill-opacity="0.42" />
		</pattern>
	</defs>
	<g>
		{#each drawn as page, k (page)}
			{@const i = from + k}
			{@const facts = store.view.pages[page]?.prepared}
			<g transform="translate({i * column} 0)">
				<rect width={column - 1} height={LEGIBLE} fill="var(--hover)" />
				{#if facts && !facts.blank}
					{#each profileRuns(facts.legibility.profile) as run, r (r)}
						<path d={shape(run)} class={facts.legibility.verdict} />
					{/each}
				{:else if facts}
					<text x={column / 2} y={LEGIBLE / 2 + 4} text-anchor="middle">blank</text>
				{/if}
			</g>
		{/each}
		<line class="bar" x1={from * column} x2={to * column} y1={bar} y2={bar} />
	</g>
	<g transform="translate(0 {LEGIBLE + GAP})">
		{#each bands.filter((b) => b.from < to * column && b.from + b.width > from * column) as band (band.key)}
			<g transform="translate({band.from} 0)">
				<rect
					class:nothing={!band.fill}
					width={band.width}
					height={QUESTIONS}
					fill={band.fill ?? 'var(--hover)'}
				/>
				{#if band.proposed}<rect width={band.width} height={QUESTIONS} fill="url(#hatch-{uid})" />{/if}
				{#if band.words}
					<text class:on-paper={!band.fill} class="question" x="6" y={QUESTIONS / 2 + 5}>{band.words}</text>
				{:else if band.name}
					<title>{band.name}</title>
				{/if}
			</g>
		{/each}
	</g>
	{#each drawn as page, k (page)}
		{@const i = from + k}
		{#if i > 0}<line class="border" x1={i * column - 0.5} x2={i * column - 0.5} y1="0" y2={height} />{/if}
	{/each}
</svg>

<style>
	svg {
		display: block;
	}
	.clear {
		fill: #a9ba8d;
	}
	.doubtful {
		fill: #ddb676;
	}
	.unreadable {
		fill: #d59387;
	}
	.bar {
		stroke: var(--ink);
		stroke-width: 1;
		stroke-dasharray: 1 4;
	}
	.border {
		stroke: var(--rule);
	}
	.nothing {
		stroke: var(--rule);
	}
	text {
		fill: var(--ink-soft);
		font-size: 12px;
	}
	.question {
		fill: #fff;
		font-size: 13px;
		font-weight: 600;
	}
	.on-paper {
		fill: var(--ink-soft);
		font-weight: 400;
	}
</style>
