import { inkOf, stripsOf } from '../marks/mark';
import { drawnOn, type Drawn, type PageShape } from '../marks/onPage';
import type { Page } from '../packet/packet';
import type { Quadrilateral } from '../sheet/geometry';
import type { Turn, TurnGuess } from '../sheet/turn';
import type { Tone } from '../tone/tone';
import type { PageRecord } from './pageRecord';
import type { PageFacts, PageSettings, PictureFacts } from './preparePage';
import { splitInMiddle } from '../sheet/fold';
import type { PaperName } from '../sheet/paperSize';

/** Below this the writing does not tell which way is up, and a person should look. */
export const SURE_TURN = 0.3;
/** Below this the machine leaves a page as it lies. */
const TRUST_TURN = 0.2;
/** From this confidence on, what reading says of the turn stands. */
export const TRUST_READING = 0.35;

/**
 * The corners along which a page is flattened: a person's, or those found; of a scan whose lines lean, a rectangle that
 * leans with them, which may reach out of the picture.
 */
export function flattenedAlong(page: Page, picture: PictureFacts): Quadrilateral {
	const isFound = page.corners === null && page.half === undefined;
	return (isFound && picture.straight) || cornersOf(page, picture);
}

/** The page's outline in its picture: a person's, or the one found. */
export function cornersOf(page: Page, picture: PictureFacts): Quadrilateral {
	if (page.corners) return page.corners;
	if (page.half === undefined) return picture.outline.corners;
	return (picture.spread ?? splitInMiddle(picture.outline.corners, picture)).halves[page.half];
}

/** What is known of a picture's turn. */
export type FoundTurns = Pick<PictureFacts, 'turn' | 'readTurn'>;

/**
 * What was found of a picture's turn. Until it has been read the layout of its writing tells, which is often wrong about
 * which end is up; afterwards only reading does, and a picture that could not be read stays as it came.
 */
export function foundTurn({ turn, readTurn }: FoundTurns): TurnGuess {
	if (!readTurn) return turn;
	return readTurn.confidence >= TRUST_READING
		? readTurn
		: { turn: 0, confidence: Math.min(readTurn.confidence, TRUST_TURN / 2) };
}

/** The turn in force: a person's, or the one found where the writing told it. */
export function turnOf(page: Pick<Page, 'turn'>, picture: FoundTurns): Turn {
	if (page.turn !== null) return page.turn;
	const found = foundTurn(picture);
	return found.confidence >= TRUST_TURN ? found.turn : 0;
}

/** What a page is made with: the person's settings, filled up with what was found. */
export function effectiveSettings(
	page: Page,
	picture: PictureFacts,
	usual: Tone,
	expectedPaper?: PaperName
): PageSettings {
	const strips = stripsOf(page.marks);
	return {
		corners: flattenedAlong(page, picture),
		turn: turnOf(page, picture),
		...(strips.length > 0 ? { strips } : {}),
		tone: page.tone ?? usual,
		level: page.level ?? true,
		cutOff: page.corners === null && picture.outline.cutOff.length > 0,
		expectedPaper
	};
}

/** How a prepared page was made of its picture: where on it lies what was added to it. */
export function shapeOf(
	page: Page,
	picture: PictureFacts,
	{ width, height, dotsPerInch, bend }: Pick<PageFacts, 'width' | 'height' | 'dotsPerInch' | 'bend'>
): PageShape {
	return {
		corners: flattenedAlong(page, picture),
		turn: turnOf(page, picture),
		...(bend ? { bend } : {}),
		width,
		height,
		dotsPerInch
	};
}

/** What a person added to a page, as it is drawn on it; without the strips, which are in its picture. */
export function addedTo(
	page: Page,
	{ picture, prepared }: Pick<PageRecord, 'picture' | 'prepared'>
): Drawn[] {
	const ink = inkOf(page.marks);
	return ink.length > 0 && picture && prepared ? drawnOn(shapeOf(page, picture, prepared), ink) : [];
}
