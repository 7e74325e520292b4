import type { Span } from './proposal';

const NUMBERS = 'zero one two three four five six seven eight nine ten eleven twelve'.split(' ');

/** A small number, in digits or as a word; for use in patterns. */
export const NUMBER = `\\d{1,3}|${NUMBERS.slice(1).join('|')}`;

export function numberOf(text: string): number {
	const word = NUMBERS.indexOf(text.toLowerCase());
	return word >= 0 ? word : Number(text);
}

/** Dashes, quotes and spaces of one kind each; every character stays where it was. */
export function plain(text: string): string {
	return text
		.replace(/[‐‑‒–—−]/g, '-')
		.replace(/[“”„«»]/g, '"')
		.replace(/[‘’‚]/g, "'")
		.replace(/[\u00a0\u2000-\u200a\u202f\t]/g, ' ');
}

/** A sentence, or a piece of one that stands for itself. */
export interface Sentence extends Span {
	readonly text: string;
	/** How many lines stand before it. */
	readonly line: number;
}

/** A full stop after these does not end a sentence. */
const SHORTENED =
	/(?:^|[\s(])(?:max|min|e\.g|i\.e|approx|no|nr|pp?|ex|prob|fig|ch|incl|resp|jan|feb|mar|apr|jun|jul|aug|sept?|oct|nov|dec|mon|tues?|wed|thu(?:rs)?|fri|sat|sun|[a-z])\.$/i;

export function sentencesOf(text: string): Sentence[] {
	const found: Sentence[] = [];
	let from = 0;
	let line = 0;
	const end = (to: number) => {
		const raw = text.slice(from, to);
		const start = from + raw.length - raw.trimStart().length;
		if (raw.trim() !== '') found.push({ text: raw.trim(), from: start, to: start + raw.trim().length, line });
		from = to;
	};
	for (let i = 0; i < text.length; i++) {
		const c = text[i]!;
		if (c === '\n') {
			end(i + 1);
			line++;
		} else if (c === ';') end(i + 1);
		else if (/[.!?]/.test(c) && /^\s+["'([]?[\p{Lu}\d]/u.test(text.slice(i + 1, i + 5))) {
			const before = text.slice(from, i + 1);
			const isShort = SHORTENED.test(before) && !/[ap]\.m\.$/i.test(before);
			// "max. 8 MB", "No. 3": a number seldom begins a sentence, but after a word in small letters it may.
			if (!isShort) end(i + 1);
		}
	}
	end(text.length);
	return found;
}

/** Every match of a pattern with its place in the text, within one sentence. */
export function* matchesIn(
	sentence: Sentence,
	pattern: RegExp
): Generator<{ readonly match: RegExpExecArray; readonly span: Span }> {
	for (const match of sentence.text.matchAll(pattern)) {
		const from = sentence.from + match.index;
		yield { match, span: { from, to: from + match[0].length } };
	}
}

/** Whether what comes right before a place in a sentence denies it. */
export function isDenied(text: string, at: number): boolean {
	return /\b(?:not?|never|without|don't|do not|cannot|except|rather than|instead of)\b[^,.;:]{0,14}$/i.test(
		text.slice(0, at)
	);
}
