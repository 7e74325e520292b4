import { luma } from '../raster/luma';
import { percentile } from '../raster/percentile';
import type { Picture, Plane } from '../raster/picture';
import { flatten } from '../sheet/flatten';
import type { Quadrilateral } from '../sheet/geometry';
import { findOutline, type Outline } from '../sheet/outline';

/** What one frame of a live camera shows. */
export interface FrameFacts {
	/** In pixels of the frame. */
	readonly outline: Outline;
	/** Size of the frame in pixels. */
	readonly width: number;
	readonly height: number;
	/** Brightness of the paper, 0 to 255. */
	readonly light: number;
	/** How steep the edges of the writing are, 0 to 1; 1 where there is no writing to tell by. */
	readonly sharpness: number;
	/** Where the writing is, to tell the page from others: SIGNATURE numbers. */
	readonly signature: Float32Array;
}

/** Sides are looked for at this size: half the work of a still's, for a few pixels less of precision. */
const LIVE_SEARCH_SIZE = 256;
const SIGNATURE_COLUMNS = 42;
const SIGNATURE_ROWS = 56;

/** Finds the sheet in a frame of a live picture and measures its light and sharpness. */
export function lookAtFrame(frame: Picture): FrameFacts {
	const { width, height } = frame;
	const outline = findOutline(frame, LIVE_SEARCH_SIZE);
	const inner = innerPart(frame, outline.corners);
	return {
		outline,
		width,
		height,
		light: paperLevel(inner),
		sharpness: edgeSharpness(inner),
		signature: signature(frame, outline.corners)
	};
}

/** The corners moved towards the middle by a fraction of the way. */
function inset(corners: Quadrilateral, by: number): Quadrilateral {
	const cx = corners.reduce((s, c) => s + c[0], 0) / 4;
	const cy = corners.reduce((s, c) => s + c[1], 0) / 4;
	return corners.map(([x, y]) => [x + (cx - x) * by, y + (cy - y) * by]) as unknown as Quadrilateral;
}

/** The luma of the largest upright rectangle that lies well inside the sheet, pixel for pixel. */
function innerPart({ width, height, channels, data }: Picture, corners: Quadrilateral): Plane {
	const [a, b, c, d] = inset(corners, 0.08);
	const x0 = Math.max(0, Math.ceil(Math.max(a[0], d[0])));
	const x1 = Math.min(width, Math.floor(Math.min(b[0], c[0])));
	const y0 = Math.max(0, Math.ceil(Math.max(a[1], b[1])));
	const y1 = Math.min(height, Math.floor(Math.min(c[1], d[1])));
	const w = Math.max(0, x1 - x0);
	const h = Math.max(0, y1 - y0);
	const out = new Uint8Array(w * h);
	for (let y = 0, o = 0; y < h; y++) {
		let p = ((y0 + y) * width + x0) * channels;
		for (let x = 0; x < w; x++, o++, p += channels) {
			out[o] = (77 * data[p]! + 150 * data[p + 1]! + 29 * data[p + 2]!) >> 8;
		}
	}
	return { width: w, height: h, data: out };
}

function paperLevel({ data }: Plane): number {
	const histogram = new Uint32Array(256);
	for (let i = 0; i < data.length; i += 7) histogram[data[i]!]!++;
	return percentile(histogram, 0.7);
}

/** Grey levels between ink and paper under which there is no writing to judge by. */
const LEAST_CONTRAST = 18;
/** How far to both sides a stroke's own contrast is looked for, in pixels. */
const AROUND = 4;
/** Every so manieth row and column is looked at. */
const EVERY = 4;

/**
 * The steepest single-pixel step as a share of the contrast around it, at the strongest strokes; the lesser of
 * across and down.
 */
function edgeSharpness({ width, height, data }: Plane): number {
	const along = (lines: number, length: number, stride: number, lineStride: number): number => {
		const shares = new Uint32Array(101);
		let count = 0;
		for (let l = 0; l < lines; l += EVERY) {
			let i = l * lineStride + AROUND * stride;
			for (let k = AROUND; k + AROUND < length; k++, i += stride) {
				const step = Math.abs(data[i + stride]! - data[i]!);
				if (step < 5) continue;
				let low = 255;
				let high = 0;
				for (let j = i - (AROUND - 1) * stride, end = i + AROUND * stride; j <= end; j += stride) {
					const v = data[j]!;
					if (v < low) low = v;
					if (v > high) high = v;
				}
				if (high - low < LEAST_CONTRAST) continue;
				shares[Math.round((100 * step) / (high - low))]!++;
				count++;
			}
		}
		return count < 60 ? 1 : percentile(shares, 0.85) / 100;
	};
	return Math.min(along(height, width, 1, width), along(width, height, width, 1));
}

/** The writing's own pattern: what is left of the page when its light, its lines and margins are taken out. */
function signature(frame: Picture, corners: Quadrilateral): Float32Array {
	const w = SIGNATURE_COLUMNS;
	const h = SIGNATURE_ROWS;
	const { data } = luma(flatten(frame, inset(corners, 0.04), 2 * w, 2 * h));
	const out = new Float32Array(w * h);
	for (let y = 0; y < h; y++) {
		for (let x = 0; x < w; x++) {
			const i = 2 * y * 2 * w + 2 * x;
			out[y * w + x] = data[i]! + data[i + 1]! + data[i + 2 * w]! + data[i + 2 * w + 1]!;
		}
	}
	const rows = new Float32Array(h);
	for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) rows[y]! += out[y * w + x]! / w;
	for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) out[y * w + x]! -= rows[y]!;
	// Along each line, less the mean of its surroundings: a shadow is no writing.
	const flat = out.slice();
	for (let y = 0; y < h; y++) {
		for (let x = 0; x < w; x++) {
			let sum = 0;
			let n = 0;
			for (let k = Math.max(0, x - 5); k <= Math.min(w - 1, x + 5); k++, n++) sum += flat[y * w + k]!;
			out[y * w + x] = flat[y * w + x]! - sum / n;
		}
	}
	return out;
}

/** Likeness of two signatures, -1 to 1: the best correlation over shifts of one cell each way. */
export function signatureLikeness(a: Float32Array, b: Float32Array): number {
	let best = -1;
	for (let dy = -1; dy <= 1; dy++) {
		for (let dx = -1; dx <= 1; dx++) {
			let ab = 0;
			let aa = 0;
			let bb = 0;
			for (let y = 1; y < SIGNATURE_ROWS - 1; y++) {
				for (let x = 1; x < SIGNATURE_COLUMNS - 1; x++) {
					const u = a[y * SIGNATURE_COLUMNS + x]!;
					const v = b[(y + dy) * SIGNATURE_COLUMNS + x + dx]!;
					ab += u * v;
					aa += u * u;
					bb += v * v;
				}
			}
			if (aa > 0 && bb > 0) best = Math.max(best, ab / Math.sqrt(aa * bb));
		}
	}
	return best;
}
