import type { Plane } from '../raster/picture';
import { removeSpecks } from '../tone/specks';

/** Writing told from paper and from ruling. */
export interface WritingMask {
	readonly width: number;
	readonly height: number;
	/** 1 where there is writing. */
	readonly data: Uint8Array;
	/** Fraction of the page that is writing. */
	readonly coverage: number;
}

/** Runs longer than this fraction of the page are ruling, margins and table lines, not strokes. */
const RULING = 0.07;
const GAP = 3;

/**
 * Finds the writing on an evenly lit page at about 100 dots an inch: pixels clearly darker than the
 * paper's own noise, less long straight lines, less specks.
 *
 * @param noise see paperNoise
 */
export function writingMask(grey: Plane, noise: number): WritingMask {
	const { width, height, data } = grey;
	const limit = 252 - Math.max(16, 5 * noise);
	const dark = new Uint8Array(data.length);
	for (let i = 0; i < dark.length; i++) dark[i] = data[i]! < limit ? 1 : 0;
	clearRim(dark, width, height);
	const mask = dark.slice();
	eraseRuns(dark, mask, width, height, false);
	eraseRuns(dark, mask, width, height, true);
	removeSpecks(mask, grey, 6);
	let count = 0;
	for (let i = 0; i < mask.length; i++) count += mask[i]!;
	return { width, height, data: mask, coverage: count / mask.length };
}

/** The paper's own edge and what lies beyond it show along the rim of the best outline. */
const RIM = 0.012;

function clearRim(mask: Uint8Array, width: number, height: number): void {
	const rim = Math.ceil(RIM * Math.min(width, height));
	mask.fill(0, 0, rim * width);
	mask.fill(0, (height - rim) * width);
	for (let y = rim; y < height - rim; y++) {
		mask.fill(0, y * width, y * width + rim);
		mask.fill(0, (y + 1) * width - rim, (y + 1) * width);
	}
}

/** Clears from `mask` the parts of long runs of `dark` that no stroke crosses. */
function eraseRuns(dark: Uint8Array, mask: Uint8Array, width: number, height: number, down: boolean): void {
	const outer = down ? width : height;
	const inner = down ? height : width;
	const step = down ? width : 1;
	const across = down ? 1 : width;
	const least = Math.round(inner * RULING);
	// A line that leans a little leaves its row: runs are followed on the row and its neighbours.
	for (let o = 1; o < outer - 1; o++) {
		const base = o * across;
		let start = -1;
		let last = -1;
		for (let i = 0; i <= inner; i++) {
			const p = base + i * step;
			const on = i < inner && (dark[p]! || dark[p - across]! || dark[p + across]!);
			if (on) {
				if (start < 0) start = i;
				last = i;
			} else if (start >= 0 && (i - last > GAP || i === inner)) {
				if (last - start >= least) {
					for (let k = start; k <= last; k++) {
						const q = base + k * step;
						const beyond = Math.min(o, 4) * across;
						const before = dark[q - beyond] ?? 0;
						const after = dark[q + 4 * across] ?? 0;
						if (!(before || after)) mask[q] = 0;
					}
				}
				start = -1;
			}
		}
	}
}
