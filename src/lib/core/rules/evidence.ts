import { foundTurn } from '../page/effective';
import type { ReadPage } from '../order/pageClues';
import type { PictureFacts } from '../page/preparePage';
import type { PageWeight } from '../size/pageWeights';
import type { PageEvidence } from './finding';

/** What has been found out about one page so far. */
export interface KnownPage extends ReadPage {
	readonly picture: PictureFacts | null;
	readonly bytes: number | null;
	readonly weights: readonly PageWeight[] | null;
}

/** The evidence that rules look at, from what is known of the pages. */
export function evidenceOf(pages: Readonly<Record<string, KnownPage>>): Record<string, PageEvidence> {
	return Object.fromEntries(
		Object.entries(pages).map(([id, { picture, ...known }]) => [
			id,
			{ ...known, outline: picture?.outline ?? null, turn: picture && foundTurn(picture) }
		])
	);
}
