import type { Picture } from '../raster/picture';
import { bestQuadrilaterals, type Candidate } from './bestQuadrilateral';
import type { EdgeMap } from './edgeMap';
import { findFold } from './fold';
import { signedArea, type Point } from './geometry';
import type { Side, SideLines } from './sideLines';

const SIDES: readonly Side[] = ['top', 'right', 'bottom', 'left'];
/** Beyond a fold the paper goes on at least this bright, as a share of the paper inside. */
const AS_BRIGHT = 0.5;
/** Where no shadow lies it is this bright: in a fifth of it at least. Stone and cloth seldom are. */
const LIT = 0.8;
const LIT_PART = 0.2;
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
	const area = signedArea(one.corners);
	const wider = SIDES.flatMap((side, i) => {
		if (!paperGoesOn(edges, one, i)) return [];
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

/** True when what lies beyond side `i` is as bright as the page, and as smooth. */
function paperGoesOn({ width, height, paper }: EdgeMap, { corners }: Candidate, i: number): boolean {
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
	if (part(AS_BRIGHT) < 0.7 || part(LIT) < LIT_PART) return false;
	const smoothPart = (values: number[]) => values.sort((a, b) => a - b)[Math.floor(SMOOTH * values.length)]!;
	return smoothPart(rough.outside) < ROUGHER * smoothPart(rough.inside) + GRAIN;
}
