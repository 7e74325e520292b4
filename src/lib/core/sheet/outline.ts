import { percentile } from '../raster/percentile';
import type { Picture } from '../raster/picture';
import { shrinkTo } from '../raster/shrink';
import { bothPages } from './bothPages';
import { bestQuadrilaterals } from './bestQuadrilateral';
import { edgeMap, type EdgeMap } from './edgeMap';
import { orderCorners, wholePicture, type Point, type Quadrilateral } from './geometry';
import { mostLikely } from './mostLikely';
import { refineSides } from './refineSides';
import { groundOf } from './sheetEvidence';
import { sheetOnTop } from './sheetOnTop';
import { sideLines, type Side } from './sideLines';

/** Where the sheet lies in a picture. */
export interface Outline {
	/** In pixels of the picture, clockwise from the corner nearest the top left. */
	readonly corners: Quadrilateral;
	/** 0 to 1; under 0.5 the corners are the whole picture, because nothing better was sure. */
	readonly confidence: number;
	/** `sheet`: four sides were found. `whole`: the picture is taken as it is. */
	readonly kind: 'sheet' | 'whole';
	/** Sides on which the sheet runs out of the picture. */
	readonly cutOff: readonly Side[];
}

/** The search runs on a picture with this longer side: enough for a 1-pixel rim of white on white. */
const SEARCH_SIZE = 480;
/** The refinement samples this finely at most; beyond it, phone pictures hold only blur and noise. */
const REFINE_SIZE = 1600;
/** Hypotheses that are looked at closely: the sheet need not have the best edges. */
const HYPOTHESES = 12;
const SIDES: readonly Side[] = ['top', 'right', 'bottom', 'left'];

/**
 * Finds the sheet in a picture.
 *
 * Edges are taken relative to their surroundings, gathered into side lines, and every combination of
 * four is scored. Of those with the best edges the one is taken along which paper ends and something else
 * begins; what is only drawn or printed on paper has paper on both sides. Its sides are then refined on a larger
 * version of the picture. Where there is none, the picture is left whole: a strip of desk costs less than a line of
 * writing.
 *
 * @param searchSize longer side in pixels at which sides are looked for; less is faster and sees less
 */
export function findOutline(picture: Picture, searchSize = SEARCH_SIZE): Outline {
	const { width, height } = picture;
	if (width < 64 || height < 64) return whole(width, height, 0);
	const small = shrinkTo(picture, searchSize);
	const edges = edgeMap(small);
	const lines = sideLines(edges);
	const likely = mostLikely(groundOf(small), bestQuadrilaterals(edges, lines, HYPOTHESES));
	if (!likely || likely.confidence < 0.5) return whole(width, height, rimIsPaper(edges));
	const { confidence } = likely;
	const best = bothPages(small, edges, lines, likely.candidate) ?? likely.candidate;

	const sx = width / small.width;
	const sy = height / small.height;
	const step = Math.max(1, Math.max(width, height) / REFINE_SIZE);
	const fixed = SIDES.map((s) => best.sides[s].border);
	const start = sheetOnTop(picture, edges, best.corners, step).map(([x, y]): Point => [
		x * sx,
		y * sy
	]) as unknown as Quadrilateral;
	const corners = refineSides(picture, start, Math.max(4, (3.2 * Math.max(sx, sy)) / step), step, fixed);
	return {
		corners: orderCorners(corners),
		confidence,
		kind: 'sheet',
		cutOff: SIDES.filter(
			(side, i) =>
				best.sides[side].border ||
				sideOutside(corners, i, width, height) ||
				cornerOutside(corners, side, width, height)
		)
	};
}

function whole(width: number, height: number, confidence: number): Outline {
	return { corners: wholePicture(width, height), confidence, kind: 'whole', cutOff: [] };
}

/** A corner farther out than this, as a share of the picture's longer side, has writing with it. */
const CORNER = 0.015;

/** True when a corner lies clearly beyond this side of the picture. */
function cornerOutside(corners: readonly Point[], side: Side, width: number, height: number): boolean {
	const beyond: Readonly<Record<Side, (p: Point) => number>> = {
		top: ([, y]) => -y,
		right: ([x]) => x - width,
		bottom: ([, y]) => y - height,
		left: ([x]) => -x
	};
	return corners.some((corner) => beyond[side](corner) > CORNER * Math.max(width, height));
}

/** True when both ends of side `i` lie outside the picture: the sheet goes on where the picture ends. */
function sideOutside(corners: readonly Point[], i: number, width: number, height: number): boolean {
	const slack = 0.004 * Math.max(width, height);
	const outside = ([x, y]: Point) => x < -slack || y < -slack || x > width + slack || y > height + slack;
	return outside(corners[i]!) && outside(corners[(i + 1) % 4]!);
}

/** Steps that a grey level is told in. */
const LEVELS = 8;

/**
 * How sure it is that the rim of the picture is all paper, as in a scan, 0 to 1: the rim is bright,
 * without colour, and as bright as the middle.
 */
function rimIsPaper({ width, height, paper }: EdgeMap): number {
	const rim = new Uint32Array(256 * LEVELS);
	const middle = new Uint32Array(256 * LEVELS);
	const shorter = Math.min(width, height);
	const band = Math.max(2, Math.round(shorter * 0.015));
	for (let y = 0; y < height; y += 2) {
		for (let x = 0; x < width; x += 2) {
			const inset = Math.min(x, y, width - 1 - x, height - 1 - y);
			const level = Math.min(255 * LEVELS, (paper.data[y * width + x]! * LEVELS) | 0);
			if (inset < band) rim[level]!++;
			else if (inset > shorter * 0.2) middle[level]!++;
		}
	}
	const paperLevel = percentile(middle, 0.8) / LEVELS;
	// Writing that touches the rim is allowed: 15 % of it may be dark.
	const ratio = percentile(rim, 0.15) / LEVELS / Math.max(paperLevel, 1);
	return Math.max(0, Math.min(1, (ratio - 0.85) / 0.1)) * (paperLevel > 150 ? 1 : 0.3);
}
