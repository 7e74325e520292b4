import { measureColours, type InkAndPaper } from '../hand/colours';
import { faintWriting } from '../legibility/faintWriting';
import { measureLetters } from '../legibility/measureLetters';
import { verdictOf, type Legibility } from '../legibility/legibility';
import { paperNoise } from '../legibility/paperNoise';
import { coverageInEvenLight } from '../legibility/shadowEdges';
import { withoutRims } from '../legibility/withoutRims';
import { writingMask } from '../legibility/writingMask';
import { fingerprint } from './fingerprint';
import { finishedPage } from './finishedPage';
import { evenlyLit, flattenLevel, leanInside } from './levelLines';
import { evenFor, lightFor, lightOn } from './pageLight';
import { pageSize, RESOLUTION } from './pageSize';
import { layStrips } from '../marks/layStrips';
import { halve } from '../raster/halve';
import type { Picture, Plane } from '../raster/picture';
import { straightened } from '../sheet/askew';
import type { CoverSheet } from '../reading/coverSheet';
import type { Bend } from '../sheet/bend';
import { findFold, refineHalves, type Spread } from '../sheet/fold';
import type { Point, Quadrilateral } from '../sheet/geometry';
import { findOutline, type Outline } from '../sheet/outline';
import type { PaperName } from '../sheet/paperSize';
import { guessTurn, turnCorners, type Turn, type TurnGuess } from '../sheet/turn';
import { evenGrey } from '../tone/evenLight';
import type { FinishedPage } from '../tone/finish';
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
	/** It is of a cover sheet: what its code says. */
	readonly cover?: CoverSheet;
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
	/** How its lines ran before they were made level; absent where nothing was done. */
	readonly bend?: Bend;
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
	/** False: lines stay as the camera saw them, however they bend. */
	readonly level?: boolean;
	/** Laid over by a person, in pixels of the picture. */
	readonly strips?: readonly Quadrilateral[];
}

export interface PreparedPage {
	readonly finished: FinishedPage;
	readonly facts: PageFacts;
	/** Milliseconds spent, by step. */
	readonly milliseconds: Readonly<Record<'flatten' | 'tone' | 'legibility', number>>;
}

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
	const straight = spread ? null : findStraight(outline, even.grey, turn);
	return {
		width: picture.width,
		height: picture.height,
		outline,
		...(spread ? { spread } : {}),
		...(straight ? { straight } : {}),
		turn
	};
}

/** Sheets lie askew in feeders, on glass and under cameras; what has an outline is straight by that. */
function findStraight(outline: Outline, grey: Plane, { turn }: TurnGuess): Quadrilateral | null {
	if (outline.kind !== 'whole') return null;
	const degrees = leanInside(grey, turn === 90 || turn === 270, outline.confidence >= 0.5);
	if (degrees === null) return null;
	const [[left, top], , [right, bottom]] = outline.corners;
	return straightened(grey, degrees, right - left, bottom - top).map(([x, y]): Point => [
		x + left,
		y + top
	]) as unknown as Quadrilateral;
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

/** Flattens, turns, evens out, finishes and measures one page. */
export function preparePage(picture: Picture, settings: PageSettings): PreparedPage {
	const started = performance.now();
	const size = pageSize(picture, settings.corners, settings.turn, RESOLUTION, settings.expectedPaper);
	const corners = turnCorners(settings.corners, settings.turn);
	const { flat, bend } = flattenLevel(picture, corners, size, settings.level);
	const flattened = performance.now();
	const lit = lightOn(flat, picture, corners);
	const { light, fills } = lit;
	const shape = { corners: settings.corners, turn: settings.turn, ...size, bend };
	// Nothing of a filled area shows through a strip that is laid over it.
	layStrips(flat, fills?.light ?? light, shape, settings.strips ?? []);
	const even = evenFor(flat, settings.tone, lit);
	const noise = paperNoise(flat);
	const twoTone = isTwoTone(picture);
	const finished = finishedPage(flat, settings.tone, size.dotsPerInch, even, noise, twoTone);
	// Writing is looked for as if fills were shadow: on them it is seen as well as beside.
	const grey = lightFor(settings.tone, lit) === light ? even.grey : evenGrey(flat, light);
	const toned = performance.now();
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
	const nothingLeft = fills !== null && withoutRims(writing, fills.rims).coverage < BLANK_COVERAGE;
	const measured = measureLetters(
		{
			writing,
			grey: looked.grey,
			sourceDotsPerInch: size.sourceDotsPerInch,
			dotsPerInch: size.dotsPerInch,
			flat,
			light: (fills?.light ?? light).green,
			quantisation: picture.quantisation,
			noise,
			cutOff: settings.cutOff ?? false,
			...(finished.holds === 'ink' && !twoTone ? { binary: finished.plane } : {})
		},
		fills
	);
	const legibility = (blank || nothingLeft) && !bare ? { ...measured, ...UNSEEN } : measured;
	const facts: PageFacts = {
		width: size.width,
		height: size.height,
		dotsPerInch: size.dotsPerInch,
		size: size.paper,
		blank,
		...(bare ? { bare } : {}),
		legibility,
		fingerprint: blank ? '' : fingerprint(writing),
		...(bend ? { bend } : {}),
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
