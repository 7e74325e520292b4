import { withKernels } from '../kernels/kernels';
import type { Plane } from '../raster/picture';
import { dropFaint } from './dropFaint';
import { inkThreshold } from './inkThreshold';
import { removeSpecks } from './specks';
import { strokeWidth } from './strokeWidth';

/** Full stops and dots on letters lie within this of writing, in inches: 3 mm. */
const COMPANY = 0.12;

/** Squares pass the threshold whole, twenty times as much as there is writing. */
const BESIDE_SQUARES = { level: 0.46, darkest: 22 } as const;

/**
 * A page in black and white: 0 for ink and 255 for paper. The window of the local threshold is tied to
 * the width of the strokes, which a first pass finds; specks and show-through are dropped.
 *
 * @param grey an evenly lit page
 * @param dotsPerInch resolution of the page, for the first pass and the size of specks
 */
export function blackAndWhite(grey: Plane, dotsPerInch: number, inkWeight = 0): Plane {
	const { width, height } = grey;
	const guess = Math.round(dotsPerInch / 7);
	let ink = inkThreshold(grey, guess, inkWeight);
	const stroke = strokeWidth(ink, width, height);
	const window = Math.min(Math.max(10 * stroke, dotsPerInch / 10), dotsPerInch / 3);
	// A second pass only where it would see something else.
	if (Math.abs(window / guess - 1) > 0.35) ink = inkThreshold(grey, Math.round(window), inkWeight);
	// A full stop is about as wide as a stroke each way; crossings of faint ruling are smaller.
	const leastArea = Math.max(3, Math.round(0.7 * stroke * stroke), Math.round((dotsPerInch / 200) ** 2 * 9));
	const limit = dropFaint(ink, grey, Math.max(2, Math.round(1.2 * stroke)), BESIDE_SQUARES);
	removeSpecks(ink, grey, leastArea, limit, {
		area: 4 * leastArea,
		cell: Math.round(dotsPerInch * COMPANY)
	});
	return { width, height, data: painted(ink) };
}

/** Black for ink and white for paper. */
function painted(ink: Uint8Array): Uint8Array {
	return withKernels(
		(kernels) => {
			const at = kernels.put(ink);
			kernels.run.paint(at, ink.length);
			return kernels.bytes(at, ink.length);
		},
		() => ink.map((v) => (v === 0 ? 255 : 0))
	);
}
