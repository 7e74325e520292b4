import { dueIn, graceIn, type Reader } from './due';
import { sizeIn, toneIn, typeIn } from './file';
import { nameIn } from './fileName';
import { courseIn, titleIn } from './heading';
import { pagesIn, paperIn } from './pages';
import type { Proposal } from './proposal';
import { paperQuestions } from './paper';
import { newPageIn, questionsIn } from './questions';
import { plain, sentencesOf } from './words';

/**
 * The rules that an instruction asks for, as far as its words say so, each with the words that it comes from. Nothing of
 * it holds before a person has seen it.
 *
 * @param text an instruction or a question paper, pasted or read off a page; English
 * @returns at most one of each kind, in the order of a rule sheet
 */
export function readInstructions(text: string, reader: Reader): Proposal[] {
	const sentences = sentencesOf(plain(text));
	const newPage = newPageIn(sentences);
	// What is said of new pages names questions without asking for them.
	const taken = newPage && newPage.value !== 'every' ? newPage.spans : [];
	const due = dueIn(sentences, reader);
	const type = typeIn(sentences);
	const size = sizeIn(sentences);
	// A question paper says more of its questions than a list of them; a list may name some that no line begins with.
	const paper = paperQuestions(plain(text));
	const listed = questionsIn(sentences, taken);
	const asked = paper && paper.value.length >= (listed?.value.length ?? 0) ? paper : listed;
	const found = [
		titleIn(sentences),
		courseIn(sentences),
		due,
		due && graceIn(sentences),
		asked,
		newPage,
		pagesIn(sentences),
		paperIn(sentences),
		toneIn(sentences),
		nameIn(sentences),
		type,
		// Where files of two kinds are named, it may be of the other.
		size && { ...size, sure: size.sure && type?.sure !== false }
	];
	return found.filter((p) => p !== null);
}
