import type { PaperName } from '../sheet/paperSize';
import { proposal, type ProposalOf, type Span } from './proposal';
import { matchesIn, NUMBER, numberOf, type Sentence } from './words';

const N = `(${NUMBER})`;
const PAGES = `(?:(?:A4|A5)[- ])?(?:pages?|sides?|sheets?)\\b(?!\\s+(?:per|for|an?|each|every|of the (?:reader|book|handout))\\b)`;
const AT_MOST =
	'(?:at (?:the )?most|no(?:t)? (?:more|longer) than|up to|max(?:imum)?\\.?(?: of| length| length of)?:?|not (?:over|exceed)|(?:not|never) exceed|must not exceed|limit(?:ed)? (?:of|to|is)|only|<=|≤)';
const AT_LEAST =
	'(?:at (?:the )?least|min(?:imum)?\\.?(?: of| length| length of)?:?|no(?:t)? (?:less|fewer) than|>=|≥)';

type Bounds = { readonly min?: number; readonly max?: number };
type Say = (...numbers: number[]) => Bounds;

/** Ways to say how many, surest first; what one has taken, none of the later ones sees. */
const WAYS: readonly { readonly pattern: RegExp; readonly says: Say; readonly sure?: boolean }[] = [
	way(`${AT_LEAST} ${N},?(?: and| but)? ${AT_MOST} ${N} ${PAGES}`, (min, max) => ({ min, max })),
	way(`between ${N}(?: ${PAGES})? and ${N} ${PAGES}`, (min, max) => ({ min, max })),
	way(`${N} ?(?:-|to) ?${N}[- ]${PAGES}`, (min, max) => ({ min, max })),
	way(`(?:fewer|less) than ${N} ${PAGES}`, (n) => ({ max: n! - 1 })),
	way(`${AT_LEAST} ${N} ${PAGES}`, (min) => ({ min })),
	way(`${N} ${PAGES} (?:at (?:the )?least|min(?:imum)?\\b|or more)`, (min) => ({ min })),
	way(`${N} ${PAGES} only`, (n) => ({ min: n, max: n })),
	way(`${AT_MOST} ${N} ${PAGES}`, (max) => ({ max })),
	way(
		`${N} ${PAGES},? (?:at (?:the )?most|max(?:imum)?\\b|or (?:less|fewer)|limit|(?:are|is) the (?:limit|most))`,
		(max) => ({
			max
		})
	),
	way(
		`(?:page limit|limit of pages|maximum (?:number|length)(?: of pages)?)(?: is|:)? ${N}(?: ${PAGES})?`,
		(max) => ({ max })
	),
	way(`limit:? ${N} ${PAGES}`, (max) => ({ max })),
	way(`exactly ${N} ${PAGES}`, (n) => ({ min: n, max: n })),
	way(`number of pages (?:must be|should be|has to be|is|:) ?${N}`, (n) => ({ min: n, max: n })),
	way(`(?:must|should|has to|have to) (?:be|have) ${N} ${PAGES}`, (n) => ({ min: n, max: n })),
	way(`pages: ?${N} ?(?:-|to) ?${N}`, (min, max) => ({ min, max })),
	way(`pages: ?${N}`, (n) => ({ min: n, max: n })),
	way(`(?:about|around|roughly) ${N} ${PAGES}`, (n) => ({ min: n, max: n }), false)
];

function way(pattern: string, says: Say, sure = true) {
	return { pattern: new RegExp(`(?<![\\w.])${pattern}`, 'giu'), says, sure };
}

/** What is to be read, not written. */
const OF_A_BOOK = /\b(?:(?<!be )read|chapter|reader|textbook|syllabus|handout has|handout is)\b/i;

/** How many pages are asked. */
export function pagesIn(sentences: readonly Sentence[]): ProposalOf<'pages'> | null {
	const found: { readonly bounds: Bounds; readonly span: Span; readonly sure: boolean }[] = [];
	for (const sentence of sentences) {
		if (OF_A_BOOK.test(sentence.text)) continue;
		for (const { pattern, says, sure = true } of WAYS) {
			for (const { match, span } of matchesIn(sentence, pattern)) {
				if (found.some((f) => f.span.from < span.to && span.from < f.span.to)) continue;
				const numbers = match.slice(1).filter(Boolean).map(numberOf);
				found.push({ bounds: says(...numbers), span, sure });
			}
		}
	}
	if (found.length === 0) return null;
	const all = (side: 'min' | 'max') => [...new Set(found.flatMap((f) => f.bounds[side] ?? []))];
	const [mins, maxs] = [all('min'), all('max')];
	// Said twice and otherwise: the stricter is shown, and that it is not sure.
	const min = mins.length > 0 ? Math.max(...mins) : undefined;
	const max = maxs.length > 0 ? Math.min(...maxs) : undefined;
	if ((min ?? 1) > (max ?? Infinity)) return null;
	return proposal(
		'pages',
		{ ...(min !== undefined && { min }), ...(max !== undefined && { max }) },
		found.map((f) => f.span).sort((a, b) => a.from - b.from),
		found.every((f) => f.sure) && mins.length <= 1 && maxs.length <= 1
	);
}

const PAPERS: readonly (readonly [PaperName, RegExp])[] = [
	['A4', /\bA4\b/gi],
	['A5', /\bA5\b/gi],
	['Letter', /\b(?:US[- ]letter|letter[- ]?size[d]?|letter paper)\b/gi],
	['Legal', /\b(?:legal[- ]?size[d]?|legal paper)\b/gi]
];

/** The paper, where one is named; none where there is a choice. */
export function paperIn(sentences: readonly Sentence[]): ProposalOf<'paper'> | null {
	const spans = new Map<PaperName, Span[]>();
	for (const sentence of sentences) {
		for (const [paper, pattern] of PAPERS) {
			for (const { span } of matchesIn(sentence, pattern))
				spans.set(paper, [...(spans.get(paper) ?? []), span]);
		}
	}
	const [one, another] = spans;
	return one && !another ? proposal('paper', ...one) : null;
}
