import type { PageClues } from '../../src/lib/core/order/pageClues';

/** A page that was not read yet and tells nothing, but for what is given. */
export function cluesOfPage(page: string, change: Partial<PageClues> = {}): PageClues {
	return {
		page,
		blank: false,
		fingerprint: '',
		legibility: 0.9,
		reading: null,
		otherPerson: null,
		named: false,
		fileName: `${page}.jpg`,
		place: { source: page, page: 0 },
		takenAt: null,
		...change
	};
}
