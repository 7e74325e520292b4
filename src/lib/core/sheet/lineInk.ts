import { countInk } from '../raster/below';
import { boxBlur } from '../raster/boxBlur';
import type { Plane } from '../raster/picture';

/** Where ink lies, counted from the middle of the picture: along lines and across them. */
export interface LineInk {
	readonly along: Float32Array;
	readonly across: Float32Array;
	/** No pixel lies farther from the middle, either way. */
	readonly reach: number;
}

/** Ink in fewer pixels than this has no lines, and what is dark over more of the picture than this is no page of writing. */
const LEAST_INK = 100;
const MOST_COVERED = 0.25;
/** So many pixels of ink tell as much as all. */
const ENOUGH_INK = 60_000;
/** Ink and ruling are so many grey levels darker than their surroundings, which reach so many pixels. */
const DARKER = 14;
const SURROUNDINGS = 9;
/** The rim of a scan holds edges and shadows of the sheet, as a share of the shorter side. */
const RIM = 0.03;
/** How many times its mean the change from row to row has to be where it is greatest. */
const PEAK = 1.25;

/** 1 where a page of about 80 dots an inch is darker than its surroundings: on dark paper, too. */
export function darkerThanAround({ width, height, data }: Plane): Uint8Array {
	const around = boxBlur({ width, height, data: Float32Array.from(data) }, SURROUNDINGS).data;
	const dark = new Uint8Array(data.length);
	for (let i = 0; i < dark.length; i++) dark[i] = data[i]! < around[i]! - DARKER ? 1 : 0;
	return dark;
}

/**
 * Where the ink of a page lies.
 *
 * @param dark 1 where there is ink, `width x height`
 * @param sideways lines run down the picture
 * @param rimShare of the shorter side, left out all around
 * @returns null where too much is dark for a page
 */
export function lineInk(
	dark: Uint8Array,
	{ width, height }: Pick<Plane, 'width' | 'height'>,
	sideways: boolean,
	rimShare = RIM
): LineInk | null {
	const pixels = countInk(dark);
	if (pixels > MOST_COVERED * dark.length) return null;
	const every = Math.ceil(pixels / ENOUGH_INK);
	let met = 0;
	const rim = Math.ceil(rimShare * Math.min(width, height));
	const along: number[] = [];
	const across: number[] = [];
	for (let y = rim; y < height - rim; y++) {
		for (let x = rim; x < width - rim; x++) {
			if (!dark[y * width + x] || ++met % every > 0) continue;
			const [u, v] = [x - width / 2, y - height / 2];
			// A turn by a quarter does not change how far lines lean.
			along.push(sideways ? v : u);
			across.push(sideways ? -u : v);
		}
	}
	const reach = Math.ceil(Math.max(width, height) / 2);
	return { along: Float32Array.from(along), across: Float32Array.from(across), reach };
}

/** Angles in degrees: the farthest either way that is looked at, the first step and the last. */
export interface Angles {
	readonly most: number;
	readonly coarse: number;
	readonly fine: number;
}

/** How far ink leans, and how many times its mean the change from row to row is there. */
export interface Lean {
	readonly degrees: number;
	readonly peak: number;
}

/** The angle at which the rows of the ink differ most from each other (Postl 1986); null where none stands out. */
export function leanOf(ink: LineInk, { most, coarse, fine }: Angles): Lean | null {
	if (ink.along.length < LEAST_INK) return null;
	const tried = anglesAround(0, most, coarse).map((degrees) => ({ degrees, change: changeAt(ink, degrees) }));
	const best = tried.reduce((a, b) => (b.change > a.change ? b : a));
	const mean = tried.reduce((sum, { change }) => sum + change, 0) / tried.length;
	if (Math.abs(best.degrees) >= most || best.change < PEAK * mean) return null;
	const finer = anglesAround(best.degrees, coarse, fine);
	const changes = finer.map((degrees) => changeAt(ink, degrees));
	const degrees = Math.round(100 * finer[changes.indexOf(Math.max(...changes))]!) / 100;
	return { degrees, peak: best.change / mean };
}

function anglesAround(middle: number, reach: number, step: number): number[] {
	const steps = Math.round(reach / step);
	return Array.from({ length: 2 * steps + 1 }, (_, i) => middle + (i - steps) * step);
}

/** Sum of the squared changes from row to row when rows lean by so many degrees. */
function changeAt({ along, across, reach }: LineInk, degrees: number): number {
	const slope = Math.tan((degrees * Math.PI) / 180);
	const middle = 2 * reach + 4;
	const rows = new Float64Array(2 * middle);
	// All are positive: cutting off rounds, and is many times as fast.
	for (let i = 0; i < along.length; i++) rows[(across[i]! - slope * along[i]! + middle + 0.5) | 0]!++;
	return changeOf(rows);
}

/** Sum of the squared changes from row to row. */
export function changeOf(rows: Float64Array): number {
	// At 0 degrees rows are the picture's own and lines of pixels; smoothed, no angle is favoured for that.
	let change = 0;
	let before = 0;
	for (let r = 2; r < rows.length - 2; r++) {
		const smooth = rows[r - 2]! + 4 * rows[r - 1]! + 6 * rows[r]! + 4 * rows[r + 1]! + rows[r + 2]!;
		change += (smooth - before) ** 2;
		before = smooth;
	}
	return change;
}
