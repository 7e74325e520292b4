import { clipPolygon, overlap, wholePicture, type Quadrilateral } from '../src/lib/core/sheet/geometry';

/** Intersection over union of two outlines, of what lies in a picture of this size, 0 to 1. */
export function overlapWithin(
	[width, height]: readonly [number, number],
	one: Quadrilateral,
	other: Quadrilateral
): number {
	const picture = wholePicture(width, height);
	return overlap(clipPolygon(one, picture), clipPolygon(other, picture));
}
