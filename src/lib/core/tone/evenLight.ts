import { FROM_LINEAR, TO_LINEAR } from '../raster/linearLight';
import type { FloatPlane, Picture } from '../raster/picture';
import type { PaperLight } from './paperLight';

/** Bare paper comes out this bright in linear light: a little over white, so that its grain clips. */
const PAPER_WHITE = 1.06;
/** Paper darker than this holds no colour worth bringing back; limits the gain in black corners. */
const LEAST_LIGHT = 24;

/**
 * Divides the lighting out of a page, in linear light and for each channel on its own, so that
 * shadows and colour casts go and the ink keeps its colour. Returns a new RGB picture of the same size.
 */
export function evenLight(picture: Picture, light: PaperLight): Picture & { data: Uint8Array } {
	const { width, height, channels, data } = picture;
	const out = new Uint8Array(width * height * 3);
	const gains = [light.red, light.green, light.blue].map(gainMap);
	const { width: columns, height: rows } = light.red;
	const rowGain = gains.map(() => new Float32Array(columns));
	const scaleX = columns / width;
	for (let y = 0; y < height; y++) {
		const gy = Math.min(Math.max(((y + 0.5) * rows) / height - 0.5, 0), rows - 1);
		const y0 = gy | 0;
		const y1 = Math.min(y0 + 1, rows - 1);
		const fy = gy - y0;
		for (let c = 0; c < 3; c++) {
			const gain = gains[c]!;
			for (let x = 0; x < columns; x++) {
				rowGain[c]![x] = gain[y0 * columns + x]! * (1 - fy) + gain[y1 * columns + x]! * fy;
			}
		}
		const [red, green, blue] = rowGain as [Float32Array, Float32Array, Float32Array];
		let p = y * width * channels;
		let q = y * width * 3;
		for (let x = 0; x < width; x++, p += channels, q += 3) {
			const gx = Math.min(Math.max((x + 0.5) * scaleX - 0.5, 0), columns - 1);
			const x0 = gx | 0;
			const x1 = x0 + 1 < columns ? x0 + 1 : x0;
			const fx = gx - x0;
			out[q] = encode(TO_LINEAR[data[p]!]! * (red[x0]! + (red[x1]! - red[x0]!) * fx));
			out[q + 1] = encode(TO_LINEAR[data[p + 1]!]! * (green[x0]! + (green[x1]! - green[x0]!) * fx));
			out[q + 2] = encode(TO_LINEAR[data[p + 2]!]! * (blue[x0]! + (blue[x1]! - blue[x0]!) * fx));
		}
	}
	return { width, height, channels: 3, data: out };
}

function encode(linear: number): number {
	const i = (linear * 4096) | 0;
	return FROM_LINEAR[i > 4095 ? 4095 : i]!;
}

function gainMap({ data }: FloatPlane): Float32Array {
	return data.map((v) => PAPER_WHITE / TO_LINEAR[Math.max(LEAST_LIGHT, Math.round(v))]!);
}
