import type { Candidate } from './bestQuadrilateral';
import { sheetEvidence, type Ground, type SheetEvidence } from './sheetEvidence';

/**
 * What counts, and its weight in log odds. All weights are positive: what speaks against a sheet stands with a minus.
 * Fitted by `membrana bench fit sheets` on drawn pictures; see docs/preparation.md.
 */
const TERMS: readonly (readonly [of: (e: SheetEvidence) => number, weight: number])[] = [
	[(e) => Math.min(e.score, 1.85), 6.13],
	[(e) => e.leastChange * e.seen, 4.11],
	[(e) => -e.comesBack, 4.87],
	// A small part of the picture that reaches to its rim is seldom the sheet.
	[(e) => -(1 - e.seen) * (1 - e.size), 5.92],
	// Drawn paper has next to no grain in its colour, pictures out of cameras have: less than that tells nothing.
	[(e) => -Math.min(-2.6, Math.max(-3.3, e.colours)), 3.58],
	[(e) => e.paper, 8.02],
	[(e) => Math.min(0.2, e.leastStep), 12.0]
];
const CONSTANT = -32.95;
/** Of several hypotheses that show a sheet, the one with the best edges is its outline. */
export const EDGES = 10;

export interface Likely {
	readonly candidate: Candidate;
	/** 0 to 1: that it is a sheet. */
	readonly confidence: number;
}

/** The hypothesis that is most likely the sheet, and how likely; null where none has a side in the picture. */
export function mostLikely(ground: Ground, candidates: readonly Candidate[]): Likely | null {
	let best: { candidate: Candidate; odds: number; rank: number } | null = null;
	for (const candidate of candidates) {
		const evidence = sheetEvidence(ground, candidate);
		if (evidence.seen === 0) continue;
		const odds = terms(evidence).reduce((sum, term, i) => sum + TERMS[i]![1] * term, CONSTANT);
		const rank = odds + EDGES * candidate.score;
		if (!best || rank > best.rank) best = { candidate, odds, rank };
	}
	return best && { candidate: best.candidate, confidence: 1 / (1 + Math.exp(-best.odds)) };
}

/** The terms of the log odds before their weights; fitting needs them. */
export function terms(evidence: SheetEvidence): number[] {
	return TERMS.map(([of]) => of(evidence));
}
