import type { FloatPlane, Picture, Plane } from '../raster/picture';
import { KEEPS } from '../tone/strokesKept';
import {
	CLEAR,
	PROFILE_ROWS,
	rounded,
	UNREADABLE,
	verdictOf,
	type Legibility,
	type LegibilityReason
} from './legibility';
import { glareOf, keptInTiles, lightOf, measureTiles, TILE_COLUMNS, TILES, type TileMeasures } from './tiles';
import { weakPlaces } from './weakPlaces';
import type { WritingMask } from './writingMask';

export interface LegibilityInput {
	/** The page with even light, at `dotsPerInch`. */
	readonly grey: Plane;
	/** Writing on the same page at half its size. */
	readonly writing: WritingMask;
	/** Resolution of the page as it was photographed: pixels of the source in one inch of paper. */
	readonly sourceDotsPerInch: number;
	readonly dotsPerInch: number;
	/** The page before its light was evened out, and the light that was found. */
	readonly flat: Picture;
	readonly light: FloatPlane;
	/** Standard deviation of bare paper, in grey levels of the evened page, before white clips. */
	readonly noise: number;
	/** Mean step of the file's quantisation; absent when it is not known. */
	readonly quantisation?: number;
	readonly cutOff: boolean;
	/** The page in black and white, 0 for ink, where that is all that will be seen of it. */
	readonly binary?: Plane;
}

// The next constants were fitted to the errors of the text reader on pages made worse step by step; see
// docs/legibility.md, and `membrana bench legibility` to measure again. Each pair is the value at which half of the
// letters are misread, and how quickly that comes: the odds change by e for every factor of e to the second.

const HALF_SHARPNESS = 0.35;
const SHARPNESS_SPREAD = 0.2;
/** Writing is about as sharp one way as the other; what is less even than this has been moved. */
const EVEN = 0.76;
const EVENNESS_POWER = 0.54;
const MOVED = 0.6;
const SHARP_ACROSS = 1.15;
/** Below this many pixels an inch of paper, letters fall into steps, which sharpness alone does not see. */
const FINE_RESOLUTION = 62;
const RESOLUTION_POWER = 0.26;
/** Of a picture with 60 pixels to the inch; larger pictures bear more. */
const HALF_QUANTISATION = 230;
const QUANTISATION_SPREAD = 0.23;
const QUANTISATION_RESOLUTION = 60;
/** Ink has to stand out from bare paper by this, and from ruled paper by this many times its lines. */
const HALF_CONTRAST = 0.035;
const HALF_CONTRAST_RULED = 1.25;
const DARKEST_RULING = 0.1;
const CONTRAST_SPREAD = 0.16;
/** Fainter ink than this tires people long before machines misread it: such a page is doubtful at best. */
const FAINT = 0.13;
export const FAINT_SCORE = 0.74;
/** A tile burnt out in more than this share of its pixels hides what is written there. */
const BURNT = 0.3;
/** A tile with less than this share of the brightest light lies in shadow. */
const SHADOW = 0.5;
/** More of the marks on the page than this are fainter than its own ink: the other side shows through. */
const SHOWS_THROUGH = 0.225;
/** Half of the strokes gone is nothing left to read. */
const NOTHING_KEPT = 0.5;
/**
 * Black and white takes away no more than this of a tile's letters. Stains and what shows through are lost as well, and
 * pass for writing: that alone makes no page unreadable.
 */
const MOST_LOST = 0.45;
/** Quantisation, at QUANTISATION_RESOLUTION, from which on a picture's blocks are seen on bare paper. */
const VISIBLE_BLOCKS = 40;
/** A page is no better than its weak fifth lets it be. */
const WEAK_PART = 0.2;
const WEAK_WEIGHT = 0.3;
/** Tiles with less of the page's writing than this hold specks. */
const LEAST_INK = 0.0015;

/** What takes letters away on one tile, each as the share of letters misread because of it. */
type Losses = Readonly<Partial<Record<LegibilityReason, number>>>;

/**
 * How readable the writing is, tile by tile, as the share of letters that would be read right: sharpness in its worst
 * direction, resolution, compression, contrast against paper and ruling, and burnt-out light are each turned into
 * reading errors, and these are added up as if each struck on its own.
 */
