import { shrinkTo } from '../../src/lib/core/raster/shrink';
import { bestQuadrilaterals } from '../../src/lib/core/sheet/bestQuadrilateral';
import { edgeMap } from '../../src/lib/core/sheet/edgeMap';
import type { Point, Quadrilateral } from '../../src/lib/core/sheet/geometry';
import { EDGES, terms } from '../../src/lib/core/sheet/mostLikely';
import { groundOf, sheetEvidence } from '../../src/lib/core/sheet/sheetEvidence';
import { sideLines } from '../../src/lib/core/sheet/sideLines';
import { drawnPictures, type DrawnKind } from '../drawnPictures';
import { overlapWithin } from '../overlapWithin';

/** Outlines better than RIGHT are right before they are refined; those between are not fitted to. */
const RIGHT = 0.94;
const WRONG = 0.85;
const ROUNDS = 4;
const STEPS = 20_000;
/** Keeps weights from growing where the data leaves them free. */
const RIDGE = 0.5;

/**
 * Sides that are not straight would make straight ones count for little, and sheets be made up; what stands on a corner has
 * its sides in other families; and print out of focus is to be told by weights that never saw it.
 */
const JUDGED_ONLY: readonly DrawnKind[] = ['curled sheet', 'on a corner', 'blurred print'];

interface Hypothesis {
	readonly terms: readonly number[];
	readonly edges: number;
	readonly overlap: number;
}

/**
 * Fits the weights of `mostLikely`: logistic regression with weights that cannot be negative, on the hypothesis that
 * is taken of each drawn picture; which one that is depends on the weights, so it is done several times over.
 */
export function fitSheets(each: number, firstSeed: number, print: (line: string) => void): void {
	const pictures: Hypothesis[][] = [];
	for (const { kind, picture, right } of drawnPictures(each, firstSeed)) {
		if (JUDGED_ONLY.includes(kind)) continue;
		const small = shrinkTo(picture, 480);
		const scale = picture.width / small.width;
		const edges = edgeMap(small);
		const ground = groundOf(small);
		const size = [picture.width, picture.height] as const;
		pictures.push(
			bestQuadrilaterals(edges, sideLines(edges), 12).flatMap((candidate) => {
				const evidence = sheetEvidence(ground, candidate);
				if (evidence.seen === 0) return [];
				const corners = candidate.corners.map(([x, y]): Point => [x * scale, y * scale]);
				const overlaps = right.map((r) => overlapWithin(size, corners as unknown as Quadrilateral, r));
				return [{ terms: terms(evidence), edges: candidate.score, overlap: Math.max(0, ...overlaps) }];
			})
		);
	}
	let weights: number[] | null = null;
	for (let round = 0; round < ROUNDS; round++) {
		const taken = pictures.flatMap((all) => {
			const rank = (h: Hypothesis) => (weights ? odds(weights, h.terms) + EDGES * h.edges : h.edges);
			const best = [...all].sort((a, b) => rank(b) - rank(a))[0];
			return best && (best.overlap >= RIGHT || best.overlap <= WRONG) ? [best] : [];
		});
		weights = fit(
			taken.map((h) => h.terms),
			taken.map((h) => Number(h.overlap >= RIGHT))
		);
		print(
			`round ${round + 1}: ${taken.length} pictures, weights ${weights.map((w) => w.toFixed(2)).join(', ')}`
		);
	}
}

/** Log odds; the last weight is the constant. */
function odds(weights: readonly number[], values: readonly number[]): number {
	return values.reduce((sum, v, i) => sum + weights[i]! * v, weights.at(-1)!);
}

/** Gradient ascent on the likelihood, on values brought to one scale; weights under 0 are put to 0. */
function fit(rows: readonly (readonly number[])[], right: readonly number[]): number[] {
	const count = rows[0]!.length;
	const mean = Array.from({ length: count }, (_, i) => rows.reduce((s, r) => s + r[i]!, 0) / rows.length);
	const spread = mean.map(
		(m, i) => Math.sqrt(rows.reduce((s, r) => s + (r[i]! - m) ** 2, 0) / rows.length) + 1e-9
	);
	const scaled = rows.map((r) => r.map((v, i) => (v - mean[i]!) / spread[i]!));
	const weights = new Array<number>(count + 1).fill(0);
	for (let step = 0; step < STEPS; step++) {
		const gradient = weights.map((w, i) => (i < count ? -RIDGE * w : 0));
		scaled.forEach((row, n) => {
			const error = right[n]! - 1 / (1 + Math.exp(-odds(weights, row)));
			for (let i = 0; i < count; i++) gradient[i]! += error * row[i]!;
			gradient[count]! += error;
		});
		for (let i = 0; i <= count; i++) {
			weights[i]! += (4 / rows.length) * gradient[i]!;
			if (i < count) weights[i] = Math.max(0, weights[i]!);
		}
	}
	const unscaled = weights.slice(0, count).map((w, i) => w / spread[i]!);
	return [...unscaled, weights[count]! - unscaled.reduce((s, w, i) => s + w * mean[i]!, 0)];
}
