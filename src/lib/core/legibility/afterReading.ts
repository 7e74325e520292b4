import { wholeScore } from './measureLegibility';
import type { TextLine } from '../reading/pageReading';
import { CLEAR, PROFILE_ROWS, verdictOf, type Legibility, type LegibilityReason } from './legibility';

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

type Read = Pick<TextLine, 'text' | 'confidence' | 'box'>;

/**
 * What is known of a page, once it has been read: what the reader made of it stands witness beside what was measured,
 * band by band where it read something. What lies under a reflected lamp, or was not found to be writing at all, it
 * cannot speak for. The weak places stay as they were measured.
 *
 * @param lines what was read off the page
 */
export function afterReading<Facts extends { readonly blank: boolean; readonly legibility: Legibility }>(
	facts: Facts,
	lines: readonly Read[]
): Facts {
	return facts.blank ? facts : { ...facts, legibility: witnessed(facts.legibility, lines) };
}

function witnessed(measured: Legibility, lines: readonly Read[]): Legibility {
	const letters = lines.reduce((sum, l) => sum + l.text.length, 0);
	const sure = lines.reduce((sum, l) => sum + l.text.length * l.confidence, 0) / Math.max(1, letters);
	const right = readRight(sure);
	const looksHard = measured.score < CLEAR;
	const weight = looksHard ? 1 : letters / (letters + FEW);
	const burnt = measured.places.filter((p) => p.reason === 'glare');
	const profile = measured.profile.map((score, row) => {
		if (score < 0) return score;
		const [top, bottom] = [row / PROFILE_ROWS, (row + 1) / PROFILE_ROWS];
		const isRead = lines.some(({ box }) => box[1] < bottom && box[3] > top);
		// Writing that looks hard and is not even found is lost; on a page that reads well it may be dirt.
		if (!isRead) return looksHard && right <= measured.score ? score * (1 - READS_WORSE_TOO) : score;
		if (right > score) {
			const isBurnt = burnt.some((p) => p.top < bottom && p.bottom > top);
			return isBurnt ? score : score + READS_BETTER * weight * (right - score);
		}
		const pull = looksHard ? READS_WORSE_TOO : READS_WORSE;
		return score + pull * weight * (right - score);
	});
	const moved = measured.score + ofBands(profile, measured.share) - ofBands(measured.profile, measured.share);
	const score = round(Math.min(1, Math.max(looksHard ? 0 : CLEAR, moved)));
	return {
		...measured,
		score,
		verdict: isFaint(measured) && score >= CLEAR ? 'doubtful' : verdictOf(score),
		reasons: measured.reasons.filter((reason) => score < READS_WELL || !HARMLESS.includes(reason)),
		profile: profile.map(round),
		...(letters > 0 ? { readRight: Math.round(100 * right) / 100 } : {})
	};
}

/** Writing so faint that it tires people, however well machines still read it. */
function isFaint({ verdict, reasons }: Legibility): boolean {
	return verdict !== 'clear' && reasons.includes('low-contrast');
}

/** Of a page's bands as of its tiles: mostly their mean, and partly the worst of them. */
function ofBands(profile: readonly number[], share?: readonly number[]): number {
	const weight = profile.map((score, i) => (score < 0 ? 0 : (share?.[i] ?? 1)));
	if (weight.every((w) => w === 0)) return 0;
	return wholeScore(Float64Array.from(profile), Float64Array.from(weight));
}

function round(score: number): number {
	return Math.round(1000 * score) / 1000;
}

function readRight(sure: number): number {
	const next = READ_RIGHT.findIndex(([at]) => at > sure);
	if (next < 0) return 1;
	const [a, from] = READ_RIGHT[next - 1]!;
	const [b, to] = READ_RIGHT[next]!;
	return from + ((to - from) * (sure - a)) / (b - a);
}
