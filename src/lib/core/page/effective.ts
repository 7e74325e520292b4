import type { Page } from '../packet/packet';
import type { Quadrilateral } from '../sheet/geometry';
import type { Turn } from '../sheet/turn';
import type { Tone } from '../tone/tone';
import type { PageSettings, PictureFacts } from './preparePage';
import type { PaperName } from '../sheet/paperSize';

/** Below this the machine leaves a page as it lies. */
const TRUST_TURN = 0.2;

/** The corners in force: a person's, or those found. */
export function cornersOf(page: Page, picture: PictureFacts): Quadrilateral {
	return page.corners ?? picture.outline.corners;
}

/** The turn in force: a person's, or the one found where the writing told it. */
export function turnOf(page: Pick<Page, 'turn'>, picture: Pick<PictureFacts, 'turn'>): Turn {
	return page.turn ?? (picture.turn.confidence >= TRUST_TURN ? picture.turn.turn : 0);
}

/** What a page is made with: the person's settings, filled up with what was found. */
export function effectiveSettings(
	page: Page,
	picture: PictureFacts,
	usual: Tone,
	expectedPaper?: PaperName
): PageSettings {
	return {
		corners: cornersOf(page, picture),
		turn: turnOf(page, picture),
		tone: page.tone ?? usual,
		cutOff: page.corners === null && picture.outline.cutOff.length > 0,
		expectedPaper
	};
}
