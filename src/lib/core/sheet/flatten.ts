import { withKernels, type Kernels } from '../kernels/kernels';
import type { Picture } from '../raster/picture';
import { legendre, type Bend } from './bend';
import { wholePicture, type Quadrilateral } from './geometry';
import { homography } from './homography';

type Homography = ReturnType<typeof homography>;

/** Source pixels for one of the page from which on four samples are averaged, so that thin strokes are not skipped. */
const DENSE = 2.6;

/**
 * Straightens an outline into a rectangle of `width x height` pixels. Bilinear, in steps of 1/128 pixel; where the
 * outline reaches outside the picture the result is white. Where the source holds more than 2.6 times the pixels
 * asked for, four samples are averaged for each, so that thin strokes are not skipped.
 *
 * @param bend how the lines run over the outline; they are made level
 * @returns an RGB picture
 * @throws RangeError when three corners lie on one line
 */
export function flatten(
	picture: Picture,
	corners: Quadrilateral,
	width: number,
	height: number,
	bend: Bend | null = null
): Picture & { data: Uint8Array } {
	const h = homography(wholePicture(width, height), corners);
	const area = Math.abs(
		(corners[2][0] - corners[0][0]) * (corners[3][1] - corners[1][1]) -
			(corners[3][0] - corners[1][0]) * (corners[2][1] - corners[0][1])
	);
	const isDense = area / 2 / (width * height) > DENSE;
	const samples = isDense ? 2 : 1;
	const mapping = isDense ? halfStep(h) : h;
	const bent = bend && bentColumns(bend, samples * width, samples * height);
	const page = { width, height, isDense, mapping, bent };
	const data = withKernels(
		(kernels) => flattenFast(kernels, picture, page),
		() => flattenPlain(picture, page)
	);
	return { width, height, channels: 3, data };
}

interface Page {
	readonly width: number;
	readonly height: number;
	/** Two samples for each pixel both ways. */
	readonly isDense: boolean;
	/** From the grid of samples to the picture. */
	readonly mapping: Homography;
	/** Where the page is not flat. */
	readonly bent: BentColumns | null;
}

/** So many samples of a bent row lie on a straight line. */
const PIECE = 16;

/** How far samples of a level page lie off their row on the outline, at the end of each piece of a row. */
interface BentColumns {
	/** Columns of the outline are so many times as far from its middle as those of the page. */
	readonly reach: number;
	readonly middleX: number;
	readonly middleY: number;
	/** A sample at row `y` lies at `middleY + shift + scale (y - middleY)`. */
	readonly shift: Float64Array;
	readonly scale: Float64Array;
}

function bentColumns({ shift, spread, reach }: Bend, columns: number, rows: number): BentColumns {
	const ends = Math.ceil(columns / PIECE) + 1;
	const bent = {
		reach: reach[0],
		middleX: columns / 2,
		middleY: rows / 2,
		shift: new Float64Array(ends),
		scale: new Float64Array(ends)
	};
	for (let i = 0; i < ends; i++) {
		const p = legendre(reach[0] * ((2 * (i * PIECE + 0.5)) / columns - 1));
		const sum = (of: readonly number[]) => of.reduce((total, one, k) => total + one * p[k]!, 0);
		bent.shift[i] = (sum(shift) * rows) / 2;
		bent.scale[i] = reach[1] * (1 + sum(spread));
	}
	return bent;
}

/** Where a sample of the grid comes from on the flattened outline, in steps of the grid; at the end of a piece. */
function onOutline({ bent }: Page, column: number, row: number): readonly [number, number] {
	if (!bent) return [column, row];
	const i = Math.min(Math.round(column / PIECE), bent.shift.length - 1);
	return [
		bent.middleX + bent.reach * (column - bent.middleX),
		bent.middleY + bent.shift[i]! + bent.scale[i]! * (row - bent.middleY)
	];
}

/** A page is made in tiles, so that the part of the picture for each stays near at hand. */
const TILE = { width: 256, height: 64 } as const;

interface Tile {
	readonly left: number;
	readonly top: number;
	readonly width: number;
	readonly height: number;
}

function* tilesOf({ width, height }: Page): Generator<Tile> {
	for (let top = 0; top < height; top += TILE.height) {
		for (let left = 0; left < width; left += TILE.width) {
			yield {
				left,
				top,
				width: Math.min(TILE.width, width - left),
				height: Math.min(TILE.height, height - top)
			};
		}
	}
}

