import type { FloatPlane } from '../raster/picture';
import type { WritingMask } from './writingMask';

/** Light that differs by this factor within the reach is the edge of a shadow. */
const STEEP = 1.12;
/** Blocks of the light to each side. */
const REACH = 2;

/**
 * The share of the page that is writing away from the edges of shadows. Along a hard edge even light leaves a trace,
 * which on a page with nothing else on it would pass for writing.
 *
 * @param light on the bare paper, at low resolution
 */
export function coverageInEvenLight({ width, height, data }: WritingMask, light: FloatPlane): number {
	const steep = steepBlocks(light);
	let sum = 0;
	for (let y = 0; y < height; y++) {
		const row = Math.min(light.height - 1, Math.floor((y * light.height) / height)) * light.width;
		for (let x = 0; x < width; x++) {
			if (!data[y * width + x]) continue;
			const column = Math.min(light.width - 1, Math.floor((x * light.width) / width));
			if (!steep[row + column]) sum++;
		}
	}
	return sum / data.length;
}

function steepBlocks({ width, height, data }: FloatPlane): Uint8Array {
	const steep = new Uint8Array(data.length);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			let least = Infinity;
			let most = 0;
			for (let v = Math.max(0, y - REACH); v <= Math.min(height - 1, y + REACH); v++) {
				for (let u = Math.max(0, x - REACH); u <= Math.min(width - 1, x + REACH); u++) {
					const value = data[v * width + u]!;
					least = Math.min(least, value);
					most = Math.max(most, value);
				}
			}
			if (most > STEEP * least) steep[y * width + x] = 1;
		}
	}
	return steep;
}
