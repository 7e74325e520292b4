import type { Fills } from '../tone/fills';
import { faintAlone, withFaintMarks } from './faintMarks';
import { rounded, UNREADABLE, verdictOf, type Legibility, type WeakPlace } from './legibility';
import { FAINT_SCORE, measureLegibility, type LegibilityInput } from './measureLegibility';
import { weakPlaces } from './weakPlaces';
import { withoutRims } from './withoutRims';
import type { WritingMask } from './writingMask';

/** Score of a place of which nothing is known. */
const UNSURE = 0.5;
/** More of what is marked than this, faint and by itself, and nobody can be sure that it is not writing. */
const MUCH = 0.25;

/**
 * How readable the writing is: with pencil beside a pen, without the rims of filled areas. A page of which a good part is too
 * faint to be told from the other side's writing is doubtful at best.
 *
 * @param input its writing is the page's own ink, as `writingMask` finds it
 */
export function measureLetters(input: LegibilityInput, fills: Fills | null): Legibility {
	const own = (writing: WritingMask) => (fills ? withoutRims(writing, fills.rims) : writing);
	const all = withFaintMarks(input.writing, input.grey);
	const measured = measureLegibility({ ...input, writing: own(all) });
	const legibility =
		all === input.writing || measured.verdict !== 'unreadable'
			? measured
			: noWorse(measured, measureLegibility({ ...input, writing: own(input.writing) }));
	const isFaint = legibility.reasons.includes('show-through');
	const alone = isFaint ? faintAlone(all, input.dotsPerInch / 2) : null;
	if (!alone || alone.share < MUCH) return legibility;
	const { score, inGreys, reasons } = legibility;
	const held = Math.min(1, FAINT_SCORE / (inGreys ?? score));
	return {
		...legibility,
		score: rounded(score * held),
		verdict: verdictOf(score * held),
		...(inGreys !== undefined ? { inGreys: rounded(inGreys * held) } : {}),
		reasons: [...reasons.filter((reason) => reason !== 'show-through'), 'faint-marks'],
		places: [...placesOf(alone.tiles), ...legibility.places]
	};
}

/** Where marks are that may be writing; nobody can say how well they read. */
function placesOf(tiles: Float64Array): WeakPlace[] {
	const reasons = Array.from(tiles, (ink) => (ink > 0 ? 'faint-marks' : null));
	return weakPlaces(
		reasons,
		tiles.map(() => UNSURE),
		tiles
	);
}

/** Stains are faint marks as well: they alone make no page unreadable. */
function noWorse(withFaint: Legibility, { score }: Legibility): Legibility {
	const most = Math.max(withFaint.score, Math.min(score, UNREADABLE));
	return { ...withFaint, score: most, verdict: verdictOf(most) };
}
