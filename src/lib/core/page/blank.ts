import type { PageReading } from '../reading/pageReading';
import type { PageFacts } from './preparePage';

/**
 * Whether a page is blank: `yes` only where there is nothing on it but what was printed for everybody; `perhaps` where
 * nothing was made out as writing although something is there.
 */
export type Blank = 'no' | 'perhaps' | 'yes';

/** So few letters are what a reader makes of dust or of the edge of a shadow. */
const LEAST_LETTERS = 6;

/** The one place where it is decided; reading is null while the page has not been read. */
export function blankOf(
	facts: Pick<PageFacts, 'blank' | 'bare' | 'legibility'> | null,
	reading: Pick<PageReading, 'lines' | 'startsOnly'> | null
): Blank {
	if (!facts) return 'no';
	const letters = reading?.lines.reduce((sum, line) => sum + line.text.length, 0) ?? 0;
	if (letters >= LEAST_LETTERS) return 'no';
	if (facts.blank) return facts.bare ? 'yes' : 'perhaps';
	return reading && !reading.startsOnly && facts.legibility.verdict === 'unreadable' ? 'perhaps' : 'no';
}
