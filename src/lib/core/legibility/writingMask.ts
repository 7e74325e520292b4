import type { Plane } from '../raster/picture';
import { dropFaint } from '../tone/dropFaint';
import { removeSpecks } from '../tone/specks';

/** Writing told from paper and from ruling. */
export interface WritingMask {
	readonly width: number;
	readonly height: number;
	/** 1 where there is writing. */
	readonly data: Uint8Array;
	/** Fraction of the page that is writing. */
	readonly coverage: number;
	/** How far ruling stands out from the paper, in grey levels; 0 where there is next to none. */
	readonly ruling: number;
	/** Share of the marks that were too faint beside the others to be the page's own writing. */
	readonly faint: number;
}

/** Runs longer than this fraction of the page are ruling, margins and table lines, not strokes. */
const RULING = 0.07;
const GAP = 3;
/** Less of the page than this under long lines is a table or an underlining. */
const LEAST_RULED = 0.01;
/** Grey levels below white, and deviations of the paper's noise, from which on a pixel counts as dark. */
const LEAST_DARK = 6;
const DARK_DEVIATIONS = 5;

/**
 * Finds the writing on an evenly lit page at about 100 dots an inch: pixels clearly darker than the
 * paper's own noise, less long straight lines, less specks.
 *
 * @param noise see paperNoise
 */
export function writingMask(grey: Plane, noise: number): WritingMask {
	const { width, height, data } = grey;
	const limit = 252 - Math.max(LEAST_DARK, DARK_DEVIATIONS * noise);
	const dark = new Uint8Array(data.length);
	// A thin line fades in and out as it crosses the pixel grid: it is followed at a lower contrast.
	const faintLimit = 252 - Math.max(6, 2.5 * noise);
	const followed = new Uint8Array(data.length);
	for (let i = 0; i < dark.length; i++) {
		dark[i] = data[i]! < limit ? 1 : 0;
		followed[i] = data[i]! < faintLimit ? 1 : 0;
	}
	clearRim(dark, width, height);
	const { mask, ruling } = withoutRuling(grey, dark, followed);
	const marked = total(mask);
	dropFaint(mask, grey, 2);
	const faint = marked > 0 ? 1 - total(mask) / marked : 0;
	removeSpecks(mask, grey, 6);
	return { width, height, data: mask, coverage: total(mask) / mask.length, ruling, faint };
}

function total(mask: Uint8Array): number {
	let sum = 0;
	for (let i = 0; i < mask.length; i++) sum += mask[i]!;
	return sum;
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

/** How far beyond a line a stroke that crosses it must show, in pixels. */
const BEYOND = 4;

/** `dark` without its long straight lines, but with the strokes that cross them. */
function withoutRuling({ width, height, data }: Plane, dark: Uint8Array, faint: Uint8Array) {
	const across = longRuns(faint, width, height, false);
	const down = longRuns(faint, width, height, true);
	const mask = dark.slice();
	let ruled = 0;
	let darkness = 0;
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const i = y * width + x;
			if (!(across[i] || down[i])) continue;
			ruled++;
			darkness += 255 - data[i]!;
			if (!mask[i]) continue;
			// A stroke goes on beyond the line; another line that crosses it is no stroke.
			const above = i - BEYOND * width;
			const below = i + BEYOND * width;
			const crossedDown =
				(above >= 0 && dark[above] && !down[above]) || (below < dark.length && dark[below] && !down[below]);
			const left = x >= BEYOND ? i - BEYOND : i;
			const right = x + BEYOND < width ? i + BEYOND : i;
			const crossedAcross = (dark[left] && !across[left]) || (dark[right] && !across[right]);
			if ((across[i] && !crossedDown) || (down[i] && !crossedAcross)) mask[i] = 0;
		}
	}
	return { mask, ruling: ruled > LEAST_RULED * mask.length ? darkness / ruled : 0 };
}

/** Marks the dark pixels that are part of a long straight run. */
function longRuns(dark: Uint8Array, width: number, height: number, down: boolean): Uint8Array {
	const marks = new Uint8Array(dark.length);
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
			if (i < inner && (dark[p] || dark[p - across] || dark[p + across])) {
				if (start < 0) start = i;
				last = i;
			} else if (start >= 0 && (i - last > GAP || i === inner)) {
				if (last - start >= least) for (let k = start; k <= last; k++) marks[base + k * step] = 1;
				start = -1;
			}
		}
	}
	return marks;
}