function flattenPlain(picture: Picture, page: Page): Uint8Array {
	const out = new Uint8Array(page.width * page.height * 3);
	// Two rows of samples for each row of pixels, two samples for each pixel.
	const [upper, lower] = [new Uint8Array(TILE.width * 6), new Uint8Array(TILE.width * 6)];
	const sampleAt = (column: number, row: number, count: number, into: Uint8Array, at: number) =>
		inPieces(page, column, row, count, (piece, n, done) =>
			sampleParts(
				picture,
				piece,
				n,
				(part, of, before) => sampleInside(picture, part, of, into, at + 3 * (done + before)),
				(part, of, before) => sampleEdge(picture, part, of, into, at + 3 * (done + before))
			)
		);
	for (const { left, top, width, height } of tilesOf(page)) {
		for (let y = top; y < top + height; y++) {
			const to = 3 * (y * page.width + left);
			if (!page.isDense) {
				sampleAt(left, y, width, out, to);
				continue;
			}
			sampleAt(2 * left, 2 * y, 2 * width, upper, 0);
			sampleAt(2 * left, 2 * y + 1, 2 * width, lower, 0);
			for (let x = 0, o = to, i = 0; x < width; x++, o += 3, i += 6) {
				out[o] = (upper[i]! + upper[i + 3]! + lower[i]! + lower[i + 3]! + 2) >> 2;
				out[o + 1] = (upper[i + 1]! + upper[i + 4]! + lower[i + 1]! + lower[i + 4]! + 2) >> 2;
				out[o + 2] = (upper[i + 2]! + upper[i + 5]! + lower[i + 2]! + lower[i + 5]! + 2) >> 2;
			}
		}
	}
	return out;
}

function flattenFast(kernels: Kernels, picture: Picture, page: Page): Uint8Array {
	const { channels, data } = picture;
	const { run } = kernels;
	const out = kernels.room(page.width * page.height * 3);
	const [upper, lower, line] = [6, 6, 3].map((bytes) => kernels.room(TILE.width * bytes)) as [
		number,
		number,
		number
	];
	const patches = [...tilesOf(page)].map((tile) => ({ tile, ...patchOf(picture, page, tile) }));
	const room = kernels.room(Math.max(...patches.map((p) => p.width * p.height)) * channels);
	const memory = kernels.view(0, kernels.size);
	for (const { tile, left, top, width, height } of patches) {
		const stride = width * channels;
		for (let y = 0; y < height; y++) {
			const from = ((top + y) * picture.width + left) * channels;
			memory.set(data.subarray(from, from + stride), room + y * stride);
		}
		const source = room - top * stride - left * channels;
		const sample = (row: Row, count: number, to: number) => {
			sampleParts(
				picture,
				row,
				count,
				(part, n, done) => {
					const { u, v, w, stepU, stepV, stepW } = part;
					if (stride === 0) sampleInside(picture, part, n, memory, to + 3 * done);
					else run.sampleRow(source, stride, channels, u, v, w, stepU, stepV, stepW, n, to + 3 * done);
				},
				(part, n, done) => sampleEdge(picture, part, n, memory, to + 3 * done)
			);
		};
		const sampleAt = (column: number, y: number, count: number, to: number) =>
			inPieces(page, column, y, count, (row, n, done) => sample(row, n, to + 3 * done));
		for (let y = tile.top; y < tile.top + tile.height; y++) {
			if (page.isDense) {
				sampleAt(2 * tile.left, 2 * y, 2 * tile.width, upper);
				sampleAt(2 * tile.left, 2 * y + 1, 2 * tile.width, lower);
				run.averageRows(upper, lower, tile.width, line);
			} else sampleAt(tile.left, y, tile.width, line);
			// What is written beyond the end must not fall on the next row.
			memory.copyWithin(out + 3 * (y * page.width + tile.left), line, line + 3 * tile.width);
		}
	}
	return kernels.bytes(out, page.width * page.height * 3);
}

/**
 * The part of the picture that a tile is made from, in pixels; empty where it lies outside, or where corners that no
 * camera sees make it reach beyond the horizon.
 */
