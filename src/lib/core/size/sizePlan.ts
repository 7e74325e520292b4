import type { PageWeight } from './pageWeights';

/** What is chosen for each page; or, where nothing fits, the least that can be reached. */
export interface SizePlan {
	readonly fits: boolean;
	/** For each page the index of its weight. */
	readonly choice: readonly number[];
	/** Sum of the chosen images. */
	readonly bytes: number;
	/** The greatest loss of a page. */
	readonly worst: number;
}

/** A page is not made worse than this, whatever the limit. */
export const WORST_LOSS = 0.4;

/**
 * Chooses a version of every page so that all of them together stay under a limit at the least sum of losses. A
 * multiple-choice knapsack (Kellerer, Pferschy, Pisinger 2004, ch. 11): steps along the lower convex hull of each page,
 * cheapest loss a byte first, are optimal but for the last step; what is left over is then spent on the pages that gain
 * most.
 *
 * @param pages the weights of each page, at least one each
 * @param limit bytes for all images together
 */
export function planSizes(pages: readonly (readonly PageWeight[])[], limit: number): SizePlan {
	const fronts = pages.map(paretoFront);
	const hulls = fronts.map(lowerHull);
	const at = hulls.map(() => 0);
	let bytes = hulls.reduce((sum, hull) => sum + hull[0]!.bytes, 0);
	while (bytes > limit) {
		let best = -1;
		let cheapest = Infinity;
		hulls.forEach((hull, page) => {
			const now = hull[at[page]!]!;
			const next = hull[at[page]! + 1];
			if (!next) return;
			const price = (next.loss - now.loss) / (now.bytes - next.bytes);
			if (price < cheapest) [best, cheapest] = [page, price];
		});
		if (best < 0) break;
		const hull = hulls[best]!;
		bytes += hull[at[best]! + 1]!.bytes - hull[at[best]!]!.bytes;
		at[best]!++;
	}
	const fits = bytes <= limit;
	const chosen = hulls.map((hull, page) => hull[at[page]!]!);
	if (fits) bytes = spendRest(fronts, chosen, bytes, limit);
	return {
		fits,
		choice: chosen.map((c) => c.index),
		bytes,
		worst: Math.max(0, ...chosen.map((c) => c.loss))
	};
}

interface Weighed {
	readonly index: number;
	readonly bytes: number;
	readonly loss: number;
}

/** Versions that no other beats in both, from the finest to the smallest. */
function paretoFront(weights: readonly PageWeight[]): Weighed[] {
	const all = weights.map(({ bytes, loss }, index) => ({ index, bytes, loss }));
	const usable = all.filter((w) => w.loss <= WORST_LOSS);
	const sorted = (usable.length > 0 ? usable : all.slice(0, 1)).sort(
		(a, b) => a.loss - b.loss || a.bytes - b.bytes
	);
	const front: Weighed[] = [];
	for (const w of sorted) if (front.length === 0 || w.bytes < front.at(-1)!.bytes) front.push(w);
	return front;
}

/** The versions of a front on its lower convex hull: each step costs more loss a byte than the one before. */
function lowerHull(front: readonly Weighed[]): Weighed[] {
	const hull: Weighed[] = [];
	const price = (a: Weighed, b: Weighed) => (b.loss - a.loss) / (a.bytes - b.bytes);
	for (const w of front) {
		while (hull.length > 1 && price(hull.at(-2)!, hull.at(-1)!) >= price(hull.at(-1)!, w)) hull.pop();
		hull.push(w);
	}
	return hull;
}

/** Takes finer versions where there is room for them, the largest gain first; returns the new sum. */
function spendRest(
	fronts: readonly (readonly Weighed[])[],
	chosen: Weighed[],
	bytes: number,
	limit: number
): number {
	for (;;) {
		let best: { page: number; to: Weighed } | null = null;
		let gain = 0;
		fronts.forEach((front, page) => {
			for (const to of front) {
				const better = chosen[page]!.loss - to.loss;
				if (better > gain && bytes + to.bytes - chosen[page]!.bytes <= limit) {
					gain = better;
					best = { page, to };
				}
			}
		});
		if (!best) return bytes;
		const { page, to } = best as { page: number; to: Weighed };
		bytes += to.bytes - chosen[page]!.bytes;
		chosen[page] = to;
	}
}
