import { CLEAR, type Legibility, type LegibilityReason, type WeakPlace } from './legibility';

const WORDS: Readonly<Record<LegibilityReason, readonly [what: string, advice: string]>> = {
	blur: ['it is blurred', 'hold the camera still and tap the page to focus'],
	motion: ['the camera moved', 'rest your elbows, or let the live camera wait until it is still'],
	'low-contrast': ['the writing is faint', 'more light helps, or a heavier ink weight'],
	'low-resolution': ['too few pixels', 'go closer, so that the sheet fills the picture'],
	compression: ['the file was squeezed too hard', 'send the original picture instead of one out of a chat'],
	glare: [
		'a lamp is mirrored on the paper',
		'move the lamp or the page, and photograph again from straight above'
	],
	shadow: ['a shadow lies on it', 'photograph from the other side of the lamp'],
	'cut-off': ['part of the sheet is outside the picture', 'photograph again with all four corners in it'],
	'no-writing': ['no writing was found on it', 'see whether it is a page, and the right side of it'],
	'lost-strokes': [
		'black and white loses part of the writing',
		'take another tone if the rule sheet allows one, or a heavier ink weight'
	],
	'show-through': ['writing from the back shows through', 'lay a dark sheet under it'],
	'faint-marks': [
		'something very faint stands where nothing else is written',
		'write it more firmly if it is yours; if the other side shows through, lay a dark sheet under it'
	]
};

/** Why a page reads badly and what to do, in words for the person who photographed it. */
export function describeReasons({ reasons, score }: Pick<Legibility, 'reasons' | 'score'>): string {
	if (reasons.length === 0) {
		return score < CLEAR ? 'parts of it are hard to make out.' : 'it reads well.';
	}
	return `${reasons.map((reason) => WORDS[reason].join('; ')).join('; ')}.`;
}

/** What is wrong in one place, and what to do. */
export function adviceFor(reason: LegibilityReason): string {
	return `${WORDS[reason].join('; ')}.`;
}

/** Where on the page a place is, as people say it. */
export function placeName({ left, top, right, bottom }: WeakPlace): string {
	const x = (left + right) / 2;
	const y = (top + bottom) / 2;
	const wide = right - left > 0.6;
	const tall = bottom - top > 0.6;
	if (wide && tall) return 'Nearly everywhere';
	const down = tall
		? 'from top to bottom'
		: y < 0.33
			? 'near the top'
			: y > 0.67
				? 'near the bottom'
				: 'half way down';
	const across = wide
		? 'across the page'
		: x < 0.4
			? 'on the left'
			: x > 0.6
				? 'on the right'
				: 'in the middle';
	return `${across[0]!.toUpperCase()}${across.slice(1)}, ${down}`;
}