function patchOf(picture: Picture, page: Page, { left, top, width, height }: Tile): Tile {
	const h = page.mapping;
	const samples = page.isDense ? 2 : 1;
	// Of a bent tile the upper and the lower side are curves.
	const places = page.bent ? (samples * width) / PIECE : 1;
	const along = Array.from({ length: Math.ceil(places) + 1 }, (_, i) => Math.min(i / places, 1));
	const corners = along.flatMap((share) =>
		[0, 1].map((lower) => {
			const [x, y] = onOutline(page, samples * (left + share * width), samples * (top + lower * height));
			const w = h[6] * x + h[7] * y + 1;
			return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w, w] as const;
		})
	);
	if (corners.some(([, , w]) => !(w > 0))) return { left: 0, top: 0, width: 0, height: 0 };
	const range = (axis: 0 | 1, end: number) => {
		const values = corners.map((corner) => corner[axis]);
		const first = Math.min(Math.max(Math.floor(Math.min(...values)) - 2, 0), end);
		return [first, Math.max(Math.min(Math.ceil(Math.max(...values)) + 3, end), first)] as const;
	};
	const [x0, x1] = range(0, picture.width);
	const [y0, y1] = range(1, picture.height);
	return { left: x0, top: y0, width: x1 - x0, height: y1 - y0 };
}

/** The same mapping from a grid twice as fine. */
function halfStep(h: Homography): Homography {
	return [h[0] / 2, h[1] / 2, h[2], h[3] / 2, h[4] / 2, h[5], h[6] / 2, h[7] / 2, 1];
}

/** Where the first sample of a row comes from, in homogeneous coordinates, and how far it is to the next. */
interface Row {
	readonly u: number;
	readonly v: number;
	readonly w: number;
	readonly stepU: number;
	readonly stepV: number;
	readonly stepW: number;
}

function startOfRow(h: Homography, column: number, row: number): Row {
	const [stepU, stepV, stepW] = [h[0], h[3], h[6]];
	const x = column + 0.5;
	const y = row + 0.5;
	return {
		u: x * stepU + h[1] * y + h[2],
		v: x * stepV + h[4] * y + h[5],
		w: x * stepW + h[7] * y + 1,
		stepU,
		stepV,
		stepW
	};
}

/**
 * Gives the pieces of a row of samples that come from a straight line in the picture: all of it where the page is flat.
 *
 * @param sample is told how many samples of the row came before
 */
function inPieces(
	page: Page,
	column: number,
	row: number,
	count: number,
	sample: (piece: Row, count: number, done: number) => void
): void {
	if (!page.bent) {
		sample(startOfRow(page.mapping, column, row), count, 0);
		return;
	}
	const h = page.mapping;
	const place = (at: number) => {
		const [x, y] = onOutline(page, at, row);
		const w = h[6] * (x + 0.5) + h[7] * (y + 0.5) + 1;
		const u = (h[0] * (x + 0.5) + h[1] * (y + 0.5) + h[2]) / w;
		return [u, (h[3] * (x + 0.5) + h[4] * (y + 0.5) + h[5]) / w] as const;
	};
	let [u, v] = place(column);
	for (let done = 0; done < count; done += PIECE) {
		const next = place(column + done + PIECE);
		const [stepU, stepV] = [(next[0] - u) / PIECE, (next[1] - v) / PIECE];
		sample({ u, v, w: 1, stepU, stepV, stepW: 0 }, Math.min(PIECE, count - done), done);
		[u, v] = next;
	}
}

/** A straight row whose ends lie inside, this side of the horizon, lies inside. */
function isInside({ width, height }: Picture, row: Row, count: number): boolean {
	const { u, v, w, stepU, stepV, stepW } = row;
	const k = count - 1;
	return (
		w > 0 &&
		w + k * stepW > 0 &&
		isWithin(u / w, v / w, width, height) &&
		isWithin((u + k * stepU) / (w + k * stepW), (v + k * stepV) / (w + k * stepW), width, height)
	);
}

/** With a pixel to spare on all sides. */
function isWithin(x: number, y: number, width: number, height: number): boolean {
	return x >= 1 && y >= 1 && x < width - 1 && y < height - 1;
}

/** Between exact places so many samples lie on a straight line; seen askew by 25 degrees, it is off by 1/100 pixel. */
const CHORD = 8;

function place(numerator: number, perPixel: number): number {
	return (numerator * perPixel - 2048) | 0;
}

/** Weighted mean of four samples; weights add up to 16384. Math.imul keeps it in 32-bit integers. */
function blend(
	a: number,
	b: number,
	c: number,
	d: number,
	wa: number,
	wb: number,
	wc: number,
	wd: number
): number {
	return (Math.imul(a, wa) + Math.imul(b, wb) + Math.imul(c, wc) + Math.imul(d, wd) + 8192) >> 14;
}

