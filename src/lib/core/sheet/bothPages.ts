import type { Picture } from '../raster/picture';
import { bestQuadrilaterals, type Candidate } from './bestQuadrilateral';
import type { EdgeMap } from './edgeMap';
import { findFold } from './fold';
import { distance, isConvex, signedArea, type Point, type Quadrilateral } from './geometry';
import type { Side, SideLines } from './sideLines';

const SIDES: readonly Side[] = ['top', 'right', 'bottom', 'left'];
/** Paper in the same light is this bright, as a share of the paper beside it. */
const LIT = 0.8;
/**
 * Beyond a fold the paper goes on at least this bright, and this part of it is lit: stone and cloth seldom are. Where
 * there is more to go by, all of it may lie in a shadow.
 */
const IN_LIGHT = { asBright: 0.5, litPart: 0.2 };
const IN_SHADOW = { asBright: 0.3, litPart: 0 };
/** How far beyond the side that is looked at, as a fraction of the way back to the opposite side. */
const BEYOND = [0.12, 0.2, 0.28, 0.36, 0.44];
const ALONG = [0.15, 0.25, 0.35, 0.45, 0.55, 0.65, 0.75, 0.85];
/** Neighbours this far apart, in pixels, tell how rough a surface is. */
const STRIDE = 4;
/** The other page may be this many times rougher than the one that was found, and this many grey levels beside. */
const ROUGHER = 2;
const GRAIN = 4;
/** Between lines of writing paper is smooth: this part of a page at least; stone and cloth are not. */
const SMOOTH = 0.3;
/** Two pages have about twice the area of one; less or more where one lies farther from the camera. */
const AREA = [1.85, 2.3] as const;
/** The far side of the other page may be this much fainter, in score. */
const LESS_SURE = 0.55;
/** Pages lie beside each other when the second is so many times as large as the first. */
const SIZE = [0.7, 1.45] as const;
/** Of which the corners may lie this far outside the picture, as a share of its size. */
const OUT = 0.08;
/** And when its score is lower by this at most, with a loss for the fold that stands for a border. */
const LESS_SURE_BESIDE = 0.75;
/** And when their corners are this near, as a share of the side of a square as large as the page. */
const NEAR = 0.08;

/**
 * The outline of an open notebook where only one of its pages was found, because the fold looks like a side: over one
 * of the sides there is more paper, up to a side as far away as the opposite one, and the side itself is a fold.
 *
 * @returns null when there is nothing of the kind
 */
export function bothPages(
	picture: Picture,
	edges: EdgeMap,
	lines: SideLines,
	one: Candidate
): Candidate | null {
	const beside = besideEachOther(picture, edges, lines, one);
	if (beside) return beside;
	const area = signedArea(one.corners);
	const wider = SIDES.flatMap((side, i) => {
		if (!paperGoesOn(edges, one, i, IN_LIGHT)) return [];
		const kept = Object.fromEntries(SIDES.map((s) => [s, s === side ? lines[s] : [one.sides[s]]]));
		return bestQuadrilaterals(edges, kept as unknown as SideLines, 6);
	});
	const fitting = wider.filter(({ corners, score }) => {
		const larger = signedArea(corners) / area;
		return larger > AREA[0] && larger < AREA[1] && score > one.score - LESS_SURE;
	});
	fitting.sort((a, b) => b.score - a.score);
	return fitting.find(({ corners }) => findFold(picture, corners)) ?? null;
}

/**
 * The outline of both pages where their upper and lower sides are not in line: over a side there is another sheet of
 * about the size of the one that was found, up to that side.
 */
