import { foundTurn } from '../page/effective';
import type { PageFacts, PictureFacts } from '../page/preparePage';
import type { PageReading } from '../reading/pageReading';
import type { PageEvidence } from './finding';

/** What has been found out about one page so far. */
export interface KnownPage {
	readonly picture: PictureFacts | null;
	readonly prepared: PageFacts | null;
	readonly bytes: number | null;
	readonly reading: PageReading | null;
	readonly otherPerson: string | null;
}

/** The evidence that rules look at, from what is known of the pages. */
export function evidenceOf(pages: Readonly<Record<string, KnownPage>>): Record<string, PageEvidence> {
	return Object.fromEntries(
		Object.entries(pages).map(([id, { picture, prepared, bytes, reading, otherPerson }]) => [
			id,
			{
				prepared,
				bytes,
				reading,
				otherPerson,
				outline: picture?.outline ?? null,
				turn: picture && foundTurn(picture)
			}
		])
	);
}
