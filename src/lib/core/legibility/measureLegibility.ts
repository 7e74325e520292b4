import { gaussianBlur } from '../raster/boxBlur';
import { toFloat } from '../raster/floatPlane';
import { halve } from '../raster/halve';
import type { Plane } from '../raster/picture';
import { PROFILE_ROWS, verdictOf, type Legibility, type LegibilityReason } from './legibility';
import type { WritingMask } from './writingMask';

export interface LegibilityInput {
	/** The page with even light, at `dotsPerInch`. */
	readonly grey: Plane;
	/** Writing on the same page at half its size. */
	readonly writing: WritingMask;
	/** Resolution of the page as it was photographed: pixels of the source in one inch of paper. */
	readonly sourceDotsPerInch: number;
	readonly dotsPerInch: number;
	/** Fraction of the page where the light clipped before it was evened out. */
	readonly glare: number;
	/** Standard deviation of bare paper, in grey levels of the evened page, before white clips. */
	readonly noise: number;
	readonly cutOff: boolean;
}

const TILE_COLUMNS = 12;
/**
 * Fine over coarse energy. On generated pages in three hands, blurred by 0, 1, 2, 3, 4.5 and 6 pixels at
 * 200 dots an inch, its median is 3.2, 1.46, 0.78, 0.56, 0.43 and 0.35: from SHARP on nothing is lost,
 * at SMEARED letters have run together. The scale between them is logarithmic.
 */
const SHARP = 1.1;
const SMEARED = 0.3;
/** Ink that takes away this share of the paper's light reads without effort. */
const FULL_CONTRAST = 0.34;
const LEAST_CONTRAST = 0.07;

/**
 * Measures how readable the writing is, tile by tile.
 *
 * Sharpness is the ratio of fine to coarse energy of the strokes (differences of Gaussians at 1/40
 * and 1/12 of the usual line spacing of 8 mm), across and down separately, the worse one counting,
 * so that motion blur cannot hide; the noise of bare paper is subtracted. Contrast is how far ink
 * stands out from the paper around it. A tile is as readable as the weaker of the two.
 */
