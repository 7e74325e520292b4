import type { ReadLine } from './readLine';

/** A line's upright box: left, top, right, bottom in pixels. */
export type LineBox = readonly [number, number, number, number];

/** How the lines of a page lie. */
export interface PageLayout {
	readonly boxes: readonly LineBox[];
	/** Usual height of a line's box in pixels. */
	readonly lineHeight: number;
	/** Where most lines begin, in pixels. */
	readonly bodyLeft: number;
	/** Usual distance from one line to the next, in pixels. */
	readonly pitch: number;
	/** How surely the beginnings of lines are read, on the whole, 0 to 1; null where there is no line. */
	readonly clarity: number | null;
}

/** Shorter pieces, in line heights, do not tell where the writing begins. */
const BODY = 5;

export function pageLayout(lines: readonly ReadLine[]): PageLayout {
	const boxes = lines.map(({ box }): LineBox => {
		const [a, b, c, d] = box;
		return [
			(a[0] + d[0]) / 2,
			Math.min((a[1] + b[1]) / 2, (c[1] + d[1]) / 2),
			(b[0] + c[0]) / 2,
			Math.max((a[1] + b[1]) / 2, (c[1] + d[1]) / 2)
		];
	});
	const ofLines = boxes.filter((_, i) => lines[i]!.kind === 'line');
	const lineHeight = median(ofLines.map((b) => b[3] - b[1])) ?? 40;
	const body = ofLines.filter((b) => b[2] - b[0] >= BODY * lineHeight);
	return {
		boxes,
		lineHeight,
		bodyLeft: mode(
			(body.length > 0 ? body : ofLines).map((b) => b[0]),
			lineHeight
		),
		pitch: usualPitch(body, lineHeight),
		clarity: mean(lines.filter(({ kind }) => kind === 'line').map(({ confidence }) => confidence))
	};
}

const mean = (values: readonly number[]) =>
	values.length > 0 ? values.reduce((a, b) => a + b, 0) / values.length : null;

/** Whoever writes in the reader's letters is read more surely than this. */
const CLEAR = 0.7;

/**
 * What of a page tells whether its reader can read it at all: in tenths, how much less surely than it should, and whether
 * there is no line. In another script, in a pattern or in a picture it sees letters as well, and they are none.
 */
export function strangeness({ clarity }: PageLayout): readonly [unclear: number, noLine: number] {
	return clarity === null ? [0, 1] : [10 * Math.max(0, CLEAR - clarity), 0];
}

function usualPitch(body: readonly LineBox[], lineHeight: number): number {
	const middles = body.map((b) => (b[1] + b[3]) / 2).sort((a, b) => a - b);
	const steps = middles.slice(1).map((y, i) => y - middles[i]!);
	return median(steps.filter((s) => s > 0.6 * lineHeight && s < 2.5 * lineHeight)) ?? 1.2 * lineHeight;
}

/** The middle of the window as wide as `reach` that holds most values; 0 of none. */
function mode(values: readonly number[], reach: number): number {
	let best = 0;
	let most = 0;
	for (const value of values) {
		const near = values.filter((v) => Math.abs(v - value) <= reach / 2);
		if (near.length > most) {
			most = near.length;
			best = median(near)!;
		}
	}
	return best;
}

function median(values: readonly number[]): number | undefined {
	return [...values].sort((a, b) => a - b)[values.length >> 1];
}