/** Is told how many samples of the row came before. */
type SamplePart = (part: Row, count: number, done: number) => void;

/**
 * Takes a straight row apart, from its beginning on: what lies inside the picture, in parts of whole chords, and what
 * lies at its edge or beyond.
 */
function sampleParts(
	picture: Picture,
	row: Row,
	count: number,
	inside: SamplePart,
	edge: SamplePart,
	done = 0
): void {
	if (isInside(picture, row, count)) inside(row, count, done);
	else if (count <= CHORD) edge(row, count, done);
	else {
		const half = CHORD * Math.ceil(count / (2 * CHORD));
		const { stepU, stepV, stepW } = row;
		const u = row.u + half * stepU;
		const v = row.v + half * stepV;
		const w = row.w + half * stepW;
		sampleParts(picture, row, half, inside, edge, done);
		sampleParts(picture, { u, v, w, stepU, stepV, stepW }, count - half, inside, edge, done + half);
	}
}

/** Samples `count` points of a row inside the picture, bilinear, into `out` from `o` on. */
function sampleInside(
	{ width, channels, data }: Picture,
	row: Row,
	count: number,
	out: Uint8Array,
	o: number
): void {
	const { u, v, w, stepU, stepV, stepW } = row;
	const stride = width * channels;
	// Eight samples lie on a straight line between exact places, which have 12 bits behind the point; of these, 7
	// weigh the samples, so that weights fit in 16 bits with a sign.
	let perPixel = 4096 / w;
	let x0 = place(u, perPixel);
	let y0 = place(v, perPixel);
	for (let i = 0; i < count; i += CHORD) {
		const n = Math.min(CHORD, count - i);
		// The last chord ends on the last sample: what lies beyond may be outside the picture, or anywhere.
		const k = Math.min(i + CHORD, count - 1);
		const span = Math.max(k - i, 1);
		perPixel = 4096 / (w + k * stepW);
		const x1 = place(u + k * stepU, perPixel);
		const y1 = place(v + k * stepV, perPixel);
		const dx = ((x1 - x0) / span) | 0;
		const dy = ((y1 - y0) / span) | 0;
		for (let j = 0; j < n; j++, o += 3) {
			const sx = x0 + j * dx;
			const sy = y0 + j * dy;
			const fx = (sx >> 5) & 127;
			const fy = (sy >> 5) & 127;
			const p = (sy >> 12) * stride + (sx >> 12) * channels;
			const q = p + stride;
			const w11 = Math.imul(fx, fy);
			const w10 = (fx << 7) - w11;
			const w01 = (fy << 7) - w11;
			const w00 = 16384 - w10 - w01 - w11;
			for (let c = 0; c < 3; c++) {
				out[o + c] = blend(
					data[p + c]!,
					data[p + c + channels]!,
					data[q + c]!,
					data[q + c + channels]!,
					w00,
					w10,
					w01,
					w11
				);
			}
		}
		x0 = x1;
		y0 = y1;
	}
}

/** The same where samples may lie outside the picture: there it is white. */
function sampleEdge(picture: Picture, row: Row, count: number, out: Uint8Array, o: number): void {
	const { width: sw, height: sh, channels, data } = picture;
	const { stepU, stepV, stepW } = row;
	let { u, v, w } = row;
	const stride = sw * channels;
	const end = o + 3 * count;
	for (; o < end; o += 3, u += stepU, v += stepV, w += stepW) {
		const sx = u / w - 0.5;
		const sy = v / w - 0.5;
		if (!(sx > -1 && sy > -1 && sx < sw && sy < sh)) {
			out[o] = out[o + 1] = out[o + 2] = 255;
			continue;
		}
		const cx = sx < 0 ? 0 : sx > sw - 1 ? sw - 1 : sx;
		const cy = sy < 0 ? 0 : sy > sh - 1 ? sh - 1 : sy;
		const x0 = cx | 0;
		const y0 = cy | 0;
		const fx = cx - x0;
		const fy = cy - y0;
		const p = y0 * stride + x0 * channels;
		const right = x0 + 1 < sw ? channels : 0;
		const q = y0 + 1 < sh ? p + stride : p;
		for (let c = 0; c < 3; c++) {
			const top = data[p + c]! + (data[p + right + c]! - data[p + c]!) * fx;
			const bottom = data[q + c]! + (data[q + right + c]! - data[q + c]!) * fx;
			out[o + c] = top + (bottom - top) * fy + 0.5;
		}
	}
}
