import { percentile } from '../raster/percentile';
import type { Picture } from '../raster/picture';
import { shrinkTo } from '../raster/shrink';
import { bothPages } from './bothPages';
import { bestQuadrilaterals, type Candidate } from './bestQuadrilateral';
import { edgeMap, type EdgeMap } from './edgeMap';
import { orderCorners, wholePicture, type Point, type Quadrilateral } from './geometry';
import { mostLikely } from './mostLikely';
import { refineSides } from './refineSides';
import { groundOf } from './sheetEvidence';
import { withoutMargins, type Part } from './scanMargins';
import { sheetOnTop } from './sheetOnTop';
import { lineVotes, sideLines, slantingSideLines, type Side } from './sideLines';

/** Where the sheet lies in a picture. */
export interface Outline {
	/** In pixels of the picture, clockwise from the corner nearest the top left. */
	readonly corners: Quadrilateral;
	/** 0 to 1; under 0.5 the corners are the whole picture, because nothing better was sure. */
	readonly confidence: number;
	/** `sheet`: four sides were found. `whole`: the picture is taken as it is, but for black around a scanned sheet. */
	readonly kind: 'sheet' | 'whole';
	/** Sides on which the sheet runs out of the picture. */
	readonly cutOff: readonly Side[];
	/** Where the sheet may lie, of a picture that was left whole because that was not sure: for a person to take. */
	readonly perhaps?: Quadrilateral;
}

/** The search runs on a picture with this longer side: enough for a 1-pixel rim of white on white. */
const SEARCH_SIZE = 480;
/** The refinement samples this finely at most; beyond it, phone pictures hold only blur and noise. */
const REFINE_SIZE = 1600;
/** Hypotheses that are looked at closely: the sheet need not have the best edges. */
const HYPOTHESES = 12;
/** What is less likely is not worth a person's look, but where four lines close that are seen as plainly as this. */
const PERHAPS = 0.12;
const PLAINLY = 1.5;
/** Where a sheet is found that surely, none is looked for that stands on a corner. */
const SURE = 0.9;
const SIDES: readonly Side[] = ['top', 'right', 'bottom', 'left'];

/**
 * Finds the sheet in a picture.
 *
 * Edges are taken relative to their surroundings, gathered into side lines, and every combination of four is scored:
 * first of sheets that lie upright, then, where none is sure, of those that stand on a corner. Of those with the best
 * edges the one is taken along which paper ends and something else begins; what is only drawn or printed on paper has
 * paper on both sides. Its sides are then refined on a larger version of the picture. Where there is none, the picture
 * is left whole: a strip of desk costs less than a line of writing.
 *
 * @param searchSize longer side in pixels at which sides are looked for; less is faster and sees less
 */
export function findOutline(picture: Picture, searchSize = SEARCH_SIZE): Outline {
	const { width, height } = picture;
	if (width < 64 || height < 64) return whole(width, height, 0);
	const small = shrinkTo(picture, searchSize);
	const edges = edgeMap(small);
	const votes = lineVotes(edges);
	const lines = sideLines(edges, votes);
	const ground = groundOf(small);
	const upright = mostLikely(ground, bestQuadrilaterals(edges, lines, HYPOTHESES));
	let likely = upright;
	if (!upright || upright.confidence < SURE) {
		const slanting = slantingSideLines(edges, votes);
		const onCorner = mostLikely(ground, bestQuadrilaterals(edges, slanting, HYPOTHESES, 'on a corner'));
		if (onCorner && onCorner.confidence > (upright?.confidence ?? 0)) likely = onCorner;
	}
	if (likely && likely.confidence >= 0.5) {
		const both = likely === upright ? bothPages(small, edges, lines, likely.candidate) : null;
		return sheetAt(picture, edges, both ?? likely.candidate, likely.confidence);
	}
	const all = allOf(picture, small, edges);
	if (!likely || all.confidence >= 0.5) return all;
	if (likely.confidence < PERHAPS && !closesPlainly(likely.candidate)) return all;
	return { ...all, perhaps: sheetAt(picture, edges, likely.candidate, likely.confidence).corners };
}

/** Whether all four sides lie in the picture and are plainly seen: a sheet on its like, or a frame; a person can tell. */
function closesPlainly({ sides, score }: Candidate): boolean {
	return score >= PLAINLY && SIDES.every((side) => !sides[side].border);
}

/** A hypothesis brought to the edges of the full picture. */
function sheetAt(picture: Picture, edges: EdgeMap, best: Candidate, confidence: number): Outline {
	const { width, height } = picture;
	const sx = width / edges.width;
	const sy = height / edges.height;
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

/** The whole picture; of a scan, without the black around its sheet. */
function allOf({ width, height }: Picture, small: Picture, edges: EdgeMap): Outline {
	const part = withoutMargins(small);
	if (!part) {
		const all = { left: 0, top: 0, right: small.width, bottom: small.height };
		return whole(width, height, rimIsPaper(edges, all));
	}
	const [sx, sy] = [width / small.width, height / small.height];
	const [left, top, right, bottom] = [part.left * sx, part.top * sy, part.right * sx, part.bottom * sy];
	const corners: Quadrilateral = [
		[left, top],
		[right, top],
		[right, bottom],
		[left, bottom]
	];
	return { corners, confidence: rimIsPaper(edges, part), kind: 'whole', cutOff: [] };
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
 * How sure it is that the rim of a part of the picture is all paper, as in a scan, 0 to 1: the rim is bright,
 * without colour, and as bright as the middle.
 */
function rimIsPaper({ width, paper }: EdgeMap, { left, top, right, bottom }: Part): number {
	const rim = new Uint32Array(256 * LEVELS);
	const middle = new Uint32Array(256 * LEVELS);
	const shorter = Math.min(right - left, bottom - top);
	const band = Math.max(2, Math.round(shorter * 0.015));
	for (let y = top; y < bottom; y += 2) {
		for (let x = left; x < right; x += 2) {
			const inset = Math.min(x - left, y - top, right - 1 - x, bottom - 1 - y);
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
