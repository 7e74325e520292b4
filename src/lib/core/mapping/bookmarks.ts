import type { Packet } from '../packet/packet';
import { stretchesOf } from './stretches';

/** Where a question's work begins, for the list of bookmarks in the file. */
export interface Bookmark {
	readonly title: string;
	/** From 1. */
	readonly position: number;
	/** Fraction of the page's height. */
	readonly top: number;
}

/** One bookmark for each stretch that answers something, in reading order. */
export function bookmarksOf(packet: Pick<Packet, 'strip' | 'seams'>): Bookmark[] {
	return stretchesOf(packet)
		.filter((s) => s.questions.length > 0)
		.map(({ questions, pieces }) => ({
			title: `Question ${questions.join(', ')}`,
			position: pieces[0]!.position,
			top: pieces[0]!.top
		}));
}
