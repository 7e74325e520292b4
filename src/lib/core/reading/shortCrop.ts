import { nth } from '../raster/percentile';
import type { Plane } from '../raster/picture';

/** Height in pixels at which short writing is looked at. */
export const SHORT_HEIGHT = 32;
/** Crops are no wider; what is written further on is not looked at. */
export const MOST_WIDTH = 384;
/** Least difference of paper and ink, in grey levels: what differs less is noise. */
const LEAST_CONTRAST = 60;
/** Where the darkest and the lightest pixels are taken to begin. */
const INK = 0.02;
const PAPER = 0.85;

/**
 * A piece of a page as the recogniser of short writing sees it: SHORT_HEIGHT pixels high, paper 0, ink 255.
 *
 * @param box left, top, right and bottom in pixels of the page; what lies outside of the page is paper
 */
export function shortCrop(page: Plane, box: readonly [number, number, number, number]): Plane {
	const [x0, y0, x1, y1] = box;
	const scale = Math.max(1, y1 - y0) / SHORT_HEIGHT;
	const width = Math.max(8, Math.min(MOST_WIDTH, Math.round((x1 - x0) / scale)));
	const columns = weights(x0, scale, width, page.width);
	const rows = weights(y0, scale, SHORT_HEIGHT, page.height);
	const first = Math.max(0, Math.floor(y0 - scale));
	const last = Math.min(page.height, Math.ceil(y1 + scale) + 1);
	const across = new Float32Array(Math.max(0, last - first) * width);
	const { data } = page;
	const { from, ends, shares } = columns;
	for (let y = first, to = 0; y < last; y++) {
		const row = y * page.width;
		for (let x = 0, k = 0; x < width; x++) {
			const end = ends[x + 1]!;
			let sum = k === end ? 255 : 0;
			for (let p = row + from[x]!; k < end; k++, p++) sum += shares[k]! * data[p]!;
			across[to++] = sum;
		}
	}
	const grey = new Float32Array(width * SHORT_HEIGHT);
	const sums = new Float64Array(width);
	for (let y = 0; y < SHORT_HEIGHT; y++) {
		const [begin, end] = [rows.ends[y]!, rows.ends[y + 1]!];
		sums.fill(begin === end ? 255 : 0);
		for (let k = begin, row = (rows.from[y]! - first) * width; k < end; k++, row += width) {
			const share = rows.shares[k]!;
			for (let x = 0; x < width; x++) sums[x]! += share * across[row + x]!;
		}
		grey.set(sums, y * width);
	}
	return { width, height: SHORT_HEIGHT, data: stretched(grey) };
}

/** For each pixel of the crop, the first of the page's that it is the mean of, and where the shares of these end. */
interface Weights {
	readonly from: Int32Array;
	readonly ends: Int32Array;
	readonly shares: Float64Array;
}

/** For each pixel of the crop, which of the page's it is the mean of (a triangle two pixels of the coarser wide). */
function weights(start: number, scale: number, count: number, limit: number): Weights {
	const reach = Math.max(1, scale);
	const from = new Int32Array(count);
	const ends = new Int32Array(count + 1);
	const shares = new Float64Array(count * (2 * Math.ceil(reach) + 1));
	let k = 0;
	for (let i = 0; i < count; i++) {
		const middle = start + (i + 0.5) * scale - 0.5;
		from[i] = Math.max(0, Math.ceil(middle - reach));
		const to = Math.min(limit - 1, Math.floor(middle + reach));
		let sum = 0;
		for (let p = from[i]!; p <= to; p++) {
			shares[k] = Math.max(0, 1 - Math.abs(p - middle) / reach);
			sum += shares[k++]!;
		}
		if (sum === 0) k = ends[i]!;
		for (let j = ends[i]!; j < k; j++) shares[j]! /= sum;
		ends[i + 1] = k;
	}
	return { from, ends, shares };
}

/** Paper to 0 and ink to 255, whatever the pen. */
function stretched(grey: Float32Array): Uint8Array {
	const values = grey.slice();
	const paper = nth(values, Math.floor(PAPER * (values.length - 1)));
	const ink = nth(values, Math.floor(INK * (values.length - 1)));
	const scale = 255 / Math.max(LEAST_CONTRAST, paper - ink);
	const out = new Uint8Array(grey.length);
	for (let i = 0; i < out.length; i++) {
		out[i] = Math.max(0, Math.min(255, Math.round(scale * (paper - grey[i]!))));
	}
	return out;
}
