import { halve } from '../../core/raster/halve';
import type { Box } from '../../core/reading/pieces';
import { withoutRules } from '../../core/reading/withoutRules';
import type { Point, Quadrilateral } from '../../core/sheet/geometry';
import { DETECT_SIZE, detectLines } from './detect';
import { inColour, type InkOnPage } from './inkOnPage';

/** A page whose longer side is so many times what the detector sees loses nothing where it is shown at half its size. */
const HALVED = 2;

/**
 * Boxes of the lines of writing on a page; its rules are taken for paper where it can be shown at half its size.
 *
 * @param halved from which size on it is, as a multiple of what the detector sees
 */
export async function linesOn(
	{ clean, labels, writing }: InkOnPage,
	halved = HALVED
): Promise<Quadrilateral[]> {
	const { width, height } = clean;
	if (Math.max(width, height) < halved * DETECT_SIZE) return detectLines(inColour(clean));
	const seen = withoutRules(halve(clean), writing, (x, y) => {
		const i = 2 * (y * width + x);
		return !!(labels[i] || labels[i + 1] || labels[i + width] || labels[i + width + 1]);
	});
	const lines = await detectLines(inColour(seen));
	return lines.map((box) => box.map(([x, y]): Point => [2 * x, 2 * y]) as unknown as Quadrilateral);
}

/** The upright box around a line's. */
export function boundsOf(box: Quadrilateral): Box {
	const [xs, ys] = [box.map((p) => p[0]), box.map((p) => p[1])];
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}
