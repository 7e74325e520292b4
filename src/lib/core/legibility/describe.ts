import type { Legibility, LegibilityReason } from './legibility';

const WORDS: Readonly<Record<LegibilityReason, string>> = {
	blur: 'it is blurred; hold the camera still and tap the page to focus',
	'low-contrast': 'the writing is faint; more light helps, or a heavier ink weight',
	'low-resolution': 'too few pixels; go closer, so that the sheet fills the picture',
	glare: 'a lamp is mirrored on the paper; move it or the page',
	shadow: 'a shadow lies on it; photograph from the other side of the lamp',
	'cut-off': 'part of the sheet is outside the picture',
	'show-through': 'writing from the back shows through; lay a dark sheet under it'
};

/** Why a page reads badly and what to do, in words for the person who photographed it. */
export function describeReasons({ reasons, score }: Pick<Legibility, 'reasons' | 'score'>): string {
	if (reasons.length === 0) {
		return score < 0.6 ? 'parts of it are hard to make out.' : 'it reads well.';
	}
	return `${reasons.map((r) => WORDS[r]).join('; ')}.`;
}
