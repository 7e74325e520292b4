import type { Box } from './pieces';

/** A hole smaller than this share of all holes is a letter's. */
const LETTERS_OWN = 0.1;

/**
 * The paper that a group of ink encloses.
 *
 * @param mine 1 for the group's ink, 0 for paper, `w x h`
 * @returns the bounds of its holes but for small ones, and how much of these bounds cannot be reached from outside without
 *   crossing ink; null where nothing is enclosed
 */
export function enclosedPaper(
	mine: Uint8Array,
	w: number,
	h: number
): { readonly bounds: Box; readonly filled: number } | null {
	const [OUTSIDE, HOLE] = [2, 3];
	const seen = Uint8Array.from(mine);
	const stack = new Int32Array(w * h);
	/** Marks all paper that hangs together with a place, by its four neighbours. */
	const flood = (from: number, mark: number): { area: number; bounds: Box } => {
		let [count, area] = [0, 0];
		let [x0, y0, x1, y1] = [w, h, 0, 0];
		seen[from] = mark;
		stack[count++] = from;
		while (count > 0) {
			const i = stack[--count]!;
			const x = i % w;
			const y = (i - x) / w;
			area++;
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
		return { area, bounds: [x0, y0, x1, y1] };
	};
	for (let x = 0; x < w; x++) for (const i of [x, (h - 1) * w + x]) if (!seen[i]) flood(i, OUTSIDE);
	for (let y = 0; y < h; y++) for (const i of [y * w, y * w + w - 1]) if (!seen[i]) flood(i, OUTSIDE);
	const holes: { area: number; bounds: Box }[] = [];
	for (let i = 0; i < seen.length; i++) if (!seen[i]) holes.push(flood(i, HOLE));
	const all = holes.reduce((sum, hole) => sum + hole.area, 0);
	const large = holes.filter((hole) => hole.area >= LETTERS_OWN * all).map((hole) => hole.bounds);
	if (large.length === 0) return null;
	const bounds = large.reduce((a, b): Box => [
		Math.min(a[0], b[0]),
		Math.min(a[1], b[1]),
		Math.max(a[2], b[2]),
		Math.max(a[3], b[3])
	]);
	let filled = 0;
	for (let y = bounds[1]; y < bounds[3]; y++) {
		for (let x = bounds[0]; x < bounds[2]; x++) if (seen[y * w + x] !== OUTSIDE) filled++;
	}
	return { bounds, filled: filled / ((bounds[2] - bounds[0]) * (bounds[3] - bounds[1])) };
}
