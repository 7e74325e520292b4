import { withKernels, type Kernels } from '../kernels/kernels';
import type { Picture, Plane } from '../raster/picture';
import type { Illumination } from './illumination';

/** Bare paper comes out this bright in linear light: a little over white, so that its grain clips. */
const PAPER_WHITE = 1.06;
/** Paper darker than this holds no colour worth bringing back; limits the gain in black corners. */
const LEAST_LIGHT = 24;
/** The power law that sRGB follows for all but the darkest values (IEC 61966-2-1). */
const GAMMA = 2.2;
/** Gains are kept in steps of 1/4096. */
const UNIT = 12;

export interface EvenPage extends Picture {
	readonly data: Uint8Array;
	/** The luma of the page, which falls out by the way. */
	readonly grey: Plane;
}

/**
 * Divides the lighting out of a page, for each channel on its own, so that shadows and colour casts go and
 * the ink keeps its colour. The division is one of light: under a power law it is a multiplication of the
 * encoded values by the power of the gain. Returns a new RGB picture of the same size.
 *
 * @param white what bare paper becomes, in linear light
 */
export function evenLight(page: Picture, light: Illumination, white = PAPER_WHITE): EvenPage {
	const { width, height } = page;
	const { rgb, grey } = evened(page, light, white, true);
	return { width, height, channels: 3, data: rgb!, grey: { width, height, data: grey } };
}

/** The luma alone of the page with even light. */
export function evenGrey(page: Picture, light: Illumination, white = PAPER_WHITE): Plane {
	const { width, height } = page;
	return { width, height, data: evened(page, light, white, false).grey };
}

/** Gains of the three channels, `columns x rows` each, all in one array. */
interface Gains {
	readonly columns: number;
	readonly rows: number;
	readonly data: Float32Array;
}

interface Evened {
	readonly rgb: Uint8Array | null;
	readonly grey: Uint8Array;
}

function evened(page: Picture, light: Illumination, white: number, wantsColour: boolean): Evened {
	const { width: columns, height: rows } = light.red;
	const data = new Float32Array(3 * columns * rows);
	const paper = 255 * white ** (1 / GAMMA) * (1 << UNIT);
	[light.red, light.green, light.blue].forEach((plane, c) => {
		for (let i = 0; i < columns * rows; i++) {
			data[c * columns * rows + i] = paper / Math.max(LEAST_LIGHT, plane.data[i]!);
		}
	});
	const gains = { columns, rows, data };
	return withKernels(
		(kernels) => evenedFast(kernels, page, gains, wantsColour),
		() => evenedPlain(page, gains, wantsColour)
	);
}

function evenedFast(
	kernels: Kernels,
	{ width, height, channels, data }: Picture,
	{ columns, rows, data: gains }: Gains,
	wantsColour: boolean
): Evened {
	const source = kernels.put(data);
	const map = kernels.put(gains);
	const rgb = wantsColour ? kernels.room(3 * width * height) : 0;
	const grey = kernels.room(width * height);
	const scratch = kernels.room(10 * (columns + 4) * 4);
	kernels.run.evenLight(source, channels, width, height, map, columns, rows, rgb, grey, scratch);
	return {
		rgb: wantsColour ? kernels.bytes(rgb, 3 * width * height) : null,
		grey: kernels.bytes(grey, width * height)
	};
}

function evenedPlain(
	{ width, height, channels, data }: Picture,
	{ columns, rows, data: gains }: Gains,
	wantsColour: boolean
): Evened {
	const plane = columns * rows;
	const red = gains.subarray(0, plane);
	const green = gains.subarray(plane, 2 * plane);
	const blue = gains.subarray(2 * plane);
	const rgb = wantsColour ? new Uint8Array(width * height * 3) : null;
	const grey = new Uint8Array(width * height);
	const rowRed = new Float32Array(columns);
	const rowGreen = new Float32Array(columns);
	const rowBlue = new Float32Array(columns);
	const block = width / columns;
	const perPixel = 1 / block;
	for (let y = 0; y < height; y++) {
		interpolateRow(red, rowRed, y, height, rows);
		interpolateRow(green, rowGreen, y, height, rows);
		interpolateRow(blue, rowBlue, y, height, rows);
		let p = y * width * channels;
		let o = y * width;
		let q = o * 3;
		// From the middle of one block to the middle of the next, gains run in straight lines.
		for (let b = -1; b < columns; b++) {
			const from = b < 0 ? 0 : Math.ceil((b + 0.5) * block - 0.5);
			const to = b === columns - 1 ? width : Math.ceil((b + 1.5) * block - 0.5);
			const i = Math.max(b, 0);
			const j = Math.min(b + 1, columns - 1);
			const offset = from + 0.5 - (b + 0.5) * block;
			const stepRed = ((rowRed[j]! - rowRed[i]!) * perPixel) | 0;
			const stepGreen = ((rowGreen[j]! - rowGreen[i]!) * perPixel) | 0;
			const stepBlue = ((rowBlue[j]! - rowBlue[i]!) * perPixel) | 0;
			let gainRed = (rowRed[i]! + offset * stepRed) | 0;
			let gainGreen = (rowGreen[i]! + offset * stepGreen) | 0;
			let gainBlue = (rowBlue[i]! + offset * stepBlue) | 0;
			for (let x = from; x < to; x++, p += channels, q += 3, o++) {
				let r = Math.imul(data[p]!, gainRed) >> UNIT;
				let g = Math.imul(data[p + 1]!, gainGreen) >> UNIT;
				let b = Math.imul(data[p + 2]!, gainBlue) >> UNIT;
				if (r > 255) r = 255;
				if (g > 255) g = 255;
				if (b > 255) b = 255;
				if (rgb) {
					rgb[q] = r;
					rgb[q + 1] = g;
					rgb[q + 2] = b;
				}
				grey[o] = (Math.imul(19595, r) + Math.imul(38470, g) + Math.imul(7471, b) + 32768) >> 16;
				gainRed += stepRed;
				gainGreen += stepGreen;
				gainBlue += stepBlue;
			}
		}
	}
	return { rgb, grey };
}

function interpolateRow(map: Float32Array, row: Float32Array, y: number, height: number, rows: number): void {
	const columns = row.length;
	const at = Math.min(Math.max(((y + 0.5) * rows) / height - 0.5, 0), rows - 1);
	const y0 = at | 0;
	const y1 = Math.min(y0 + 1, rows - 1);
	const f = at - y0;
	for (let x = 0; x < columns; x++) row[x] = map[y0 * columns + x]! * (1 - f) + map[y1 * columns + x]! * f;
}