export function measureLegibility(input: LegibilityInput): Legibility {
	const { writing } = input;
	const measures = measureTiles(input.grey, writing, input.dotsPerInch, input.noise);
	const glare = glareOf(input.flat);
	const light = lightOf(input.light);
	const kept = input.binary ? keptInTiles(input.grey, writing, input.binary) : null;
	const inkOnPage = measures.ink.reduce((sum, n) => sum + n, 0);
	const least = LEAST_INK * inkOnPage;
	const inked = measures.ink.reduce((sum, n) => sum + Number(n > least), 0);

	const scores = new Float64Array(TILES).fill(-1);
	const inGreys = new Float64Array(TILES).fill(-1);
	const weight = new Float64Array(TILES);
	const reasons: (LegibilityReason | null)[] = new Array<null>(TILES).fill(null);
	const losses: Losses[] = [];
	for (let t = 0; t < TILES; t++) {
		const burnt = glare[t]! > BURNT;
		if (measures.ink[t]! <= least && !burnt) continue;
		// What the lamp has burnt out counts as much as the writing around it.
		weight[t] = burnt ? Math.max(measures.ink[t]!, inkOnPage / Math.max(1, inked)) : measures.ink[t]!;
		const lost: Losses = lossesOn(t, measures, input, burnt ? glare[t]! : 0);
		const share = Object.values(lost).reduce((kept, loss) => kept * (1 - loss), 1);
		const faint = measures.ink[t]! > least && measures.contrast[t]! < FAINT;
		const gone = kept ? lostWith(kept[t]!) : 0;
		inGreys[t] = faint ? Math.min(share, FAINT_SCORE) : share;
		scores[t] = inGreys[t]! * (1 - gone);
		losses[t] = {
			...lost,
			...(faint ? { 'low-contrast': Math.max(lost['low-contrast'] ?? 0, 1 - FAINT_SCORE) } : {}),
			...(gone > 0 ? { 'lost-strokes': gone } : {})
		};
		if (scores[t]! < CLEAR) reasons[t] = inShadow(worst(losses[t]!), light[t]!);
	}
	const total = weight.reduce((sum, w) => sum + w, 0);
	const cutOff: LegibilityReason[] = input.cutOff ? ['cut-off'] : [];
	if (total === 0) {
		return {
			score: 1,
			verdict: 'clear',
			reasons: cutOff,
			profile: new Array<number>(PROFILE_ROWS).fill(-1),
			places: []
		};
	}
	const whole = wholeScore(inGreys, weight);
	const score = Math.max(wholeScore(scores, weight), Math.min(whole, UNREADABLE));
	const isLess = scores.some((s, t) => s < inGreys[t]!);
	return {
		score: rounded(score),
		verdict: verdictOf(score),
		...(isLess ? { inGreys: rounded(whole) } : {}),
		reasons: [
			...pageReasons(reasons, losses, weight, score),
			...(whole > CLEAR ? seeThrough(input, light) : []),
			...cutOff
		],
		profile: profileOf(scores, weight),
		share: shareOf(scores, weight, total),
		places: weakPlaces(reasons, scores, weight)
	};
}

function lossesOn(
	t: number,
	{ sharpness, evenness, contrast, ink }: TileMeasures,
	{ sourceDotsPerInch, quantisation, writing }: LegibilityInput,
	burnt: number
): Losses {
	if (ink[t] === 0) return { glare: burnt };
	const moved = Math.min(1, evenness[t]! / EVEN) ** EVENNESS_POWER;
	const steps = Math.min(1, sourceDotsPerInch / FINE_RESOLUTION) ** RESOLUTION_POWER;
	const unsharp = errors(HALF_SHARPNESS / Math.max(0.01, sharpness[t]! * moved * steps), SHARPNESS_SPREAD);
	// Across its path a moving camera leaves strokes sharp; blur spares no direction.
	const isMotion = evenness[t]! < MOVED && sharpness[t]! > SHARP_ACROSS * evenness[t]!;
	const cause = steps < 0.9 ? 'low-resolution' : isMotion ? 'motion' : 'blur';
	const squeezed = quantisation
		? errors(
				(quantisation * QUANTISATION_RESOLUTION) / sourceDotsPerInch / HALF_QUANTISATION,
				QUANTISATION_SPREAD
			)
		: 0;
	const needed = Math.max(
		HALF_CONTRAST,
		HALF_CONTRAST_RULED * Math.min(DARKEST_RULING, writing.ruling / 255)
	);
	return {
		[cause]: unsharp,
		compression: squeezed,
		'low-contrast': errors(needed / Math.max(0.005, contrast[t]!), CONTRAST_SPREAD),
		glare: burnt
	};
}

/** The share of letters lost in black and white, by the share of the writing that is still there. */
function lostWith(kept: number): number {
	return Math.max(0, Math.min(MOST_LOST, (KEEPS - kept) / (KEEPS - NOTHING_KEPT)));
}

