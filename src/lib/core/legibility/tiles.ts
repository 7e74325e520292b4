import { withKernels, type Kernels } from '../kernels/kernels';
import { gaussianBlur } from '../raster/boxBlur';
import { toFloat } from '../raster/floatPlane';
import { halve } from '../raster/halve';
import { percentile } from '../raster/percentile';
import type { FloatPlane, Picture, Plane } from '../raster/picture';
import { PROFILE_ROWS } from './legibility';
import { isKept } from '../tone/strokesKept';
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

/** Where in the list of tiles each column, and each row's first tile, of a page at half its size lies. */
function tilesAtHalf(
	{ width, height }: Plane,
	writing: WritingMask
): { columnOf: Uint8Array; rowOf: Uint16Array } {
	return {
		columnOf: Uint8Array.from({ length: writing.width }, (_, x) =>
			Math.min(TILE_COLUMNS - 1, Math.floor((2 * x * TILE_COLUMNS) / width))
		),
		rowOf: Uint16Array.from(
			{ length: writing.height },
			(_, y) => Math.min(PROFILE_ROWS - 1, Math.floor((2 * y * PROFILE_ROWS) / height)) * TILE_COLUMNS
		)
	};
}

/** Of each tile, the share of its writing that is still there in black and white; 1 where there is none. */
export function keptInTiles(grey: Plane, writing: WritingMask, binary: Plane): Float64Array {
	const { columnOf, rowOf } = tilesAtHalf(grey, writing);
	const all = new Uint32Array(TILES);
	const kept = new Uint32Array(TILES);
	for (let y = 1; y < writing.height - 1; y++) {
		for (let x = 1; x < writing.width - 1; x++) {
			if (!writing.data[y * writing.width + x]) continue;
			const t = rowOf[y]! + columnOf[x]!;
			all[t]!++;
			if (isKept(binary, x, y)) kept[t]!++;
		}
	}
	return Float64Array.from(all, (n, t) => (n > 0 ? kept[t]! / n : 1));
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
	const spacing = (8 / 25.4) * dotsPerInch;
	const { columnOf, rowOf } = tilesAtHalf(grey, writing);
	// The coarse scale is many pixels wide: half the resolution holds all of it.
	const coarse = gaussianBlur(toFloat(halve(grey)), spacing / 24);
	const page = { grey, coarse, writing, reach: Math.max(1, Math.round(spacing / 48)), columnOf, rowOf };
	const sums = withKernels(
		(kernels) => sumsFast(kernels, page),
		() => sumsPlain(page)
	);
	const noiseEnergy = 4 * 2 * noise ** 2;
	const ink = new Float64Array(TILES);
	const sharpness = new Float64Array(TILES);
	const evenness = new Float64Array(TILES);
	const contrast = new Float64Array(TILES);
	for (let t = 0; t < TILES; t++) {
		const [n, darkness, xx, xy, yy, cxx, cxy, cyy] = sums.subarray(
			t * NUMBERS,
			(t + 1) * NUMBERS
		) as unknown as Sums;
		ink[t] = n;
		if (n === 0) continue;
		const strokes: Symmetric = [xx / n - noiseEnergy, xy / n, yy / n - noiseEnergy];
		const [least] = extremeRatios(strokes, [cxx / n + 1, cxy / n, cyy / n + 1]);
		sharpness[t] = Math.sqrt(least) / 4;
		const [weakest, strongest] = extremeRatios(strokes, [1, 0, 1]);
		evenness[t] = strongest > 0 ? Math.sqrt(weakest / strongest) : 0;
		contrast[t] = darkness / n / 255;
	}
	return { ink, sharpness, evenness, contrast };
}

/** What is added up on the writing of a tile: pixels, darkness, and the tensors of the fine and the coarse gradient. */
type Sums = readonly [
	ink: number,
	darkness: number,
	xx: number,
	xy: number,
	yy: number,
	coarseXX: number,
	coarseXY: number,
	coarseYY: number
];
const NUMBERS = 8;

interface TiledPage {
	readonly grey: Plane;
	readonly coarse: FloatPlane;
	readonly writing: WritingMask;
	/** How far apart the samples of the coarse gradient are, in pixels at half size. */
	readonly reach: number;
	/** Column of tiles of each column of the writing, and first tile of each of its rows. */
	readonly columnOf: Uint8Array;
	readonly rowOf: Uint16Array;
}