function besideEachOther(
	picture: Picture,
	edges: EdgeMap,
	lines: SideLines,
	one: Candidate
): Candidate | null {
	const area = signedArea(one.corners);
	const found = SIDES.flatMap((side, i) => {
		if (!hasRoom(edges, one, i) || !paperGoesOn(edges, one, i, IN_SHADOW)) return [];
		const facing = SIDES[(i + 2) % 4]!;
		const { nx, ny, rho } = one.sides[side];
		// Of the fold it is not known whether it looks like a side from over there as well.
		const fold = { nx: -nx, ny: -ny, rho: -rho, votes: 0, border: true };
		return bestQuadrilaterals(edges, { ...lines, [facing]: [fold] }, 6).flatMap((other) => {
			const share = signedArea(other.corners) / area;
			// Corners of a page follow each other as its sides do: from its corner i runs its side i.
			const gaps = [
				distance(other.corners[(i + 3) % 4]!, one.corners[i]!),
				distance(other.corners[(i + 2) % 4]!, one.corners[(i + 1) % 4]!)
			];
			if (share < SIZE[0] || share > SIZE[1] || other.score < one.score - LESS_SURE_BESIDE) return [];
			if (Math.max(...gaps) > NEAR * Math.sqrt(area)) return [];
			const corners = one.corners.map((corner, k) =>
				k === i || k === (i + 1) % 4 ? other.corners[k]! : corner
			) as unknown as Quadrilateral;
			return isConvex(corners)
				? [{ ...one, corners, sides: { ...one.sides, [side]: other.sides[side] }, score: other.score }]
				: [];
		});
	});
	found.sort((a, b) => b.score - a.score);
	return found.find(({ corners }) => findFold(picture, corners)) ?? null;
}

/** True when a second page of the least size would lie in the picture, beyond side `i`. */
function hasRoom({ width, height }: EdgeMap, { corners }: Candidate, i: number): boolean {
	return [
		[i, (i + 3) % 4],
		[(i + 1) % 4, (i + 2) % 4]
	].every(([near, far]) => {
		const [x, y] = [0, 1].map((k) => {
			const at = corners[near!]![k as 0 | 1];
			return at + SIZE[0] * (at - corners[far!]![k as 0 | 1]);
		}) as [number, number];
		return x > -OUT * width && y > -OUT * height && x < (1 + OUT) * width && y < (1 + OUT) * height;
	});
}

/** True when what lies beyond side `i` is as bright as the page, within limits, and as smooth. */
function paperGoesOn(
	{ width, height, paper }: EdgeMap,
	{ corners }: Candidate,
	i: number,
	{ asBright, litPart }: typeof IN_LIGHT
): boolean {
	const a = corners[i]!;
	const b = corners[(i + 1) % 4]!;
	const back: Point = [
		(corners[(i + 2) % 4]![0] + corners[(i + 3) % 4]![0] - a[0] - b[0]) / 2,
		(corners[(i + 2) % 4]![1] + corners[(i + 3) % 4]![1] - a[1] - b[1]) / 2
	];
	const look = (t: number, far: number) => {
		const x = Math.round(a[0] + t * (b[0] - a[0]) + far * back[0]);
		const y = Math.round(a[1] + t * (b[1] - a[1]) + far * back[1]);
		if (x < 0 || y < 0 || x + STRIDE >= width || y + STRIDE >= height) return null;
		const value = paper.data[y * width + x]!;
		const right = paper.data[y * width + x + STRIDE]!;
		const under = paper.data[(y + STRIDE) * width + x]!;
		return { value, roughness: Math.max(Math.abs(value - right), Math.abs(value - under)) };
	};
	const ratios: number[] = [];
	const rough: { outside: number[]; inside: number[] } = { outside: [], inside: [] };
	for (const t of ALONG) {
		for (const far of BEYOND) {
			const outside = look(t, -far);
			const inside = look(t, far);
			if (!outside || !inside) continue;
			rough.outside.push(outside.roughness);
			rough.inside.push(inside.roughness);
			ratios.push(outside.value / Math.max(1, inside.value));
		}
	}
	const pairs = rough.outside.length;
	const part = (least: number) => ratios.filter((ratio) => ratio > least).length / pairs;
	if (pairs < 0.6 * ALONG.length * BEYOND.length) return false;
	if (part(asBright) < 0.7 || part(LIT) < litPart) return false;
	const smoothPart = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(SMOOTH * values.length)]!;
	return smoothPart(rough.outside) < ROUGHER * smoothPart(rough.inside) + GRAIN;
}
