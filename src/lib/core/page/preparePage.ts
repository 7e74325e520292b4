import { measureColours, type InkAndPaper } from '../hand/colours';
import { faintWriting } from '../legibility/faintWriting';
import { measureLegibility } from '../legibility/measureLegibility';
import { verdictOf, type Legibility } from '../legibility/legibility';
import { paperNoise } from '../legibility/paperNoise';
import { coverageInEvenLight } from '../legibility/shadowEdges';
import { writingMask } from '../legibility/writingMask';
import { fingerprint } from './fingerprint';
import { layStrips } from '../marks/layStrips';
import { halve } from '../raster/halve';
import type { Picture, Plane } from '../raster/picture';
import { leaning, shouldStraighten, straightened } from '../sheet/askew';
import { flatten } from '../sheet/flatten';
import { findFold, refineHalves, type Spread } from '../sheet/fold';
import { signedArea, type Quadrilateral } from '../sheet/geometry';
import { findOutline, type Outline } from '../sheet/outline';
import { PAPER_SIZES, paperSize, type PaperName } from '../sheet/paperSize';
import { proportions } from '../sheet/proportions';
import { guessTurn, turnCorners, type Turn, type TurnGuess } from '../sheet/turn';
import { evenGrey, evenLight } from '../tone/evenLight';
import { finish, type FinishedPage } from '../tone/finish';
import { estimateIllumination } from '../tone/illumination';
import type { Tone } from '../tone/tone';
import { isTwoTone } from '../tone/twoTone';

/** What the machine found in a picture, before any page is made of it. */
export interface PictureFacts {
	/** In pixels, as displayed. */
	readonly width: number;
	readonly height: number;
	readonly outline: Outline;
	/** When it is a picture of two pages. */
	readonly spread?: Spread;
	/** Of a scan whose lines lean: the rectangle along which they run level (core/sheet/askew). */
	readonly straight?: Quadrilateral;
	/** From the layout of the writing. */
	readonly turn: TurnGuess;
	/** From reading it, which comes later and is surer. */
	readonly readTurn?: TurnGuess;
}

/** What the machine measured on a prepared page. */
export interface PageFacts {
	/** In pixels, upright. */
	readonly width: number;
	readonly height: number;
	readonly dotsPerInch: number;
	readonly size: PaperName | null;
	/** No writing was made out. */
	readonly blank: boolean;
	/** And nothing else is there but evenly printed ruling; see `blankOf`, which decides. */
	readonly bare?: boolean;
	readonly legibility: Legibility;
	readonly fingerprint: string;
	/** Of its ink and paper. */
	readonly colours?: InkAndPaper;
}

/** What a prepared page is made from. */
export interface PageSettings {
	readonly corners: Quadrilateral;
	readonly turn: Turn;
	readonly tone: Tone;
	/** Whether writing may be missing because the sheet runs out of the picture. */
	readonly cutOff?: boolean;
	/** The paper asked for by the rule sheet. */
	readonly expectedPaper?: PaperName;
	/** Laid over by a person, in pixels of the picture. */
	readonly strips?: readonly Quadrilateral[];
}

export interface PreparedPage {
	readonly finished: FinishedPage;
	readonly facts: PageFacts;
	/** Milliseconds spent, by step. */
	readonly milliseconds: Readonly<Record<'flatten' | 'tone' | 'legibility', number>>;
}

/** Dots an inch of a prepared page, unless the source holds less. */
export const RESOLUTION = 200;
/** Lines of writing are told from each other at this resolution. */
const TURN_RESOLUTION = 80;
/** Pages are not made smaller than this even from tiny pictures, so that tiles and windows fit. */
const LEAST_RESOLUTION = 72;
/** Writing over less of the page than this is dust. */
const BLANK_COVERAGE = 0.0004;
/** Writing over less than this may be no more than the traces of a shadow's edge. */
const LITTLE_COVERAGE = 0.05;

/** In noise of this deviation, in grey levels, writing may hide. */
const DROWNING = 5;
/** Of a page on which something is, but no writing was made out. */
const UNSEEN = { score: 0.5, verdict: verdictOf(0.5), reasons: ['no-writing'] } as const;

/** Finds the sheet in a picture and how it must be turned. */
export function analysePicture(picture: Picture): PictureFacts {
	const outline = findOutline(picture);
	const spread = findSpread(picture, outline);
	const even = evenlyLit(picture, outline.corners);
	const turn = guessTurn(writingMask(even.grey, even.noise));
	const straight = spread ? null : findStraight(picture, outline, even.grey, turn);
	return {
		width: picture.width,
		height: picture.height,
		outline,
		...(spread ? { spread } : {}),
		...(straight ? { straight } : {}),
		turn
	};
}

/** Sheets lie askew in feeders and on glass; what is no scan has an outline for that. */
function findStraight(
	{ width, height }: Picture,
	outline: Outline,
	grey: Plane,
	{ turn }: TurnGuess
): Quadrilateral | null {
	if (outline.kind !== 'whole' || outline.confidence < 0.5) return null;
	const askew = leaning(grey, turn === 90 || turn === 270);
	return askew && shouldStraighten(askew) ? straightened(grey, askew.degrees, width, height) : null;
}

