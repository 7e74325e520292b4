import type { Packet, Page, Seam } from '../packet/packet';
import { blankOf } from '../page/blank';
import type { PageRecord } from '../page/pageRecord';
import type { PageReading } from '../reading/pageReading';

/** What tells where a page belongs. */
export interface PageClues {
	readonly page: string;
	/** Surely so. */
	readonly blank: boolean;
	readonly fingerprint: string;
	/** Score, 0 to 1. */
	readonly legibility: number;
	/** Null while it has not been read. */
	readonly reading: PageReading | null;
	/** Set by a person in place of what was read; null: there is none on the page. */
	readonly numberSaid?: number | null;
	/** Seams that a person set on it: what the labels there say. */
	readonly seams?: readonly Pick<Seam, 'y' | 'questions'>[];
	/** Proposals of labels that a person did not want, by their keys. */
	readonly declined?: readonly string[];
	/** The name read at the top, when it is somebody else's than the packet's. */
	readonly otherPerson: string | null;
	/** A name stands at the top. */
	readonly named: boolean;
	readonly fileName: string;
	/** The file that it came in and its place there, where it is one of several. */
	readonly place: { readonly source: string; readonly page: number };
	/** When it was photographed, milliseconds since 1970. */
	readonly takenAt: number | null;
}

/** What of a page's record tells where it belongs. */
export type Telling = Pick<
	PageRecord,
	'prepared' | 'reading' | 'otherPerson' | 'name' | 'sourceName' | 'takenAt'
>;

export function cluesOf(page: Page, known: Telling): PageClues {
	const { prepared, reading, otherPerson, name, sourceName, takenAt } = known;
	return {
		page: page.id,
		blank: blankOf(prepared, reading) === 'yes',
		fingerprint: prepared?.fingerprint ?? '',
		legibility: prepared?.legibility.score ?? 0,
		reading,
		...(page.number === undefined ? {} : { numberSaid: page.number }),
		otherPerson: page.own ? null : otherPerson,
		named: name !== null,
		fileName: sourceName,
		place: { source: page.source, page: page.sourcePage },
		takenAt
	};
}

/** The clues of several pages; of those that nothing is known of yet, none. */
export function cluesOfPages(
	ids: readonly string[],
	{ pages, seams, declined }: Pick<Packet, 'pages' | 'seams' | 'declined'>,
	known: Readonly<Record<string, Telling | undefined>>
): PageClues[] {
	return ids.flatMap((id) => {
		const one = known[id];
		if (!one) return [];
		const own = seams.filter((s) => s.page === id);
		return [
			{
				...cluesOf(pages[id]!, one),
				...(own.length > 0 ? { seams: own } : {}),
				...(declined ? { declined } : {})
			}
		];
	});
}
