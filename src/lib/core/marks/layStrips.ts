import { sampleAt } from '../raster/floatPlane';
import type { Picture } from '../raster/picture';
import type { Point, Quadrilateral } from '../sheet/geometry';
import type { Illumination } from '../tone/illumination';
import { toPage, type PlacesOnPage } from './onPage';

/**
 * Lays strips of the page's own paper over parts of a flattened page: what was there is gone from it, and in every tone
 * the place looks like bare paper in the same light.
 *
 * @param page is changed
 * @param shape how the page was made of its picture
 * @param strips in pixels of the picture
 */
export function layStrips(
	page: Picture & { data: Uint8Array },
	light: Illumination,
	shape: PlacesOnPage,
	strips: readonly Quadrilateral[]
): void {
	const { width, height, data } = page;
	const map = toPage(shape);
	for (const strip of strips) {
		const outline = strip.map(map);
		const ys = outline.map(([, y]) => y);
		const last = Math.min(height - 1, Math.ceil(Math.max(...ys)));
		for (let y = Math.max(0, Math.floor(Math.min(...ys))); y <= last; y++) {
			const span = spanIn(outline, y);
			if (!span) continue;
			const to = Math.min(width - 1, Math.ceil(span[1]));
			for (let x = Math.max(0, Math.floor(span[0])); x <= to; x++) {
				const p = (y * width + x) * page.channels;
				const [u, v] = [(x + 0.5) / width, (y + 0.5) / height];
				data[p] = sampleAt(light.red, u, v);
				data[p + 1] = sampleAt(light.green, u, v);
				data[p + 2] = sampleAt(light.blue, u, v);
			}
		}
	}
}

/** From where to where a row of pixels touches a convex outline; null where it does not. */
function spanIn(outline: readonly Point[], y: number): readonly [number, number] | null {
	let [least, most] = [Infinity, -Infinity];
	for (let i = 0; i < outline.length; i++) {
		const [a, b] = [outline[i]!, outline[(i + 1) % outline.length]!];
		const [top, bottom] = a[1] < b[1] ? [a, b] : [b, a];
		// Everything that the row, one pixel high, touches.
		const [from, to] = [Math.max(top[1], y), Math.min(bottom[1], y + 1)];
		if (from > to) continue;
		const at = (row: number) =>
			bottom[1] === top[1] ? top[0] : top[0] + ((row - top[1]) / (bottom[1] - top[1])) * (bottom[0] - top[0]);
		const ends = bottom[1] === top[1] ? [top[0], bottom[0]] : [at(from), at(to)];
		least = Math.min(least, ...ends);
		most = Math.max(most, ...ends);
	}
	return least <= most ? [least, most] : null;
}
