import type { WritingMask } from '../legibility/writingMask';
import type { Picture, Plane } from '../raster/picture';
import type { Fills } from './fills';
import { isKept, KEEPS } from './strokesKept';
import type { ToneName } from './tone';

/** How a page comes out in each tone. */
export interface ToneMeasures {
	/** Share of the writing that is still there in black and white, 0 to 1. */
	readonly kept: number;
	/** Share of the writing in another colour than the rest of it, 0 to 1. */
	readonly coloured: number;
	/** Areas filled with colour or grey, which in black and white are gone. */
	readonly fills: 'coloured' | 'grey' | null;
	/** Legibility in each tone, 0 to 1. */
	readonly legibility: Readonly<Record<ToneName, number>>;
}

export interface ToneSuggestion extends ToneMeasures {
	readonly name: ToneName;
	/** Why, as part of a sentence. */
	readonly reason: string;
}

/** From this share on, a second colour of ink means something. */
const TWO_INKS = 0.06;
/** Ink is coloured when its channels differ by this much of its own darkness. */
const SATURATED = 0.22;
const HUES = 12;
/** Grey levels from white within which a colour cannot be told. */
const FAINT = 60;

/**
 * Measures how much of the writing comes through in each tone.
 *
 * @param even the page with even light
 * @param binary the same page in black and white
 * @param writing where there is writing, at half the size
 * @param reads legibility of the page in greys and in black and white, 0 to 1
 * @param filled its filled areas
 */
export function measureTones(
	even: Picture,
	binary: Plane,
	writing: WritingMask,
	reads: { readonly greys: number; readonly ink: number },
	filled: Fills | null
): ToneMeasures {
	const fills = !filled ? null : filled.isColoured ? 'coloured' : 'grey';
	const { width, channels, data } = even;
	let count = 0;
	let kept = 0;
	const hues = new Float64Array(HUES);
	let grey = 0;
	for (let y = 1; y < writing.height - 1; y++) {
		for (let x = 1; x < writing.width - 1; x++) {
			if (!writing.data[y * writing.width + x]) continue;
			count++;
			const i = 2 * (y * width + x);
			if (isKept(binary, x, y)) kept++;
			// The rim of a stroke is paper as much as ink: the darkest of the four tells its colour.
			let p = i * channels;
			for (const q of [i + 1, i + width, i + width + 1]) {
				if (data[q * channels + 1]! < data[p + 1]!) p = q * channels;
			}
			const hue = hueOf(data[p]!, data[p + 1]!, data[p + 2]!);
			if (hue === 'grey') grey++;
			else if (hue !== 'faint') hues[hue]!++;
		}
	}
	if (count === 0)
		return { kept: 1, coloured: 0, fills, legibility: { colour: 1, greyscale: 1, 'black-and-white': 1 } };
	// The inks are the strongest hue with its neighbours, and all that is not of it.
	const groups = [
		grey,
		...Array.from(hues, (n, h) => n + hues[(h + 1) % HUES]! + hues[(h + HUES - 1) % HUES]!)
	];
	const most = Math.max(...groups);
	const told = grey + hues.reduce((sum, n) => sum + n, 0);
	const share = kept / count;
	return {
		kept: share,
		coloured: told > 0 ? 1 - most / told : 0,
		fills,
		legibility: {
			colour: reads.greys,
			greyscale: reads.greys,
			'black-and-white': reads.ink
		}
	};
}

/** One of HUES hues, grey (and black), or too faint to tell. */
function hueOf(r: number, g: number, b: number): number | 'grey' | 'faint' {
	const most = Math.max(r, g, b);
	const least = Math.min(r, g, b);
	if (255 - least < FAINT) return 'faint';
	if (most - least < SATURATED * (255 - least)) return 'grey';
	const range = most - least;
	const sixth = most === r ? (g - b) / range : most === g ? 2 + (b - r) / range : 4 + (r - g) / range;
	return Math.floor(((sixth + 6) % 6) * (HUES / 6)) % HUES;
}

/** The tone in which a page reads best among those allowed; of equals, the one that takes less room. */
export function suggestTone(measures: ToneMeasures, allowed: readonly ToneName[]): ToneSuggestion {
	const { kept, coloured, fills } = measures;
	const may = (name: ToneName) => allowed.includes(name);
	if (coloured >= TWO_INKS && may('colour')) {
		return { ...measures, name: 'colour', reason: 'it is written in more than one colour' };
	}
	if (fills === 'coloured' && may('colour')) {
		return { ...measures, name: 'colour', reason: 'parts of it are filled with colour' };
	}
	if (fills && may('greyscale')) {
		return {
			...measures,
			name: 'greyscale',
			reason: 'black and white would lose what is filled with grey or colour'
		};
	}
	if (kept >= KEEPS && may('black-and-white')) {
		return {
			...measures,
			name: 'black-and-white',
			reason: 'every stroke comes through, in the smallest file'
		};
	}
	const lost = `black and white would lose ${Math.max(1, Math.round(100 * (1 - kept)))} % of the writing`;
	const whole = (['greyscale', 'colour'] as const).find(may);
	if (whole) return { ...measures, name: whole, reason: kept < KEEPS ? lost : 'nothing is lost in it' };
	return { ...measures, name: 'black-and-white', reason: 'it is the only tone allowed here' };
}
