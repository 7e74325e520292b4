import type { WritingMask } from '../legibility/writingMask';
import { inkRuns } from '../raster/inkRuns';

const COLUMNS = 84;
const ROWS = 48;
/** Cells to each side over which the layout of a line is averaged away. */
const LINE_PART = 5;

/**
 * A small map of where the writing is on an upright page, 84 x 48 cells of 4 bits as hexadecimal
 * digits, row by row. Two pictures of the same page have nearly the same map; two pages of one hand
 * do not, because words and gaps fall differently. The empty string stands for a blank page.
 */
export function fingerprint(mask: WritingMask): string {
	const { width, height, data } = mask;
	const cells = new Float64Array(COLUMNS * ROWS);
	const columnOf = Uint8Array.from({ length: width }, (_, x) => (x * COLUMNS) / width);
	const runs = inkRuns(data, width, height);
	for (let r = 0; r < runs.length; r += 2) {
		const y = Math.floor(runs[r]! / width);
		const row = Math.floor((y * ROWS) / height) * COLUMNS;
		for (let x = runs[r]! - y * width, end = runs[r + 1]! - y * width; x < end; x++)
			cells[row + columnOf[x]!]!++;
	}
	const sorted = [...cells].sort((a, b) => a - b);
	const full = sorted[Math.floor(sorted.length * 0.95)]!;
	if (full === 0 && sorted[sorted.length - 1]! < 12) return '';
	const scale = 15 / Math.max(full, 1);
	return [...cells].map((c) => Math.min(15, Math.round(c * scale)).toString(16)).join('');
}

/**
 * Likeness of two fingerprints, -1 to 1: the best correlation over shifts of up to two cells each
 * way, since two photographs of one page are never cropped quite alike. 0 where either is blank.
 */
export function likeness(a: string, b: string): number {
	if (a.length !== COLUMNS * ROWS || b.length !== COLUMNS * ROWS) return 0;
	const known = remembered.get(a)?.get(b) ?? remembered.get(b)?.get(a);
	if (known !== undefined) return known;
	const x = wordPattern(a);
	const y = wordPattern(b);
	let best = -1;
	const look = (step: number, from: number) => {
		for (let dy = -from; dy <= from; dy += step) {
			for (let dx = -from; dx <= from; dx += step) best = Math.max(best, correlation(x, y, dx, dy));
		}
	};
	look(2, 2);
	// Only pages that are alike already can become more so in between.
	if (best > WORTH_A_CLOSER_LOOK) look(1, 2);
	remember(a, b, best);
	return best;
}

const WORTH_A_CLOSER_LOOK = 0.2;

/** Pages are compared again and again while a packet is worked on. */
const remembered = new Map<string, Map<string, number>>();
const MOST_REMEMBERED = 400;

function remember(a: string, b: string, value: number): void {
	if (remembered.size > MOST_REMEMBERED) remembered.clear();
	let row = remembered.get(a);
	if (!row) remembered.set(a, (row = new Map()));
	row.set(b, value);
}

/**
 * What is left of a fingerprint when the layout is taken away: two pages of one hand have the same margins
 * and line spacing, but their words and gaps fall differently within the lines.
 */
function wordPattern(fingerprint: string): Float64Array {
	const cells = Float64Array.from(fingerprint, (d) => parseInt(d, 16));
	const pattern = new Float64Array(cells.length);
	for (let y = 0; y < ROWS; y++) {
		for (let x = 0; x < COLUMNS; x++) {
			let sum = 0;
			let n = 0;
			for (let k = Math.max(0, x - LINE_PART); k <= Math.min(COLUMNS - 1, x + LINE_PART); k++, n++) {
				sum += cells[y * COLUMNS + k]!;
			}
			pattern[y * COLUMNS + x] = cells[y * COLUMNS + x]! - sum / n;
		}
	}
	return pattern;
}

/** Pages at least this alike carry the same writing. */
export const SAME_PAGE = 0.55;

function correlation(a: Float64Array, b: Float64Array, dx: number, dy: number): number {
	let n = 0;
	let sa = 0;
	let sb = 0;
	let saa = 0;
	let sbb = 0;
	let sab = 0;
	for (let y = Math.max(0, -dy); y < Math.min(ROWS, ROWS - dy); y++) {
		for (let x = Math.max(0, -dx); x < Math.min(COLUMNS, COLUMNS - dx); x++) {
			const u = a[y * COLUMNS + x]!;
			const v = b[(y + dy) * COLUMNS + x + dx]!;
			n++;
			sa += u;
			sb += v;
			saa += u * u;
			sbb += v * v;
			sab += u * v;
		}
	}
	const va = saa - (sa * sa) / n;
	const vb = sbb - (sb * sb) / n;
	return va > 0 && vb > 0 ? (sab - (sa * sb) / n) / Math.sqrt(va * vb) : 0;
}
