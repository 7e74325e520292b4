import type { Picture } from '../raster/picture';
import { percentile } from '../raster/percentile';

/**
 * Standard deviation of bare paper in grey levels of a page whose paper is at 255, from the
 * differences of neighbouring pixels in the brighter half of the page (median absolute deviation).
 *
 * @param page flattened, before its light is evened: white that clips hides its noise. Green is looked at.
 */
export function paperNoise({ width, height, channels, data }: Picture): number {
	const levels = new Uint32Array(256);
	for (let p = 1; p < data.length; p += 11 * channels) levels[data[p]!]!++;
	const paper = Math.max(1, percentile(levels, 0.6));
	const differences = new Uint32Array(256);
	for (let y = 2; y < height; y += 9) {
		for (let x = 2; x < width; x += 3) {
			const p = (y * width + x) * channels + 1;
			if (data[p]! < 0.8 * paper) continue;
			// Two pixels apart: neighbours share a sample of the source.
			differences[Math.abs(data[p]! - data[p - 2 * channels]!)]!++;
		}
	}
	let total = 0;
	for (const n of differences) total += n;
	if (total === 0) return 0;
	// The median difference, interpolated within its bin: it is often between 0 and 3.
	let below = 0;
	for (let d = 0; d < 256; d++) {
		const n = differences[d]!;
		if (2 * (below + n) >= total) {
			const at = d - 0.5 + (total / 2 - below) / n;
			return (Math.max(0, at) * 1.4826 * 255) / (Math.SQRT2 * paper);
		}
		below += n;
	}
	return 0;
}