function sumsFast(
	kernels: Kernels,
	{ grey, coarse, writing, reach, columnOf, rowOf }: TiledPage
): Float64Array {
	const mask = kernels.put(writing.data);
	const blurred = kernels.put(coarse.data);
	const data = kernels.put(grey.data);
	const [columns, rows] = [kernels.put(columnOf), kernels.put(rowOf)];
	const tiles = kernels.cleared(TILES * NUMBERS * 8);
	kernels.run.measureTiles(
		mask,
		writing.width,
		writing.height,
		blurred,
		coarse.width,
		data,
		grey.width,
		reach,
		columns!,
		rows!,
		tiles
	);
	return kernels.doubles(tiles, TILES * NUMBERS).slice();
}

function sumsPlain({ grey, coarse, writing, reach, columnOf, rowOf }: TiledPage): Float64Array {
	const { width, data } = grey;
	const blurred = coarse.data;
	const sums = new Float64Array(TILES * NUMBERS);
	for (let my = reach; my < writing.height - reach; my++) {
		for (let mx = reach; mx < writing.width - reach; mx++) {
			if (!writing.data[my * writing.width + mx]) continue;
			const s = (rowOf[my]! + columnOf[mx]!) * NUMBERS;
			const c = my * coarse.width + mx;
			const cx = (blurred[c + reach]! - blurred[c - reach]!) / reach;
			const cy = (blurred[c + reach * coarse.width]! - blurred[c - reach * coarse.width]!) / reach;
			let darkest = 255;
			for (let k = 0; k < 4; k++) {
				const i = (2 * my + (k >> 1)) * width + 2 * mx + (k & 1);
				const fx = data[i + 1]! - data[i - 1]!;
				const fy = data[i + width]! - data[i - width]!;
				sums[s + 2]! += fx * fx;
				sums[s + 3]! += fx * fy;
				sums[s + 4]! += fy * fy;
				darkest = Math.min(darkest, data[i]!);
			}
			sums[s]!++;
			sums[s + 1]! += 255 - darkest;
			sums[s + 5]! += cx * cx;
			sums[s + 6]! += cx * cy;
			sums[s + 7]! += cy * cy;
		}
	}
	return sums;
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

/** Levels from which on light has clipped. */
const CLIPPED = 254;
/** Paper of this level and more is white: where it clips, nothing was burnt out of it. */
const WHITE = 238;
/** Paper is as bright as this share of a tile's samples are at most, and the page's as this share of its tiles. */
const PAPER_IN_TILE = 0.9;
const PAPER_ON_PAGE = 0.55;

/**
 * Fraction of each tile where the light clipped before it was evened out. A lamp burns out what is brighter than the
 * paper: where the paper itself is white, as in a scan, or only black and white are told apart, there is no glare.
 *
 * @param flat before even light
 */
export function glareOf({ width, height, channels, data }: Picture): Float64Array {
	const levels = new Uint16Array(TILES * 256);
	const count = new Float64Array(TILES);
	for (let y = 0; y < height; y += 5) {
		const row = Math.min(PROFILE_ROWS - 1, Math.floor((y * PROFILE_ROWS) / height)) * TILE_COLUMNS;
		for (let x = 0; x < width; x += 3) {
			const t = row + Math.min(TILE_COLUMNS - 1, Math.floor((x * TILE_COLUMNS) / width));
			levels[t * 256 + data[(y * width + x) * channels + 1]!]!++;
			count[t]!++;
		}
	}
	const papers = Float64Array.from(count, (_, t) =>
		percentile(Uint32Array.from(levels.subarray(t * 256, (t + 1) * 256)), PAPER_IN_TILE)
	).sort();
	if (papers[Math.floor(PAPER_ON_PAGE * TILES)]! >= WHITE) return new Float64Array(TILES);
	return count.map((all, t) => {
		let burnt = 0;
		for (let level = CLIPPED; level < 256; level++) burnt += levels[t * 256 + level]!;
		return burnt / Math.max(1, all);
	});
}

/** The light on each tile as a share of the light on the brighter part of the page. */
export function lightOf({ width, height, data }: FloatPlane): Float64Array {
	const levels = new Uint32Array(256);
	for (let i = 0; i < data.length; i++) levels[data[i]! | 0]!++;
	const bright = percentile(levels, 0.8) + 0.5;
	return Float64Array.from({ length: TILES }, (_, t) => {
		const x = Math.floor((((t % TILE_COLUMNS) + 0.5) * width) / TILE_COLUMNS);
		const y = Math.floor(((Math.floor(t / TILE_COLUMNS) + 0.5) * height) / PROFILE_ROWS);
		return data[y * width + x]! / Math.max(1, bright);
	});
}