/** How far from the found side of both pages that of one may lie, as a fraction of the picture's longer side. */
const KINK = 0.012;
/** Samples across the reach. */
const KINK_STEPS = 12;

function findSpread(picture: Picture, outline: Outline): Spread | null {
	const spread = findFold(picture, outline.corners, outline.kind === 'whole');
	if (!spread || outline.kind === 'whole') return spread;
	const reach = KINK * Math.max(picture.width, picture.height);
	return refineHalves(picture, spread, KINK_STEPS, Math.max(1, reach / KINK_STEPS));
}

/** How the page inside these corners must be turned to be upright. */
export function guessTurnOf(picture: Picture, corners: Quadrilateral): TurnGuess {
	const { grey, noise } = evenlyLit(picture, corners);
	return guessTurn(writingMask(grey, noise));
}

/** What is inside these corners, small and in even light. */
function evenlyLit(picture: Picture, corners: Quadrilateral) {
	const { width, height } = pageSize(picture, corners, 0, TURN_RESOLUTION);
	const flat = flatten(picture, corners, width, height);
	return { grey: evenGrey(flat, estimateIllumination(flat)), noise: paperNoise(flat) };
}

/** Flattens, turns, evens out, finishes and measures one page. */
export function preparePage(picture: Picture, settings: PageSettings): PreparedPage {
	const started = performance.now();
	const size = pageSize(picture, settings.corners, settings.turn, RESOLUTION, settings.expectedPaper);
	const corners = turnCorners(settings.corners, settings.turn);
	const flat = flatten(picture, corners, size.width, size.height);
	const flattened = performance.now();
	const light = estimateIllumination(flat);
	layStrips(flat, light, corners, settings.strips ?? []);
	const isColour = settings.tone.name === 'colour' && settings.tone.evenLight;
	const even = isColour ? evenLight(flat, light) : { grey: evenGrey(flat, light) };
	const { grey } = even;
	const finished = finish(flat, settings.tone, size.dotsPerInch, even, isTwoTone(picture));
	const toned = performance.now();
	const noise = paperNoise(flat);
	// Averaging four pixels halves their noise.
	const seen = writingMask(halve(grey), noise / 2);
	const faint = seen.coverage < BLANK_COVERAGE ? faintWriting(flat, light, noise, seen.rules) : null;
	const looked = faint ?? { writing: seen, grey };
	const { writing } = looked;
	const blank =
		writing.coverage < BLANK_COVERAGE ||
		(writing.coverage < LITTLE_COVERAGE && coverageInEvenLight(writing, light.green) < BLANK_COVERAGE);
	// Ruling that is seen is no trace of anything else.
	const isClean = seen.bare ? seen.ruled || !faint?.hasTraces : writing.bare;
	const bare = blank && isClean && noise < DROWNING;
	const measured = measureLegibility({
		writing,
		grey: looked.grey,
		sourceDotsPerInch: size.sourceDotsPerInch,
		dotsPerInch: size.dotsPerInch,
		flat,
		light: light.green,
		quantisation: picture.quantisation,
		noise,
		cutOff: settings.cutOff ?? false
	});
	const legibility = blank && !bare ? { ...measured, ...UNSEEN } : measured;
	const facts: PageFacts = {
		width: size.width,
		height: size.height,
		dotsPerInch: size.dotsPerInch,
		size: size.paper,
		blank,
		...(bare ? { bare } : {}),
		legibility,
		fingerprint: blank ? '' : fingerprint(writing),
		colours: measureColours(flat, light, writing)
	};
	return {
		finished,
		facts,
		milliseconds: {
			flatten: flattened - started,
			tone: toned - flattened,
			legibility: performance.now() - toned
		}
	};
}

/** Size in pixels of the upright page made from these corners. */
export function pageSize(
	picture: Pick<Picture, 'width' | 'height'>,
	corners: Quadrilateral,
	turn: Turn,
	wanted = RESOLUTION,
	expected?: PaperName
) {
	const [a, b, c, d] = corners;
	let ratio = proportions(corners, [picture.width, picture.height]);
	if (turn === 90 || turn === 270) ratio = 1 / ratio;
	const paper = paperSize(ratio, expected);
	const upright = ratio <= 1;
	// Paper that is not a known size is given the width of A4.
	const [short, long] = paper ? PAPER_SIZES[paper] : [210, 210 / (upright ? ratio : 1 / ratio)];
	const [wmm, hmm] = upright ? [short, long] : [long, short];
	const seen = Math.sqrt(Math.abs(signedArea([a, b, c, d])));
	const sourceDotsPerInch = (seen / Math.sqrt(wmm * hmm)) * 25.4;
	const dotsPerInch = Math.round(Math.min(wanted, Math.max(sourceDotsPerInch * 1.15, LEAST_RESOLUTION)));
	const pixels = (mm: number) => Math.max(8, Math.round((mm / 25.4) * dotsPerInch));
	return {
		width: pixels(wmm),
		height: pixels(hmm),
		dotsPerInch,
		sourceDotsPerInch,
		paper
	};
}
