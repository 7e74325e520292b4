import type { PageClues } from './pageClues';

/** How a page's writing begins and ends, for telling which page goes on where another breaks off. */
export interface Ends {
	/** The writing stops in the middle of a sentence. */
	readonly breaksOff: boolean;
	/** The last line lies low enough that the page is full. */
	readonly full: boolean;
	/** The writing begins with a lower-case letter, in the middle of a sentence. */
	readonly goesOn: boolean;
	/** It begins with a label. */
	readonly labelFirst: boolean;
	/** Words of the writing before the first label, and behind the last one. */
	readonly head: ReadonlySet<string>;
	readonly tail: ReadonlySet<string>;
}

/** Above this lie name and page number. */
const HEADER = 0.07;
/** A page written down to here has no room for much more, unless the hand leaves a wide foot. */
const FULL = 0.75;
const SHORTEST_WORD = 4;
const SURE_LABEL = 0.5;

export function endsOf({ reading }: PageClues): Ends {
	const lines = (reading?.lines ?? []).filter((l) => l.box[1] > HEADER && l.box[1] < 0.94);
	const sure = (reading?.labels ?? []).filter((l) => (l.options[0]?.probability ?? 0) > SURE_LABEL);
	const first = lines[0];
	const last = lines.at(-1);
	const firstLabel = sure[0]?.y ?? Infinity;
	const lastLabel = sure.at(-1)?.y ?? -Infinity;
	return {
		breaksOff: last !== undefined && !/[.!?:)\]]\s*$/.test(last.text),
		full: last !== undefined && last.box[3] > FULL,
		goesOn: first !== undefined && /^\s*\p{Ll}/u.test(first.text),
		labelFirst: first !== undefined && firstLabel < first.box[3],
		head: wordsOf(lines.filter((l) => l.box[3] < firstLabel + 0.005)),
		tail: wordsOf(lines.filter((l) => l.box[1] > lastLabel - 0.005))
	};
}

function wordsOf(lines: readonly { readonly text: string }[]): Set<string> {
	const words = lines.flatMap((l) => l.text.toLowerCase().match(/\p{L}+/gu) ?? []);
	return new Set(words.filter((w) => w.length >= SHORTEST_WORD));
}

/** How many of the rarer words two pieces of writing share, 0 to 1; `usual` tells how many pages hold a word. */
export function sharedWords(
	a: ReadonlySet<string>,
	b: ReadonlySet<string>,
	usual: ReadonlyMap<string, number>
): number {
	let shared = 0;
	let all = 0;
	for (const word of new Set([...a, ...b])) {
		const weight = 1 / (usual.get(word) ?? 1);
		all += weight;
		if (a.has(word) && b.has(word)) shared += weight;
	}
	return all > 0 ? shared / all : 0;
}
