import { proposal, type ProposalOf } from './proposal';
import { matchesIn, type Sentence } from './words';

const KIND =
	'(?:homework|assignment|worksheet|problem set|problem sheet|exercise sheet|lab report|lab|exercise|quiz|coursework|project|essay|sheet|practical|task)';
/** "Worksheet 3: Gauging the Lode", "Problem set 5". */
const TITLE = new RegExp(
	`\\b${KIND} \\d{1,2}\\b(?: ?: (?!(?:questions?|tasks?|problems?|exercises?)\\b)(?:(?! (?:before|by|until|on|is|due|has|must|should)\\b)[^\\n.;(]){3,80})?`,
	'iu'
);

/** What the assignment is called. */
export function titleIn(sentences: readonly Sentence[]): ProposalOf<'title'> | null {
	for (const sentence of sentences) {
		// Of a name like "exercise 3" in the middle of a sentence nobody can say whether it is the whole.
		const match = TITLE.exec(sentence.text);
		if (!match || /^(?:task|exercise|sheet|project|essay) \d+$/i.test(match[0])) continue;
		const from = sentence.from + match.index;
		const raw = match[0].trim().replace(/[\s,-]+$/, '');
		const isName = /\b(?:called|named?|file)\b/i.test(sentence.text.slice(0, match.index));
		if (isName) continue;
		const title = raw[0]!.toUpperCase() + raw.slice(1);
		return proposal('title', title, [{ from, to: from + raw.length }], sentence.line < 3);
	}
	return null;
}

/** Two to four capitals and a number: "HY-2", "BIO 101". */
const CODE = /\b([A-Z]{2,4})[- ]?(\d{1,4})\b(?![.,]?\d)/g;
const NO_COURSE = new Set([
	'PDF',
	'ZIP',
	'HW',
	'CW',
	'WS',
	'PS',
	'MB',
	'KB',
	'UTC',
	'GMT',
	'ISO',
	'QR',
	'PM',
	'AM',
	'DIN',
	'US'
]);

/** The course's code. */
export function courseIn(sentences: readonly Sentence[]): ProposalOf<'course'> | null {
	for (const sentence of sentences) {
		for (const { match, span } of matchesIn(sentence, CODE)) {
			if (NO_COURSE.has(match[1]!) || /[_\w]/.test(sentence.text[match.index + match[0].length] ?? ' '))
				continue;
			const before = sentence.text.slice(0, match.index);
			if (/_$|\b(?:named?|called|file)\b/i.test(before)) continue;
			return proposal('course', match[0], [span], sentence.line < 2 || /\bcourse\b/i.test(before));
		}
	}
	return null;
}
