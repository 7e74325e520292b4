import { countInk } from '../raster/below';
import { dilate, erode } from '../raster/greyMorphology';
import { inkRuns } from '../raster/inkRuns';
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
	if (!steep.includes(1)) return countInk(data) / data.length;
	const runs = inkRuns(data, width, height);
	let sum = 0;
	for (let r = 0; r < runs.length; r += 2) {
		const y = Math.floor(runs[r]! / width);
		const row = Math.min(light.height - 1, Math.floor((y * light.height) / height)) * light.width;
		for (let x = runs[r]! - y * width, end = runs[r + 1]! - y * width; x < end; x++) {
			const column = Math.min(light.width - 1, Math.floor((x * light.width) / width));
			if (!steep[row + column]) sum++;
		}
	}
	return sum / data.length;
}

function steepBlocks(light: FloatPlane): Uint8Array {
	const least = erode(light, REACH).data;
	const most = dilate(light, REACH).data;
	const steep = new Uint8Array(least.length);
	for (let i = 0; i < steep.length; i++) steep[i] = Number(most[i]! > STEEP * least[i]!);
	return steep;
}