/** The share of letters misread where a measure is this many times the one at which half of them are. */
function errors(times: number, spread: number): number {
	return 1 / (1 + times ** (-1 / spread));
}

function worst(losses: Losses): LegibilityReason {
	const [reason] = (Object.entries(losses) as [LegibilityReason, number][]).reduce((a, b) =>
		b[1] > a[1] ? b : a
	);
	return reason;
}

/** In the dark, cameras blur and ink fades: the shadow is what can be mended. */
function inShadow(reason: LegibilityReason, light: number): LegibilityReason {
	return light < SHADOW && reason !== 'glare' ? 'shadow' : reason;
}

/** Reasons that a good part of what is lost goes back to, the strongest first; glare always. */
function pageReasons(
	reasons: readonly (LegibilityReason | null)[],
	losses: readonly Losses[],
	weight: Float64Array,
	score: number
): LegibilityReason[] {
	const lost = new Map<LegibilityReason, number>();
	let total = 0;
	for (let t = 0; t < TILES; t++) {
		const reason = reasons[t];
		if (!reason) continue;
		// A tile may suffer from two things at once; shadow stands for all of them.
		const parts: Losses = reason === 'shadow' ? { shadow: 1 } : losses[t]!;
		for (const [name, loss] of Object.entries(parts) as [LegibilityReason, number][]) {
			lost.set(name, (lost.get(name) ?? 0) + loss * weight[t]!);
			total += loss * weight[t]!;
		}
	}
	const share = (name: LegibilityReason) => (lost.get(name) ?? 0) / Math.max(1e-9, total);
	return [...lost.keys()]
		.filter((name) => (name === 'glare' && reasons.includes('glare')) || (score < 0.9 && share(name) > 0.25))
		.sort((a, b) => share(b) - share(a));
}

function seeThrough(
	{ writing, quantisation = 0, sourceDotsPerInch }: LegibilityInput,
	light: Float64Array
): LegibilityReason[] {
	// Smeared strokes have faint rims of their own, so only readable pages come here. The blocks of a squeezed file are as faint as the other side's writing.
	const blocks = (quantisation * QUANTISATION_RESOLUTION) / sourceDotsPerInch > VISIBLE_BLOCKS;
	// So is what a hard shadow leaves along its edge.
	const shaded = light.some((share) => share < SHADOW);
	return writing.faint > SHOWS_THROUGH && !blocks && !shaded ? ['show-through'] : [];
}

function profileOf(scores: Float64Array, weight: Float64Array): number[] {
	return Array.from({ length: PROFILE_ROWS }, (_, row) => {
		let sum = 0;
		let n = 0;
		for (let t = row * TILE_COLUMNS; t < (row + 1) * TILE_COLUMNS; t++) {
			if (scores[t]! < 0) continue;
			sum += scores[t]! * weight[t]!;
			n += weight[t]!;
		}
		return n > 0 ? Math.round((1000 * sum) / n) / 1000 : -1;
	});
}

function shareOf(scores: Float64Array, weight: Float64Array, total: number): number[] {
	return Array.from({ length: PROFILE_ROWS }, (_, row) => {
		let sum = 0;
		for (let t = row * TILE_COLUMNS; t < (row + 1) * TILE_COLUMNS; t++)
			if (scores[t]! >= 0) sum += weight[t]!;
		return Math.round((1000 * sum) / total) / 1000;
	});
}

/** The score of a page from those of its parts; parts with a score below 0 hold no writing. */
export function wholeScore(scores: Float64Array, weight: Float64Array): number {
	let sum = 0;
	let all = 0;
	for (let t = 0; t < scores.length; t++) {
		if (scores[t]! < 0) continue;
		sum += scores[t]! * weight[t]!;
		all += weight[t]!;
	}
	return (1 - WEAK_WEIGHT) * (sum / all) + WEAK_WEIGHT * weakPart(scores, weight, WEAK_PART);
}

/** Mean score of the least readable fraction `q` of the writing. */
function weakPart(scores: Float64Array, weight: Float64Array, q: number): number {
	const order = [...scores.keys()].filter((t) => scores[t]! >= 0).sort((a, b) => scores[a]! - scores[b]!);
	const all = order.reduce((sum, t) => sum + weight[t]!, 0);
	let n = 0;
	let sum = 0;
	for (const t of order) {
		sum += scores[t]! * weight[t]!;
		n += weight[t]!;
		if (n >= q * all) break;
	}
	return n > 0 ? sum / n : 1;
}
