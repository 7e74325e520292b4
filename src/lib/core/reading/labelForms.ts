import { questionId, type Question } from '../assignment/question';
import { addTo, emptyTrie, type Trie } from './trie';

/** What a label says, as far as it says it. */
export interface LabelMeaning {
	/** "3": the question's number, lower case; null where only a part is named: "(b)". */
	readonly question: string | null;
	/** "b"; null where no part is named. */
	readonly part: string | null;
	/** How the label is written, which tells how likely it is one. */
	readonly form: LabelForm;
}

/** With a word before it ("Q3"), with a bracket or other sign ("3)"), or the bare number or letter. */
export type LabelForm = 'named' | 'signed' | 'bare';

/** A trie of everything a label may look like, and the parts that each question has. */
export interface LabelForms {
	readonly trie: Trie<LabelMeaning>;
	/** Part letters by question; null: any question and part will do. */
	readonly parts: ReadonlyMap<string, readonly string[]> | null;
}

/** Words before a number, and how usual they are. */
const WORDS: readonly (readonly [string, number])[] = [
	['Q', 1],
	['Q.', 0.5],
	['Q ', 0.6],
	['Qu ', 0.5],
	['Qu. ', 0.4],
	['Qn ', 0.3],
	['Question ', 1],
	['Quest. ', 0.2],
	['No ', 0.4],
	['No. ', 0.4],
	['Nr ', 0.3],
	['Nr. ', 0.3],
	['Ex ', 0.3],
	['Ex. ', 0.3],
	['Exercise ', 0.4],
	['Task ', 0.4],
	['Problem ', 0.4],
	['Answer ', 0.4],
	['Ans ', 0.3],
	['#', 0.3],
	['# ', 0.2]
];
/** Those of them that are words of four letters or more, as they are told by their shape. */
export const LONG_WORDS: readonly string[] = WORDS.map(([word]) => word.trim().toLowerCase()).filter((word) =>
	/^[a-z]{4,}$/.test(word)
);
const PART_ENDS = ['', ')', '.', ':'] as const;
/** What may stand before and behind a number, and before and behind the letter that follows it: "(2) (a)", "3.) a.)". */
const SIGNS = [
	['(', ')'],
	['[', ']'],
	['', ')'],
	['', '.)'],
	['', '.'],
	['', ':']
] as const;
/** How usual it is that both have one, and both the same or not. */
const BOTH_SIGNED = 0.3;
/** Numbers that a foreign assignment may have; also those of an assignment nobody has described. */
export const MOST_QUESTIONS = 20;
const GENERAL_PARTS = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h'] as const;
/** How usual it is that a question of an assignment nobody has described has so many parts. */
const USUAL_PARTS: readonly number[] = [1, 1, 0.64, 0.36, 0.09, 0.04, 0.01, 0.005];
/** How much less likely a label is one that the assignment does not have. */
const FOREIGN = 0.08;

/**
 * Everything a label of this assignment may look like ("Q3", "3.", "3)", "(3)", "3 (b)", "Question 3", "3b)", "(b)" …).
 *
 * @param questions the assignment's own; null: the general grammar, 1 to 20 with parts a to h
 */
export function labelForms(questions: readonly Question[] | null): LabelForms {
	const key = JSON.stringify(questions);
	if (latest?.key !== key) latest = { key, forms: makeForms(questions) };
	return latest.forms;
}

/** Pages of one assignment come one after the other, and a trie has ten thousands of nodes. */
let latest: { readonly key: string; readonly forms: LabelForms } | null = null;

function makeForms(questions: readonly Question[] | null): LabelForms {
	const trie = emptyTrie<LabelMeaning>();
	const own = new Map(
		(questions ?? []).map((q) => [questionId(q.label), q.parts?.map((p) => questionId(p.label)) ?? []])
	);
	const numbers = Array.from({ length: MOST_QUESTIONS }, (_, i) => String(i + 1));
	const parts = new Map<string, readonly string[]>(questions ? own : numbers.map((n) => [n, GENERAL_PARTS]));
	const foreign = questions ? numbers.filter((n) => !own.has(n)) : [];
	const usual = (letter: string) =>
		questions ? 1 : USUAL_PARTS[(GENERAL_PARTS as readonly string[]).indexOf(letter)]!;
	for (const [question, letters] of parts) {
		addQuestion(trie, question, 1);
		for (const letter of letters) addPart(trie, question, letter, usual(letter));
	}
	for (const question of foreign) addQuestion(trie, question, FOREIGN);
	for (const letter of new Set([...parts.values()].flat())) {
		const meaning = (form: LabelForm): LabelMeaning => ({ question: null, part: letter, form });
		const weight = usual(letter);
		addTo(trie, `(${letter})`, meaning('signed'), weight);
		addTo(trie, `${letter})`, meaning('signed'), weight);
		addTo(trie, `${letter}.`, meaning('signed'), 0.6 * weight);
		addTo(trie, `${letter}.)`, meaning('signed'), 0.4 * weight);
		addTo(trie, `${letter}:`, meaning('signed'), 0.4 * weight);
		addTo(trie, `[${letter}]`, meaning('signed'), 0.2 * weight);
		addTo(trie, letter, meaning('bare'), 0.4 * weight);
	}
	return { trie, parts: questions ? parts : null };
}

function addQuestion(trie: Trie<LabelMeaning>, question: string, weight: number): void {
	const whole = (form: LabelForm): LabelMeaning => ({ question, part: null, form });
	const name = question.toUpperCase();
	for (const [word, usual] of WORDS) addTo(trie, word + name, whole('named'), weight * usual);
	addTo(trie, `(${name})`, whole('signed'), weight);
	addTo(trie, `[${name}]`, whole('signed'), 0.8 * weight);
	for (const end of [' -', '-']) addTo(trie, name + end, whole('signed'), 0.3 * weight);
	for (const end of [')', '.', ':', '.)']) addTo(trie, name + end, whole('signed'), weight);
	addTo(trie, name, whole('bare'), 0.5 * weight);
}

function addPart(trie: Trie<LabelMeaning>, question: string, part: string, weight: number): void {
	const name = question.toUpperCase();
	const written = new Map<string, readonly [form: LabelForm, usual: number]>();
	// The first way to come to a string is the usual one.
	const add = (text: string, form: LabelForm, usual: number) => {
		if (!written.has(text)) written.set(text, [form, usual]);
	};
	add(`(${name}${part})`, 'signed', 0.5);
	add(`[${name}${part}]`, 'signed', 0.4);
	for (const [word, usual] of [['', 1] as const, ...WORDS]) {
		const form = (signed: boolean) => (word !== '' ? 'named' : signed ? 'signed' : 'bare');
		for (const between of ['', ' ', '.', ') ', '. ', '-']) {
			const here = usual * (between.length === 2 ? 0.3 : between === '-' ? 0.2 : 1);
			for (const end of PART_ENDS) {
				add(word + name + between + part + end, form(end !== '' || between === '.'), here);
			}
			add(`${word}${name}${between}(${part})`, form(true), here);
		}
	}
	for (const [before, behind] of SIGNS) {
		for (const between of [' ', '']) {
			for (const [open, close] of SIGNS) {
				add(before + name + behind + between + open + part + close, 'signed', BOTH_SIGNED);
			}
		}
	}
	for (const end of [' -', '-']) add(name + part + end, 'signed', 0.3);
	for (const [text, [form, usual]] of written) addTo(trie, text, { question, part, form }, weight * usual);
}