export function measureLegibility(input: LegibilityInput): Legibility {
	const { grey, writing, dotsPerInch } = input;
	const { width, height, data } = grey;
	const tileOf = tileLookup(width, height);
	const spacing = (8 / 25.4) * dotsPerInch;
	// The coarse scale is many pixels wide: half the resolution holds all of it.
	const coarse = gaussianBlur(toFloat(halve(grey)), spacing / 24).data;
	const cw = width >> 1;
	const reach = Math.max(1, Math.round(spacing / 48));

	const rows = PROFILE_ROWS;
	const tiles = rows * TILE_COLUMNS;
	const count = new Float64Array(tiles);
	const fineAcross = new Float64Array(tiles);
	const fineDown = new Float64Array(tiles);
	const coarseAcross = new Float64Array(tiles);
	const coarseDown = new Float64Array(tiles);
	const darkness = new Float64Array(tiles);
	for (let my = reach; my < writing.height - reach; my++) {
		for (let mx = reach; mx < writing.width - reach; mx++) {
			if (!writing.data[my * writing.width + mx]) continue;
			const t = tileOf(2 * mx, 2 * my);
			count[t]!++;
			const c = my * cw + mx;
			const cx = (coarse[c + reach]! - coarse[c - reach]!) / reach;
			const cy = (coarse[c + reach * cw]! - coarse[c - reach * cw]!) / reach;
			coarseAcross[t]! += cx * cx;
			coarseDown[t]! += cy * cy;
			let darkest = 255;
			for (let k = 0; k < 4; k++) {
				const i = (2 * my + (k >> 1)) * width + 2 * mx + (k & 1);
				const fx = data[i + 1]! - data[i - 1]!;
				const fy = data[i + width]! - data[i - width]!;
				fineAcross[t]! += fx * fx;
				fineDown[t]! += fy * fy;
				darkest = Math.min(darkest, data[i]!);
			}
			darkness[t]! += 255 - darkest;
		}
	}

	const noiseEnergy = 4 * 2 * input.noise ** 2;
	const least = (0.0005 * width * height) / tiles;
	const scores = new Float64Array(tiles).fill(-1);

	let blurred = 0;
	let faint = 0;
	let weight = 0;
	let total = 0;
	for (let t = 0; t < tiles; t++) {
		const n = count[t]!;
		if (n < least) continue;
		const ratio = (fine: number, rough: number) =>
			Math.sqrt(Math.max(0, fine / n - noiseEnergy) / (rough / n + 1)) / 4;
		const sharpness = Math.min(ratio(fineAcross[t]!, coarseAcross[t]!), ratio(fineDown[t]!, coarseDown[t]!));
		const contrast = darkness[t]! / n / 255;
		const sharp = ramp(Math.log(sharpness + 1e-6), Math.log(SMEARED), Math.log(SHARP));
		const strong = ramp(contrast, LEAST_CONTRAST, FULL_CONTRAST);
		// Faint but sharp stays legible with effort: contrast alone takes a tile down to 0.35 at least
		// as long as it stands clear of the noise.
		const score = Math.min(sharp, 0.35 * Math.min(1, contrast / LEAST_CONTRAST) + 0.65 * strong);
		scores[t] = score;
		if (sharp < 0.6 && sharp <= strong) blurred += n;
		if (strong < 0.4) faint += n;
		total += score * n;
		weight += n;
	}

	if (weight === 0) {
		return { score: 1, verdict: 'clear', reasons: [], profile: new Array<number>(rows).fill(-1) };
	}
	const profile = Array.from({ length: rows }, (_, r) => {
		let s = 0;
		let n = 0;
		for (let c = 0; c < TILE_COLUMNS; c++) {
			const t = r * TILE_COLUMNS + c;
			if (scores[t]! >= 0) {
				s += scores[t]! * count[t]!;
				n += count[t]!;
			}
		}
		return n > 0 ? Math.round((1000 * s) / n) / 1000 : -1;
	});
	// A page is no better than its weak fifth lets it be.
	const mean = total / weight;
	const weak = weakPart(scores, count, 0.2);
	const resolution = ramp(input.sourceDotsPerInch, 45, 110);
	const score = Math.min(0.6 * mean + 0.4 * weak, 0.25 + 0.75 * resolution);
	const reasons: LegibilityReason[] = [];
	if (score < 0.85) {
		if (resolution < 0.6) reasons.push('low-resolution');
		else if (blurred > 0.3 * weight) reasons.push('blur');
		if (faint > 0.3 * weight) reasons.push('low-contrast');
	}
	if (input.glare > 0.01) reasons.push('glare');
	if (input.cutOff) reasons.push('cut-off');
	return { score: Math.round(score * 1000) / 1000, verdict: verdictOf(score), reasons, profile };
}

/** Which tile a pixel of the page belongs to. */
function tileLookup(width: number, height: number): (x: number, y: number) => number {
	return (x, y) =>
		Math.min(PROFILE_ROWS - 1, Math.floor((y * PROFILE_ROWS) / height)) * TILE_COLUMNS +
		Math.min(TILE_COLUMNS - 1, Math.floor((x * TILE_COLUMNS) / width));
}

function ramp(value: number, low: number, high: number): number {
	return Math.max(0, Math.min(1, (value - low) / (high - low)));
}

/** Mean score of the least readable fraction `q` of the writing. */
function weakPart(scores: Float64Array, count: Float64Array, q: number): number {
	const order = [...scores.keys()].filter((t) => scores[t]! >= 0).sort((a, b) => scores[a]! - scores[b]!);
	const all = order.reduce((s, t) => s + count[t]!, 0);
	let n = 0;
	let s = 0;
	for (const t of order) {
		s += scores[t]! * count[t]!;
		n += count[t]!;
		if (n >= q * all) break;
	}
	return n > 0 ? s / n : 1;
}
