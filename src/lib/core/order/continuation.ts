import type { PageClues } from './pageClues';

/** How a page's writing begins and ends, for telling which page goes on where another breaks off. */
export interface Ends {
	/** How likely the writing stops in the middle of a sentence, 0 to 1. */
	readonly breaksOff: number;
	/** The last line lies low enough that the page is full. */
	readonly full: boolean;
	/** How likely the writing begins in the middle of a sentence, 0 to 1. */
	readonly goesOn: number;
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
/** A line with fewer letters is no writing to go by. */
const LEAST_LETTERS = 5;

export function endsOf({ reading }: PageClues): Ends {
	const lines = (reading?.lines ?? []).filter((l) => l.box[1] > HEADER && l.box[1] < 0.94);
	const sure = (reading?.labels ?? []).filter((l) => (l.options[0]?.probability ?? 0) > SURE_LABEL);
	// Lines of a table, bullets and stray strokes do not tell how a sentence goes.
	const sentences = lines.filter((l) => (l.text.match(/\p{L}/gu) ?? []).length >= LEAST_LETTERS);
	const first = lines[0];
	const last = lines.at(-1);
	const firstLabel = sure[0]?.y ?? Infinity;
	const lastLabel = sure.at(-1)?.y ?? -Infinity;
	return {
		breaksOff: endsInside(sentences.at(-1)?.text),
		full: last !== undefined && last.box[3] > FULL,
		goesOn: beginsInside(sentences[0]?.text),
		labelFirst: first !== undefined && firstLabel < first.box[3],
		head: wordsOf(lines.filter((l) => l.box[3] < firstLabel + 0.005)),
		tail: wordsOf(lines.filter((l) => l.box[1] > lastLabel - 0.005))
	};
}

/** Letters whose two cases hands write alike. */
const ONE_SHAPE = /^[ckopsuvwxz]/i;

function beginsInside(text: string | undefined): number {
	const first = text?.trim()[0] ?? '';
	if (/\d/.test(first)) return 0.6;
	if (!/\p{L}/u.test(first)) return 0.5;
	const small = /\p{Ll}/u.test(first);
	if (ONE_SHAPE.test(first)) return small ? 0.8 : 0.4;
	return small ? 0.97 : 0.05;
}

function endsInside(text: string | undefined): number {
	const last = text?.trim().at(-1) ?? '';
	if (last === '') return 0.5;
	if (/\d/.test(last)) return 0.75;
	return /[.!?:)\]]/.test(last) ? 0.05 : 0.95;
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
