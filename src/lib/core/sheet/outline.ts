import { percentile } from '../raster/percentile';
import type { Picture } from '../raster/picture';
import { shrinkTo } from '../raster/shrink';
import { bothPages } from './bothPages';
import { bestQuadrilaterals, type Candidate } from './bestQuadrilateral';
import { edgeMap, type EdgeMap } from './edgeMap';
import { orderCorners, wholePicture, type Point, type Quadrilateral } from './geometry';
import { refineSides } from './refineSides';
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
/** The mean step from outside to inside below which four lines are ruling. White on white has 0.3. */
const RULING_STEP = 0.12;
const SIDES: readonly Side[] = ['top', 'right', 'bottom', 'left'];

/**
 * Finds the sheet in a picture.
 *
 * Edges are taken relative to their surroundings, gathered into side lines, and every combination of
 * four is scored; the winner's sides are then refined on a larger version of the picture. A scan,
 * whose sheet is the whole picture, is recognised by its rim being paper.
 *
 * @param searchSize longer side in pixels at which sides are looked for; less is faster and sees less
 */
export function findOutline(picture: Picture, searchSize = SEARCH_SIZE): Outline {
	const { width, height } = picture;
	if (width < 64 || height < 64) return whole(width, height, 0);
	const small = shrinkTo(picture, searchSize);
	const edges = edgeMap(small);
	const lines = sideLines(edges);
	const [first, second] = bestQuadrilaterals(edges, lines, 2);
	const scan = rimIsPaper(edges);
	const confidence = first ? believe(first, second) : 0;
	if (!first || confidence < 0.5) return whole(width, height, scan);
	const both = bothPages(small, edges, lines, first);
	const best = both ?? first;
	// Paper on both sides of the sides, or no side at all, and paper at the rim: ruling on a scan, not a sheet.
	const isRuling = best.step < RULING_STEP || SIDES.some((s) => best.sides[s].border);
	if (scan > 0.6 && (confidence < 0.75 || isRuling)) return whole(width, height, scan);

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
		cutOff: SIDES.filter((side, i) => best.sides[side].border || sideOutside(corners, i, width, height))
	};
}

function whole(width: number, height: number, confidence: number): Outline {
	return { corners: wholePicture(width, height), confidence, kind: 'whole', cutOff: [] };
}

/** True when both ends of side `i` lie outside the picture: the sheet goes on where the picture ends. */
function sideOutside(corners: readonly Point[], i: number, width: number, height: number): boolean {
	const slack = 0.004 * Math.max(width, height);
	const outside = ([x, y]: Point) => x < -slack || y < -slack || x > width + slack || y > height + slack;
	return outside(corners[i]!) && outside(corners[(i + 1) % 4]!);
}

/** Sheets score 1.4 and more, the best that a bare desk has to offer 1.1 and less. */
const EVEN_SCORE = 1.25;
const SCORE_WEIGHT = 11;
const LEAD_WEIGHT = 4;

/** How far the best hypothesis can be trusted, 0 to 1: by its score and its lead over the second. */
function believe(best: Candidate, second: Candidate | undefined): number {
	const lead = second ? Math.min(best.score - second.score, 0.2) : 0.2;
	const z = SCORE_WEIGHT * (best.score - EVEN_SCORE) + LEAD_WEIGHT * lead;
	return 1 / (1 + Math.exp(-z));
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
