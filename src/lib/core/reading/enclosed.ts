import type { Box } from './pieces';

/** Paper that ink encloses, and how much of its bounds cannot be reached from outside without crossing ink. */
export interface Enclosed {
	readonly bounds: Box;
	readonly filled: number;
}

/** Holes side by side this near each other, in heights of the lower one, may be parted by what stands in one frame. */
const PARTED = 1.2;
/** A gap of less than twice this, in pixels, is none. */
const BRIDGE = 1;
/** So many holes at most are parts of one: each run of them is looked at. */
const MOST_PARTS = 5;

/**
 * The paper that a group of ink encloses: each large hole, and what neighbours among them enclose together, as letters
 * that touch a frame above and below part what is in it. The widest comes first.
 *
 * @param mine 1 for the group's ink, 0 for paper, `w x h`
 * @param least height in pixels of a large hole; lower ones are letters' own
 */
export function enclosedPapers(mine: Uint8Array, w: number, h: number, least: number): Enclosed[] {
	const [OUTSIDE, HOLE] = [2, 3];
	const seen = bridged(mine, w, h);
	const stack = new Int32Array(w * h);
	/** Marks all paper that hangs together with a place, by its four neighbours. */
	const flood = (from: number, mark: number): Box => {
		let count = 0;
		let [x0, y0, x1, y1] = [w, h, 0, 0];
		seen[from] = mark;
		stack[count++] = from;
		while (count > 0) {
			const i = stack[--count]!;
			const x = i % w;
			const y = (i - x) / w;
			[x0, y0, x1, y1] = [Math.min(x0, x), Math.min(y0, y), Math.max(x1, x + 1), Math.max(y1, y + 1)];
			for (const next of [
				x > 0 ? i - 1 : i,
				x < w - 1 ? i + 1 : i,
				y > 0 ? i - w : i,
				y < h - 1 ? i + w : i
			]) {
				if (seen[next] !== 0) continue;
				seen[next] = mark;
				stack[count++] = next;
			}
		}
		return [x0, y0, x1, y1];
	};
	for (let x = 0; x < w; x++) for (const i of [x, (h - 1) * w + x]) if (!seen[i]) flood(i, OUTSIDE);
	for (let y = 0; y < h; y++) for (const i of [y * w, y * w + w - 1]) if (!seen[i]) flood(i, OUTSIDE);
	const holes: Box[] = [];
	for (let i = 0; i < seen.length; i++) {
		if (seen[i]) continue;
		const [x0, y0, x1, y1] = flood(i, HOLE);
		const bounds: Box = [x0 - BRIDGE, y0 - BRIDGE, x1 + BRIDGE, y1 + BRIDGE];
		if (bounds[3] - bounds[1] >= least) holes.push(bounds);
	}
	holes.sort((a, b) => a[0] - b[0]);
	const found = holes.flatMap((first, k): Box[] => {
		const runs: Box[] = [first];
		for (const next of holes.slice(k + 1, k + MOST_PARTS)) {
			const run = runs.at(-1)!;
			if (next[0] - run[2] > PARTED * Math.min(next[3] - next[1], run[3] - run[1])) break;
			runs.push(union(run, next));
		}
		return runs;
	});
	return found.map((bounds) => ({ bounds, filled: filledOf(bounds) })).sort((a, b) => width(b) - width(a));

	function filledOf([x0, y0, x1, y1]: Box): number {
		let filled = 0;
		for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) if (seen[y * w + x] !== OUTSIDE) filled++;
		return filled / ((x1 - x0) * (y1 - y0));
	}
}

/** Ink, thicker by what a gap may be wide. */
function bridged(mine: Uint8Array, w: number, h: number): Uint8Array {
	const thicker = Uint8Array.from(mine);
	for (let y = 0; y < h; y++) {
		for (let x = 0; x < w; x++) {
			if (!mine[y * w + x]) continue;
			for (let v = Math.max(0, y - BRIDGE); v <= Math.min(h - 1, y + BRIDGE); v++) {
				thicker.fill(1, v * w + Math.max(0, x - BRIDGE), v * w + Math.min(w, x + BRIDGE + 1));
			}
		}
	}
	return thicker;
}

const width = ({ bounds }: Enclosed) => bounds[2] - bounds[0];

function union(a: Box, b: Box): Box {
	return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[2], b[2]), Math.max(a[3], b[3])];
}
