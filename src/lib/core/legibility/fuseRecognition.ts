import { wholeScore } from './measureLegibility';
import type { TextLine } from '../reading/pageReading';
import {
	CLEAR,
	PROFILE_ROWS,
	rounded,
	UNREADABLE,
	verdictOf,
	type Legibility,
	type LegibilityReason
} from './legibility';

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
/** A page that looks clear may hold drawings, formulas or a script that the reader never learnt. */
const READS_WORSE = 0.6;
/**
 * Where it reads worse than this, nobody can be sure which it is: the page is doubtful. Where it reads at least this
 * well, it is not unreadable, whatever it looks like.
 */
const READS_BADLY = 0.6;
const READS_FAIRLY = 0.8;
const DOUBTFUL = 0.5;
/** Where a page looks hard to read, and is read badly, both agree. */
const READS_WORSE_TOO = 0.5;
/** So few letters tell half of what many would. */
const FEW = 20;

/** From this score on, what only made the page hard to read is no longer named. */
const READS_WELL = 0.9;
const HARMLESS: readonly LegibilityReason[] = ['blur', 'motion', 'low-resolution', 'compression', 'shadow'];

/** Fewer letters than this of which the reader is sure, and fewer guessed ones, are no writing. */
const LEAST_READ = 4;
const MOST_GUESSED = 60;
const SURE = 0.6;
/** Score of a page on which nothing was read, at most: doubtful. */
const NOTHING_READ = 0.6;
/** And where nothing was made out as writing either, though something is there: blank, or lost. */
const NOTHING_AT_ALL = 0.25;
/** Of writing that was read although it is too faint to be made out. */
const FAINT_AT_BEST = 0.72;

type Read = Pick<TextLine, 'text' | 'confidence' | 'box'>;

/**
 * What is known of a page, once it has been read: what the reader made of it stands witness beside what was measured,
 * band by band where it read something. What lies under a reflected lamp, or was not found to be writing at all, it
 * cannot speak for. The weak places stay as they were measured.
 *
 * @param lines what was read off the page
 */
export function fuseRecognition<Facts extends { readonly blank: boolean; readonly legibility: Legibility }>(
	facts: Facts,
	lines: readonly Read[]
): Facts {
	if (facts.blank) {
		// Of a bare page there is nothing to say.
		return facts.legibility.reasons.includes('no-writing')
			? { ...facts, legibility: barely(facts.legibility, lines) }
			: facts;
	}
	const legibility = witnessed(facts.legibility, lines);
	return { ...facts, legibility: isUnwritten(lines) ? withoutWriting(legibility) : legibility };
}

/** Hardly a letter was made out, and no more than what patterns are taken for. */
function isUnwritten(lines: readonly Read[]): boolean {
	const letters = (of: readonly Read[]) =>
		of.reduce((sum, line) => sum + line.text.replaceAll(/\s/g, '').length, 0);
	return (
		letters(lines) < MOST_GUESSED && letters(lines.filter((line) => line.confidence >= SURE)) < LEAST_READ
	);
}

/** Writing that was not made out as such, but may have been read. */
function barely(legibility: Legibility, lines: readonly Read[]): Legibility {
	if (isUnwritten(lines)) return { ...legibility, score: NOTHING_AT_ALL, verdict: verdictOf(NOTHING_AT_ALL) };
	const { right } = howRead(lines);
	const score = rounded(Math.min(FAINT_AT_BEST, right));
	return { ...legibility, score, verdict: verdictOf(score), reasons: ['low-contrast'], readRight: right };
}

/** A picture on which nothing could be read may be no page at all, or one in a script that the reader never learnt. */
function withoutWriting(legibility: Legibility): Legibility {
	const score = Math.min(legibility.score, NOTHING_READ);
	return {
		...legibility,
		score,
		verdict: verdictOf(score),
		reasons: ['no-writing', ...legibility.reasons]
	};
}

/** How many letters were read, and which share of them probably right. */
function howRead(lines: readonly Read[]): { letters: number; right: number } {
	const letters = lines.reduce((sum, l) => sum + l.text.length, 0);
	const sure = lines.reduce((sum, l) => sum + l.text.length * l.confidence, 0) / Math.max(1, letters);
	return { letters, right: readRight(sure) };
}

function witnessed(measured: Legibility, lines: readonly Read[]): Legibility {
	const { letters, right } = howRead(lines);
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
	const isDoubtful = !looksHard && letters >= FEW && right < READS_BADLY;
	const floor = isDoubtful || looksHard ? 0 : CLEAR;
	const least = letters >= FEW && right >= READS_FAIRLY ? UNREADABLE : 0;
	// The worse it was read, the lower among the doubtful ones.
	const most = isDoubtful ? DOUBTFUL + (CLEAR - 0.01 - DOUBTFUL) * (right / READS_BADLY) : 1;
	const score = rounded(Math.min(most, Math.max(floor, least, moved)));
	return {
		...measured,
		score,
		verdict: staysDoubtful(measured) && score >= CLEAR ? 'doubtful' : verdictOf(score),
		reasons: measured.reasons.filter((reason) => score < READS_WELL || !HARMLESS.includes(reason)),
		profile: profile.map(rounded),
		...(letters > 0 ? { readRight: Math.round(100 * right) / 100 } : {})
	};
}

/**
 * Of writing so faint that it tires people, however well machines still read it; of what is gone in black and white, or may
 * be writing too faint to be told: whoever reads the rest knows nothing of that.
 */
const UNHEARD: readonly LegibilityReason[] = ['low-contrast', 'lost-strokes', 'faint-marks'];

function staysDoubtful({ verdict, reasons }: Legibility): boolean {
	return verdict !== 'clear' && UNHEARD.some((reason) => reasons.includes(reason));
}

/** Of a page's bands as of its tiles: mostly their mean, and partly the worst of them. */
function ofBands(profile: readonly number[], share?: readonly number[]): number {
	const weight = profile.map((score, i) => (score < 0 ? 0 : (share?.[i] ?? 1)));
	if (weight.every((w) => w === 0)) return 0;
	return wholeScore(Float64Array.from(profile), Float64Array.from(weight));
}

function readRight(sure: number): number {
	const next = READ_RIGHT.findIndex(([at]) => at > sure);
	if (next < 0) return 1;
	const [a, from] = READ_RIGHT[next - 1]!;
	const [b, to] = READ_RIGHT[next]!;
	return from + ((to - from) * (sure - a)) / (b - a);
}
