import { gaussianBlur } from '../raster/boxBlur';
import { toFloat } from '../raster/floatPlane';
import { halve } from '../raster/halve';
import type { FloatPlane, Picture, Plane } from '../raster/picture';
import { PROFILE_ROWS } from './legibility';
import type { WritingMask } from './writingMask';

export const TILE_COLUMNS = 12;
export const TILES = PROFILE_ROWS * TILE_COLUMNS;

/** What is measured on each tile of a page: `PROFILE_ROWS x TILE_COLUMNS`, row-major. */
export interface TileMeasures {
	/** Pixels of writing, at half the page's size. */
	readonly ink: Float64Array;
	/**
	 * Energy of the fine gradient over that of the coarse one, in the direction in which it is smallest, as a ratio of
	 * amplitudes. Sharp strokes have 2 and more, letters that have run together 0.3.
	 */
	readonly sharpness: Float64Array;
	/**
	 * Fine gradient in the direction in which it is weakest over that in which it is strongest, as a ratio of
	 * amplitudes: writing has about 0.7, and next to nothing along the path of a moving camera.
	 */
	readonly evenness: Float64Array;
	/** How far ink stands out from the paper, 0 to 1. */
	readonly contrast: Float64Array;
}

/**
 * Measures sharpness and contrast of the writing, tile by tile.
 *
 * Blur takes away fine detail and leaves the coarse; a moving camera does so in one direction only. So the gradients
 * of the page and of a blurred copy (Gaussian of 1/12 of the usual line spacing of 8 mm) are gathered as structure
 * tensors F and C, and the smallest ratio over all directions is the smaller eigenvalue of F against C.
 *
 * @param noise standard deviation of bare paper, in grey levels
 */
export function measureTiles(
	grey: Plane,
	writing: WritingMask,
	dotsPerInch: number,
	noise: number
): TileMeasures {
	const { width, height, data } = grey;
	const spacing = (8 / 25.4) * dotsPerInch;
	// The coarse scale is many pixels wide: half the resolution holds all of it.
	const coarse = gaussianBlur(toFloat(halve(grey)), spacing / 24).data;
	const cw = width >> 1;
	const reach = Math.max(1, Math.round(spacing / 48));
	const ink = new Float64Array(TILES);
	const darkness = new Float64Array(TILES);
	const fine = new Float64Array(3 * TILES);
	const rough = new Float64Array(3 * TILES);
	const columnOf = Uint8Array.from({ length: writing.width }, (_, x) =>
		Math.min(TILE_COLUMNS - 1, Math.floor((2 * x * TILE_COLUMNS) / width))
	);
	for (let my = reach; my < writing.height - reach; my++) {
		const row = Math.min(PROFILE_ROWS - 1, Math.floor((2 * my * PROFILE_ROWS) / height)) * TILE_COLUMNS;
		for (let mx = reach; mx < writing.width - reach; mx++) {
			if (!writing.data[my * writing.width + mx]) continue;
			const t = row + columnOf[mx]!;
			const s = 3 * t;
			ink[t]!++;
			const c = my * cw + mx;
			const cx = (coarse[c + reach]! - coarse[c - reach]!) / reach;
			const cy = (coarse[c + reach * cw]! - coarse[c - reach * cw]!) / reach;
			rough[s]! += cx * cx;
			rough[s + 1]! += cx * cy;
			rough[s + 2]! += cy * cy;
			let darkest = 255;
			for (let k = 0; k < 4; k++) {
				const i = (2 * my + (k >> 1)) * width + 2 * mx + (k & 1);
				const fx = data[i + 1]! - data[i - 1]!;
				const fy = data[i + width]! - data[i - width]!;
				fine[s]! += fx * fx;
				fine[s + 1]! += fx * fy;
				fine[s + 2]! += fy * fy;
				darkest = Math.min(darkest, data[i]!);
			}
			darkness[t]! += 255 - darkest;
		}
	}
	const noiseEnergy = 4 * 2 * noise ** 2;
	const sharpness = new Float64Array(TILES);
	const evenness = new Float64Array(TILES);
	const contrast = new Float64Array(TILES);
	for (let t = 0; t < TILES; t++) {
		const n = ink[t]!;
		if (n === 0) continue;
		const s = 3 * t;
		const strokes: Symmetric = [fine[s]! / n - noiseEnergy, fine[s + 1]! / n, fine[s + 2]! / n - noiseEnergy];
		const [least] = extremeRatios(strokes, [rough[s]! / n + 1, rough[s + 1]! / n, rough[s + 2]! / n + 1]);
		sharpness[t] = Math.sqrt(least) / 4;
		const [weakest, strongest] = extremeRatios(strokes, [1, 0, 1]);
		evenness[t] = strongest > 0 ? Math.sqrt(weakest / strongest) : 0;
		contrast[t] = darkness[t]! / n / 255;
	}
	return { ink, sharpness, evenness, contrast };
}

type Symmetric = readonly [xx: number, xy: number, yy: number];

/** The smallest and the largest `v'Fv / v'Cv` over all directions v, never below 0. */
function extremeRatios([a, b, c]: Symmetric, [p, q, r]: Symmetric): [number, number] {
	const two = p * r - q * q;
	const one = a * r + c * p - 2 * b * q;
	const zero = a * c - b * b;
	const root = Math.sqrt(Math.max(0, one * one - 4 * two * zero));
	return [Math.max(0, (one - root) / (2 * two)), Math.max(0, (one + root) / (2 * two))];
}

/** Fraction of each tile where the light clipped before it was evened out. @param flat before even light */
export function glareOf({ width, height, channels, data }: Picture): Float64Array {
	const burnt = new Float64Array(TILES);
	const count = new Float64Array(TILES);
	let sum = 0;
	let samples = 0;
	for (let y = 0; y < height; y += 5) {
		const row = Math.min(PROFILE_ROWS - 1, Math.floor((y * PROFILE_ROWS) / height)) * TILE_COLUMNS;
		for (let x = 0; x < width; x += 3) {
			const t = row + Math.min(TILE_COLUMNS - 1, Math.floor((x * TILE_COLUMNS) / width));
			const v = data[(y * width + x) * channels + 1]!;
			if (v >= 254) burnt[t]!++;
			count[t]!++;
			sum += v;
			samples++;
		}
	}
	// A scan is white all over: that is not glare.
	if (sum / samples > 235) return burnt.fill(0);
	return burnt.map((n, t) => n / Math.max(1, count[t]!));
}

/** The light on each tile as a share of the light on the brighter part of the page. */
export function lightOf({ width, height, data }: FloatPlane): Float64Array {
	const bright = Float32Array.from(data).sort()[Math.floor(data.length * 0.8)]!;
	return Float64Array.from({ length: TILES }, (_, t) => {
		const x = Math.floor((((t % TILE_COLUMNS) + 0.5) * width) / TILE_COLUMNS);
		const y = Math.floor(((Math.floor(t / TILE_COLUMNS) + 0.5) * height) / PROFILE_ROWS);
		return data[y * width + x]! / Math.max(1, bright);
	});
}
