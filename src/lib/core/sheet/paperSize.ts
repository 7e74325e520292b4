/** Paper sizes that a flattened page may snap to, in millimetres, upright (ISO 216, ANSI Y14.1). */
export const PAPER_SIZES = {
	A4: [210, 297],
	A5: [148, 210],
	Letter: [215.9, 279.4],
	Legal: [215.9, 355.6]
} as const;

export type PaperName = keyof typeof PAPER_SIZES;

/** Points of 1/72 inch in a millimetre. */
export const POINTS_PER_MM = 72 / 25.4;

/** How far from a known size's proportions a sheet may be and still be that size. */
const SNAP = 0.03;

/**
 * The paper a sheet of these proportions (width / height) is, or null when none is within 3 %.
 * A4 and A5 have the same proportions and cannot be told apart without a scale: `expected`, the
 * rule sheet's size, decides when its proportions fit; otherwise A4.
 */
export function paperSize(ratio: number, expected?: PaperName): PaperName | null {
	const upright = ratio > 1 ? 1 / ratio : ratio;
	const error = (name: PaperName) => {
		const [w, h] = PAPER_SIZES[name];
		return Math.abs(upright / (w / h) - 1);
	};
	if (expected && error(expected) <= SNAP) return expected;
	let best: PaperName | null = null;
	for (const name of ['A4', 'Letter', 'Legal'] as const) {
		if (error(name) <= SNAP && (best === null || error(name) < error(best))) best = name;
	}
	return best;
}
