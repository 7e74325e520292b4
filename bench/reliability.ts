/** An answer with its confidence, and whether it was right. */
export interface Judged {
	readonly confidence: number;
	readonly right: boolean;
}

const BOUNDS = [0, 0.5, 0.9, 1.01] as const;

/** How often answers are right, by their confidence: one line a band. */
export function reliability(all: readonly Judged[]): string[] {
	return BOUNDS.slice(1).map((to, i) => {
		const from = BOUNDS[i]!;
		const of = all.filter((a) => a.confidence >= from && a.confidence < to);
		return `confidence ${from.toFixed(1)} to ${Math.min(1, to).toFixed(1)}: right ${of.filter((a) => a.right).length} of ${of.length}`;
	});
}
