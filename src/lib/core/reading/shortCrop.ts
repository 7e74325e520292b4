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
	for (let y = first, to = 0; y < last; y++) {
		const row = y * page.width;
		for (const { from, shares } of columns) {
			let sum = 0;
			for (let k = 0; k < shares.length; k++) sum += shares[k]! * page.data[row + from + k]!;
			across[to++] = shares.length > 0 ? sum : 255;
		}
	}
	const grey = new Float32Array(width * SHORT_HEIGHT);
	for (let y = 0; y < SHORT_HEIGHT; y++) {
		const { from, shares } = rows[y]!;
		for (let x = 0; x < width; x++) {
			let sum = shares.length > 0 ? 0 : 255;
			for (let k = 0; k < shares.length; k++) sum += shares[k]! * across[(from + k - first) * width + x]!;
			grey[y * width + x] = sum;
		}
	}
	return { width, height: SHORT_HEIGHT, data: stretched(grey) };
}

interface Weights {
	readonly from: number;
	readonly shares: Float64Array;
}

/** For each pixel of the crop, which of the page's it is the mean of (a triangle two pixels of the coarser wide). */
function weights(start: number, scale: number, count: number, limit: number): Weights[] {
	const reach = Math.max(1, scale);
	return Array.from({ length: count }, (_, i) => {
		const middle = start + (i + 0.5) * scale - 0.5;
		const from = Math.max(0, Math.ceil(middle - reach));
		const to = Math.min(limit - 1, Math.floor(middle + reach));
		const shares: number[] = [];
		let sum = 0;
		for (let p = from; p <= to; p++) {
			const share = Math.max(0, 1 - Math.abs(p - middle) / reach);
			shares.push(share);
			sum += share;
		}
		return { from, shares: Float64Array.from(sum > 0 ? shares.map((s) => s / sum) : []) };
	});
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
