import { questionId, type Question } from '../assignment/question';
import { proposal, type ProposalOf, type Span } from './proposal';
import type { Sentence } from './words';

const KEY = /^(?:questions?|problems?|exercises?|tasks?|qs?\.?(?=\s?\d))\s*/i;
const SEPARATOR = /^\s*(?:,\s*(?:and|&|then)?|and|&|plus|as well as)\s*(?:also\s+|all of\s+|the\s+)?/i;
const TO = /^\s*(?:-|to|through|until|up to)\s*/i;
const NUMBER =
	/^(?:no\.?\s*)?(\d{1,2})(?![\d.:]*\d|\s?(?:%|pm|am|p\.m|a\.m|[kmg]b|marks?|points?|pages?|minutes?|hours?|:))/i;
const PART = /^(?:parts?\s+)?(?:\(([a-z])\)|([a-z])(?![a-z'])(?:\))?)/i;

/** A question, or a part of one. */
interface Item {
	readonly question: string;
	readonly part: string | null;
}
interface Read<T> {
	readonly value: T;
	/** After the last character read. */
	readonly end: number;
}

/**
 * Questions listed from a place on: "1, 2 (a) to (c) and 3", "Q1-Q4", "1a-e, 2".
 * @returns null where there is no number
 */
export function listAt(text: string, start: number): Read<Item[]> | null {
	const items: Item[] = [];
	let at = start + (KEY.exec(text.slice(start))?.[0].length ?? 0);
	let end = start;
	for (;;) {
		const number = NUMBER.exec(text.slice(at));
		if (!number) break;
		const first = number[1]!;
		at += number[0].length;
		const parts = partsAt(text, at, false);
		if (parts) {
			items.push(...parts.value.map((part) => ({ question: first, part })));
			at = parts.end;
		} else {
			const last = upTo(text, at);
			if (last && Number(last.value) > Number(first) && Number(last.value) - Number(first) < 40) {
				for (let n = Number(first); n <= Number(last.value); n++)
					items.push({ question: String(n), part: null });
				at = last.end;
			} else items.push({ question: first, part: null });
		}
		end = at;
		const separator = SEPARATOR.exec(text.slice(at));
		if (!separator) break;
		at += separator[0].length;
		at += KEY.exec(text.slice(at))?.[0].length ?? 0;
	}
	return items.length > 0 ? { value: items, end } : null;
}

function upTo(text: string, at: number): Read<string> | null {
	const to = TO.exec(text.slice(at));
	if (!to) return null;
	let next = at + to[0].length;
	next += KEY.exec(text.slice(next))?.[0].length ?? 0;
	const number = NUMBER.exec(text.slice(next));
	return number && { value: number[1]!, end: next + number[0].length };
}

/**
 * Letters of parts: "(a)-(c)", "a, b", " parts (a), (b) and (d)", "(a, b, c)".
 * @param alone whether they stand without a number before them
 */
function partsAt(text: string, start: number, alone: boolean): Read<string[]> | null {
	const group = /^\s?\(([a-z](?:\s?(?:,|and|&|,\s?and|-|to)\s?[a-z])+)\)/i.exec(text.slice(start));
	if (group) return { value: lettersIn(group[1]!), end: start + group[0].length };
	const space = /^\s?(?:parts?\s+)?/i.exec(text.slice(start))![0];
	const named = alone || /part/i.test(space);
	let at = start + space.length;
	let part = PART.exec(text.slice(at));
	// "2 a" is a question with a part, "2 and" and "2 a page" are not.
	if (!part || (!named && part[2] && space !== '')) return null;
	const letters: string[] = [];
	let end = at;
	for (;;) {
		const first = (part[1] ?? part[2]!).toLowerCase();
		const bracketed = part[1] !== undefined;
		at += part[0].length;
		const to = TO.exec(text.slice(at));
		const last = to && PART.exec(text.slice(at + to[0].length));
		if (to && last && (!bracketed || last[1])) {
			letters.push(...range(first, (last[1] ?? last[2]!).toLowerCase()));
			at += to[0].length + last[0].length;
		} else letters.push(first);
		end = at;
		const separator = SEPARATOR.exec(text.slice(at));
		const next = separator && PART.exec(text.slice(at + separator[0].length));
		if (!separator || !next || (!next[1] && !named)) break;
		at += separator[0].length;
		part = next;
	}
	return { value: letters, end };
}

function lettersIn(text: string): string[] {
	const [, first, last] = /^([a-z])\s?(?:-|to)\s?([a-z])$/i.exec(text) ?? [];
	return first && last
		? range(first.toLowerCase(), last.toLowerCase())
		: [...text.toLowerCase().replace(/and|&|,|\s/g, '')];
}

function range(first: string, last: string): string[] {
	const [a, b] = [first.charCodeAt(0), last.charCodeAt(0)];
	return b < a ? [first] : Array.from({ length: b - a + 1 }, (_, i) => String.fromCharCode(a + i));
}

/** Asks somebody to write an answer. */
const VERB =
	/\b(?:answer|do|solve|complete|attempt|submit|hand(?:ed)? in|turn in|work (?:on|out|through)|write up|try)\b/i;
/** Tells of questions that are not asked here. */
const ELSEWHERE =
	/\b(?:(?:covered|discussed|solved|done|seen|did) |from last|last week|in class\b|looked at|see (?:also )?question|for example|such as|worth)\b/i;
const OMITS = '(?:except(?: for)?|apart from|other than|omit|skip|without|leave out|but not)';
const EXCEPT = new RegExp(`\\b${OMITS}\\s+(?=\\S)`, 'gi');
const OMITS_HERE = new RegExp(`\\b${OMITS}\\s+$`, 'i');
const START = /\b(?:questions?|problems?|exercises?|tasks?|Qs?\.?\s?(?=\d))/gi;

/** The questions that are to be answered. */
export function questionsIn(
	sentences: readonly Sentence[],
	taken: readonly Span[]
): ProposalOf<'questions'> | null {
	const items: Item[] = [];
	const spans: Span[] = [];
	let sure = true;
	const left = sentences.flatMap(({ text }) => omittedIn(text));
	const isFree = (span: Span) => ![...taken, ...spans].some((t) => t.from < span.to && span.from < t.to);
	for (const sentence of sentences) {
		const { text } = sentence;
		const asks = VERB.test(text);
		const spanOf = (from: number, to: number): Span => ({
			from: sentence.from + from,
			to: sentence.from + to
		});
		const take = (from: number, read: Read<Item[]>, isSure: boolean) => {
			const span = spanOf(from, read.end);
			if (!isFree(span)) return;
			spans.push(span);
			items.push(...read.value.filter((item) => !left.some((l) => isSame(l, item))));
			// "5-9 (odd)", "one of 5, 6 and 7": fewer than are listed.
			sure &&= isSure && !/\b(?:odd|even|one of|two of|any of|either|or)\b/i.test(text);
		};
		// "Parts (a) to (c) of question 2 and all of question 3"
		const of = /\bparts?\s+/gi;
		for (const match of text.matchAll(of)) {
			const parts = partsAt(text, match.index + match[0].length, true);
			const question =
				parts && /^\s+of\s+(?:question|problem|exercise|task|q)\.?\s*(\d{1,2})/i.exec(text.slice(parts.end));
			if (!question) continue;
			const end = parts.end + question[0].length;
			take(match.index, { value: parts.value.map((part) => ({ question: question[1]!, part })), end }, true);
		}
		for (const match of text.matchAll(START)) {
			const list = listAt(text, match.index);
			if (!list || OMITS_HERE.test(text.slice(0, match.index))) continue;
			const others = ELSEWHERE.test(text) && !VERB.test(text.slice(0, match.index));
			if (others && !/^.{0,40}\bare for you\b/i.test(text.slice(list.end))) continue;
			// A list in brackets says the same again, to the letter.
			const again = /^\s*\(/.exec(text.slice(list.end));
			const finer = again && listAt(text, list.end + again[0].length);
			const opens = match.index === 0 || /[:(-]\s*$/.test(text.slice(0, match.index));
			take(
				match.index,
				finer?.value.some((i) => i.part) ? finer : list,
				asks || opens || list.value.length > 1
			);
		}
		// "Answer 1(a), 1(b)": numbers right after the word.
		for (const match of text.matchAll(/\b(?:answer|solve|do|complete|attempt)\s+(?=\d)/gi)) {
			const from = match.index + match[0].length;
			const list = listAt(text, from);
			if (list) take(from, list, true);
		}
	}
	const questions = collect(items);
	return questions.length > 0 ? proposal('questions', questions, spans, sure) : null;
}

function omittedIn(text: string): Item[] {
	return [...text.matchAll(EXCEPT)].flatMap((m) => listAt(text, m.index + m[0].length)?.value ?? []);
}

const isSame = (a: Item, b: Item) => a.question === b.question && a.part === b.part;

/** Items as questions with parts, each once, in the order in which they were named. */
export function collect(items: readonly Item[]): Question[] {
	const parts = new Map<string, Set<string>>();
	for (const { question, part } of items) {
		const own = parts.get(questionId(question)) ?? new Set();
		if (part) own.add(part);
		parts.set(questionId(question), own);
	}
	return [...parts].map(([label, letters]) => ({
		label,
		...(letters.size > 0 && { parts: [...letters].map((letter) => ({ label: letter })) })
	}));
}

const NEW_PAGE =
	/\b(?:new|fresh|separate|clean|own) (?:page|sheet|side)\b|\bpage of its own\b|\b(?:at )?the top of a (?:new )?page\b/i;

/** Which questions have to begin on a page of their own. */
export function newPageIn(sentences: readonly Sentence[]): ProposalOf<'newPage'> | null {
	const labels: string[] = [];
	const spans: Span[] = [];
	for (const sentence of sentences) {
		const { text } = sentence;
		if (!NEW_PAGE.test(text)) continue;
		const where = { from: sentence.from, to: sentence.to };
		if (/\b(?:each|every)\b/i.test(text)) return proposal('newPage', 'every', [where]);
		const lists = [...text.matchAll(START)].flatMap((m) => listAt(text, m.index)?.value ?? []);
		if (lists.length === 0) continue;
		labels.push(...lists.map((i) => i.question));
		spans.push(where);
	}
	return labels.length > 0 ? proposal('newPage', [...new Set(labels)], spans) : null;
}
