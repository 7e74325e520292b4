import type { TextLine } from '../reading/pageReading';
import { CLEAR, verdictOf, type Legibility, type LegibilityReason } from './legibility';

// Fitted, with the rest, to the errors of the text reader on pages made worse step by step; see docs/legibility.md.

/** How sure the reader was on average, and the share of letters that it read right then. */
const READ_RIGHT: readonly (readonly [sure: number, right: number])[] = [
	[0, 0],
	[0.32, 0.145],
	[0.47, 0.24],
	[0.54, 0.31],
	[0.62, 0.4],
	[0.67, 0.55],
	[0.74, 0.66],
	[0.81, 0.75],
	[0.86, 0.82],
	[0.92, 0.93],
	[0.95, 0.965],
	[0.98, 0.99],
	[1, 1]
];
/** What has been read well can be read, whatever it looks like. */
const READS_BETTER = 0.9;
/** A clear page may hold drawings, formulas or a script that the reader never learnt: it does not fall below clear. */
const READS_WORSE = 0.3;
/** Where a page looks hard to read, and is read badly, both agree. */
const READS_WORSE_TOO = 0.5;
/** So few letters tell half of what many would. */
const FEW = 20;

/** From this score on, what only made the page hard to read is no longer named. */
const READS_WELL = 0.9;
const HARMLESS: readonly LegibilityReason[] = ['blur', 'motion', 'low-resolution', 'compression', 'shadow'];

/**
 * What is known of a page, once it has been read: what the reader made of it stands witness beside what was measured.
 * The weak places stay as they were measured.
 *
 * @param lines what was read off the page
 */
export function afterReading<Facts extends { readonly blank: boolean; readonly legibility: Legibility }>(
	facts: Facts,
	lines: readonly Pick<TextLine, 'text' | 'confidence'>[]
): Facts {
	return facts.blank ? facts : { ...facts, legibility: witnessed(facts.legibility, lines) };
}

function witnessed(
	measured: Legibility,
	lines: readonly Pick<TextLine, 'text' | 'confidence'>[]
): Legibility {
	const letters = lines.reduce((sum, l) => sum + l.text.length, 0);
	const sure = lines.reduce((sum, l) => sum + l.text.length * l.confidence, 0) / Math.max(1, letters);
	const right = readRight(sure);
	const looksHard = measured.score < CLEAR;
	const weight = looksHard ? 1 : letters / (letters + FEW);
	const pull = right > measured.score ? READS_BETTER : looksHard ? READS_WORSE_TOO : READS_WORSE;
	const moved = measured.score + pull * weight * (right - measured.score);
	const score = Math.round(1000 * (looksHard ? moved : Math.max(CLEAR, moved))) / 1000;
	return {
		...measured,
		score,
		verdict: verdictOf(score),
		reasons: measured.reasons.filter((reason) => score < READS_WELL || !HARMLESS.includes(reason)),
		...(letters > 0 ? { readRight: Math.round(100 * right) / 100 } : {})
	};
}

function readRight(sure: number): number {
	const next = READ_RIGHT.findIndex(([at]) => at > sure);
	if (next < 0) return 1;
	const [a, from] = READ_RIGHT[next - 1]!;
	const [b, to] = READ_RIGHT[next]!;
	return from + ((to - from) * (sure - a)) / (b - a);
}
