import type { Picture } from '../raster/picture';
import { signedArea, type Quadrilateral } from '../sheet/geometry';
import { PAPER_SIZES, paperSize, type PaperName } from '../sheet/paperSize';
import { proportions } from '../sheet/proportions';
import type { Turn } from '../sheet/turn';

/** Dots an inch of a prepared page, unless the source holds less. */
export const RESOLUTION = 200;
/** Pages are not made smaller than this even from tiny pictures, so that tiles and windows fit. */
const LEAST_RESOLUTION = 72;

/** Size in pixels of the upright page made from these corners. */
export function pageSize(
	picture: Pick<Picture, 'width' | 'height'>,
	corners: Quadrilateral,
	turn: Turn,
	wanted = RESOLUTION,
	expected?: PaperName
) {
	const [a, b, c, d] = corners;
	let ratio = proportions(corners, [picture.width, picture.height]);
	if (turn === 90 || turn === 270) ratio = 1 / ratio;
	const paper = paperSize(ratio, expected);
	const upright = ratio <= 1;
	// Paper that is not a known size is given the width of A4.
	const [short, long] = paper ? PAPER_SIZES[paper] : [210, 210 / (upright ? ratio : 1 / ratio)];
	const [wmm, hmm] = upright ? [short, long] : [long, short];
	const seen = Math.sqrt(Math.abs(signedArea([a, b, c, d])));
	const sourceDotsPerInch = (seen / Math.sqrt(wmm * hmm)) * 25.4;
	const dotsPerInch = Math.round(Math.min(wanted, Math.max(sourceDotsPerInch * 1.15, LEAST_RESOLUTION)));
	const pixels = (mm: number) => Math.max(8, Math.round((mm / 25.4) * dotsPerInch));
	return {
		width: pixels(wmm),
		height: pixels(hmm),
		dotsPerInch,
		sourceDotsPerInch,
		paper
	};
}
