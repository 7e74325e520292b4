import { withoutRuling } from '../legibility/ruling';
import { components } from '../raster/components';
import { below } from '../raster/below';
import { halve } from '../raster/halve';
import type { Plane } from '../raster/picture';
import { removeSpecks } from '../tone/specks';

/** What is darker than this is ink or ruling on an evenly lit page. */
const PAPER = 244;
/** Ruling is followed at a lower contrast. */
const FOLLOWED = 249;
/** Smaller marks, in pixels at half the size, are dust. */
const SPECK = 6;
/** Ruling that hangs together is at least as long as this share of the page. */
const SPANS = 0.55;

/**
 * Which rows of a part of a page have to be shown: all from the first to the last that holds ink, and some room. Ruling
 * is no ink; faint writing is. Where nothing is written, a strip of paper is left.
 *
 * @param page evenly lit, grey
 * @param top and bottom of the part, rows of the page
 * @param room rows left free above and below
 * @returns its first row, and the one behind its last
 */
export function trimmed(page: Plane, top: number, bottom: number, room: number): [number, number] {
	const half = halve(page);
	const dark = below(half, PAPER);
	const { mask } = withoutRuling(half, dark, below(half, FOLLOWED));
	removeSpecks(mask, half, SPECK);
	// A line or a filled shape that does not run over the page was drawn.
	const { list, labels } = components(dark, half.width, half.height);
	const isDrawn = list.map(
		({ x0, x1, y0, y1, area }) =>
			area > SPECK && x1 - x0 < SPANS * half.width && y1 - y0 < SPANS * half.height
	);
	labels.forEach((label, i) => {
		if (label > 0 && isDrawn[label - 1]) mask[i] = 1;
	});
	const isInked = (y: number) => mask.subarray(y * half.width, (y + 1) * half.width).includes(1);
	const to = Math.min(half.height, bottom >> 1);
	let first = top >> 1;
	while (first < to && !isInked(first)) first++;
	if (first >= to) return [top, Math.min(bottom, top + 2 * room)];
	let last = to - 1;
	while (last > first && !isInked(last)) last--;
	return [Math.max(top, 2 * first - room), Math.min(bottom, 2 * (last + 1) + room)];
}
