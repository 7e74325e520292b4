import { TONES, type ToneName } from '../tone/tone';
import { proposal, type ProposalOf, type Span } from './proposal';
import { isDenied, matchesIn, type Sentence } from './words';

/** What kind of file is handed in. */
export function typeIn(sentences: readonly Sentence[]): ProposalOf<'type'> | null {
	const spans: Record<'pdf' | 'zip', Span[]> = { pdf: [], zip: [] };
	for (const sentence of sentences) {
		for (const { match, span } of matchesIn(sentence, /\b(pdf|zip)s?\b/gi)) {
			if (isDenied(sentence.text, match.index)) continue;
			spans[match[1]!.toLowerCase() as 'pdf' | 'zip'].push(span);
		}
	}
	const { pdf, zip } = spans;
	if (pdf.length > 0) return proposal('type', 'pdf', pdf.slice(0, 1), zip.length === 0);
	return zip.length > 0 ? proposal('type', 'zip', zip.slice(0, 1)) : null;
}

const UNITS: Readonly<Record<string, number>> = { k: 1e3, m: 1e6, g: 1e9 };
const BOUND =
	/at (?:the )?most|max|no(?:t)? (?:more|larger|bigger|over)|up to|under|below|less than|smaller|exceed|over|limit|within|<|≤|(?:larger|bigger) (?:than|files)/i;

/** How large the file may be; a megabyte is a million bytes, the strictest that is meant by it. */
export function sizeIn(sentences: readonly Sentence[]): ProposalOf<'maxBytes'> | null {
	const found: { readonly bytes: number; readonly span: Span }[] = [];
	for (const sentence of sentences) {
		const pattern = /(\d+(?:[.,]\d+)?) ?(?:([kmg])i?b|(kilo|mega|giga)bytes?)\b/gi;
		for (const { match, span } of matchesIn(sentence, pattern)) {
			if (!BOUND.test(sentence.text)) continue;
			const unit = (match[2] ?? match[3]!)[0]!.toLowerCase();
			found.push({ bytes: Math.round(Number(match[1]!.replace(',', '.')) * UNITS[unit]!), span });
		}
	}
	if (found.length === 0) return null;
	const least = Math.min(...found.map((f) => f.bytes));
	const isOne = found.every((f) => f.bytes === least);
	return proposal(
		'maxBytes',
		least,
		found.filter((f) => f.bytes === least).map((f) => f.span),
		isOne
	);
}

const TONE_WORDS: Readonly<Record<ToneName, RegExp>> = {
	'black-and-white': /\bblack(?: and | ?& ?|-and-| ?\/ ?)white\b|\bb ?[/&] ?w\b|\bmonochrome\b/gi,
	greyscale: /\bgr[ea]y[- ]?scale\b/gi,
	colour:
		/\b(?:in (?:full )?colou?r|(?:full[- ])?colou?r (?:scans?|pages?|pictures?|images?|photographs?|pdf)|scans? in colou?r)\b/gi
};

/** The tones that are asked for. */
export function toneIn(sentences: readonly Sentence[]): ProposalOf<'tone'> | null {
	const spans = new Map<ToneName, Span>();
	let isLeft = false;
	for (const sentence of sentences) {
		for (const tone of TONES) {
			for (const { match, span } of matchesIn(sentence, TONE_WORDS[tone])) {
				if (isDenied(sentence.text, match.index)) continue;
				spans.set(tone, spans.get(tone) ?? span);
				// What is only said to be possible leaves the choice.
				isLeft ||= /\b(?:fine|ok(?:ay)?|prefer(?:red|ably)?|welcome|possible|enough)\b/i.test(sentence.text);
			}
		}
	}
	const tones = TONES.filter((t) => spans.has(t));
	return tones.length > 0 ? proposal('tone', tones, [...spans.values()], !isLeft) : null;
}
