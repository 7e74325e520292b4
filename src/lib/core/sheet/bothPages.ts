import type { Picture } from '../raster/picture';
import { bestQuadrilaterals, type Candidate } from './bestQuadrilateral';
import type { EdgeMap } from './edgeMap';
import { findFold } from './fold';
import { signedArea, type Point } from './geometry';
import type { Side, SideLines } from './sideLines';

const SIDES: readonly Side[] = ['top', 'right', 'bottom', 'left'];
/** Beyond a fold the paper goes on at least this bright, as a share of the paper inside. */
const AS_BRIGHT = 0.5;
/** How far beyond the side that is looked at, as a fraction of the way back to the opposite side. */
const BEYOND = [0.15, 0.3, 0.45];
/** Two pages have about twice the area of one. */
const AREA = [1.85, 2.2] as const;
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

/** True when the picture is as bright on a patch beyond side `i` as on its mirror image inside. */
function paperGoesOn({ width, height, paper }: EdgeMap, { corners }: Candidate, i: number): boolean {
	const a = corners[i]!;
	const b = corners[(i + 1) % 4]!;
	const back: Point = [
		(corners[(i + 2) % 4]![0] + corners[(i + 3) % 4]![0] - a[0] - b[0]) / 2,
		(corners[(i + 2) % 4]![1] + corners[(i + 3) % 4]![1] - a[1] - b[1]) / 2
	];
	let pairs = 0;
	let bright = 0;
	for (const t of [0.2, 0.35, 0.5, 0.65, 0.8]) {
		for (const far of BEYOND) {
			const at = (sign: number) => {
				const x = Math.round(a[0] + t * (b[0] - a[0]) + sign * far * back[0]);
				const y = Math.round(a[1] + t * (b[1] - a[1]) + sign * far * back[1]);
				return x >= 0 && y >= 0 && x < width && y < height ? paper.data[y * width + x]! : null;
			};
			const outside = at(-1);
			const inside = at(1);
			if (outside === null || inside === null) continue;
			pairs++;
			if (outside > AS_BRIGHT * inside) bright++;
		}
	}
	return pairs >= 10 && bright >= 0.7 * pairs;
}
