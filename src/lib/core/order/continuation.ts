import { HEADER } from '../reading/pageReading';
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
	/** What the writing before the first label is about, and that behind the last one; and all of the page. */
	readonly head: Subject;
	readonly tail: Subject;
	readonly whole: Subject;
}

/** A label's place begins so much higher than its line's, at most. */
const ABOVE = 0.02;
/** A page written down to here has no room for much more, unless the hand leaves a wide foot. */
const FULL = 0.75;
const SHORTEST_WORD = 4;
const SURE_LABEL = 0.5;
/** A line with fewer letters is no writing to go by. */
const LEAST_LETTERS = 5;
/** How likely a sentence goes on where lines have not been read to their ends. */
const UNKNOWN = 0.5;

/** @param header how far down the page's header reaches, as a fraction of it */
export function endsOf({ reading }: Pick<PageClues, 'reading'>, header = HEADER): Ends {
	const lines = (reading?.lines ?? []).filter((l) => l.box[1] > header && l.box[1] < 0.94);
	const sure = (reading?.labels ?? []).filter(
		(l) => l.y > header - ABOVE && (l.options[0]?.probability ?? 0) > SURE_LABEL
	);
	// Lines of a table, bullets and stray strokes do not tell how a sentence goes.
	const sentences = lines.filter((l) => (l.text.match(/\p{L}/gu) ?? []).length >= LEAST_LETTERS);
	const first = lines[0];
	const last = lines.at(-1);
	const firstLabel = sure[0]?.y ?? Infinity;
	const lastLabel = sure.at(-1)?.y ?? -Infinity;
	return {
		breaksOff: reading?.startsOnly ? UNKNOWN : endsInside(sentences.at(-1)?.text),
		full: last !== undefined && last.box[3] > FULL,
		goesOn: reading?.startsOnly ? UNKNOWN : beginsInside(sentences[0]?.text),
		labelFirst: first !== undefined && firstLabel < first.box[3],
		head: subjectOf(lines.filter((l) => l.box[3] < firstLabel + 0.005)),
		tail: subjectOf(lines.filter((l) => l.box[1] > lastLabel - 0.005)),
		whole: subjectOf(lines)
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

/** How often each run of three letters stands in the longer words of a piece of writing: it outlives a misread letter. */
export interface Subject {
	readonly counts: ReadonlyMap<string, number>;
	readonly all: number;
}

function subjectOf(lines: readonly { readonly text: string }[]): Subject {
	const counts = new Map<string, number>();
	let all = 0;
	for (const { text } of lines) {
		for (const word of text.toLowerCase().match(/\p{L}+/gu) ?? []) {
			if (word.length < SHORTEST_WORD) continue;
			for (let i = 0; i + 3 <= word.length; i++) {
				const run = word.slice(i, i + 3);
				counts.set(run, (counts.get(run) ?? 0) + 1);
				all++;
			}
		}
	}
	return { counts, all };
}

/** What a packet is about on the whole. */
export function subjectOfAll(pages: readonly Subject[]): Subject {
	const counts = new Map<string, number>();
	for (const page of pages) {
		for (const [run, n] of page.counts) counts.set(run, (counts.get(run) ?? 0) + n);
	}
	return { counts, all: pages.reduce((sum, p) => sum + p.all, 0) };
}

/** Half of what is written on goes on about the same. */
const ON_SUBJECT = 0.5;
/** So many runs of letters tell as much as there is to tell. */
const ENOUGH = 60;

/**
 * How much likelier one piece of writing is about what another is about than about anything in the packet: the mean,
 * over its runs of letters, of the logarithm of their odds in a mixture of the two (a query likelihood with
 * Jelinek and Mercer's smoothing, 1980). 0 tells nothing, as do pieces too short to tell.
 */
export function sameSubject(a: Subject, b: Subject, packet: Subject): number {
	const one = (from: Subject, to: Subject) => {
		let sum = 0;
		for (const [run, n] of to.counts) {
			const usual = (packet.counts.get(run) ?? 1) / packet.all;
			const here = (from.counts.get(run) ?? 0) / from.all;
			sum += n * Math.log(1 - ON_SUBJECT + (ON_SUBJECT * here) / usual);
		}
		return sum / Math.max(ENOUGH, to.all);
	};
	if (a.all === 0 || b.all === 0) return 0;
	return ((one(a, b) + one(b, a)) / 2) * Math.min(1, a.all / ENOUGH, b.all / ENOUGH);
}
