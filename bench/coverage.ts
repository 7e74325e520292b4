import type { Point } from '../src/lib/core/sheet/geometry';

/** Samples along the longer side of the picture. */
const SAMPLES = 500;

/**
 * Intersection over union of what several outlines cover together and of one other, within a picture, by samples:
 * outlines may have dents, which the exact `overlap` does not allow. 0 to 1.
 */
export function coverage(
	several: readonly (readonly Point[])[],
	other: readonly Point[],
	width: number,
	height: number
): number {
	const step = Math.max(width, height) / SAMPLES;
	let both = 0;
	let either = 0;
	for (let y = step / 2; y < height; y += step) {
		for (let x = step / 2; x < width; x += step) {
			const a = several.some((polygon) => isInside(polygon, x, y));
			const b = isInside(other, x, y);
			if (a && b) both++;
			if (a || b) either++;
		}
	}
	return either > 0 ? both / either : 0;
}

function isInside(polygon: readonly Point[], x: number, y: number): boolean {
	let inside = false;
	for (let i = 0, j = polygon.length - 1; i < polygon.length; j = i++) {
		const [xi, yi] = polygon[i]!;
		const [xj, yj] = polygon[j]!;
		if (yi > y !== yj > y && x < ((xj - xi) * (y - yi)) / (yj - yi) + xi) inside = !inside;
	}
	return inside;
}
