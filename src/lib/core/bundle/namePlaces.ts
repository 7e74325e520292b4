import type { PageReading, TextLine } from '../reading/pageReading';
import { heightOf, likest, nameOdds, type RosterPerson } from '../reading/personName';
import { rosterWays } from '../reading/rosterNames';
import type { RuleSheet } from '../rules/ruleSheet';
import { similarity } from '../reading/similarity';

/** A place on a page where a name stands, or may stand. */
export interface NamePlace {
	/** Left, top, right and bottom as fractions of the page. */
	readonly box: TextLine['box'];
	/** That a name of the class stands there, 0 to 1. */
	readonly confidence: number;
}

/** What is known of the names on a page. */
export interface NamesOnPage {
	/** What has to be hidden where names are. */
	readonly places: readonly NamePlace[];
	/** What may be a name and may be none, hidden or not: that is where a person should look. */
	readonly doubtful: readonly TextLine['box'][];
	/** Why a person should look whether all names are hidden; null where that is sure. */
	readonly look: 'not-read' | 'perhaps-a-name' | 'no-name-found' | null;
}

/** Nothing but names, numbers and titles stands above this part of a page's height; there, hiding too much hides no work. */
const HEADER = 0.075;
/** In the header anything as likely as this is hidden; below, it has to be as likely as not. */
const HIDDEN_IN_HEADER = 0.08;
const HIDDEN_BELOW = 0.5;
/** Narrower marks, as a fraction of the page's width, are no names; nor are flatter ones, of its height. */
const NARROW = 0.02;
const FLAT = 0.006;
/** Less likely names below the header are none. */
const LEAST = 0.12;
/** A name as likely as this is one. */
const SURE = 0.9;
/** How much likelier the name of the one whose packet it is stands in a header than that of anybody else. */
const OWN = 12;
/** Lines of the header this wide are work that runs on from the page before. */
const WIDE = 0.5;
/** Below the header the recogniser of short writing is believed where the other reader sees the same name less well, by up to this, than where it finds one itself. */
const SEEN_TOO = 0.18;
/** Where it does not, no more than this; and not at all in a line with so many letters, for which it was not made. */
const UNSEEN = 0.3;
const LINE_LETTERS = 14;
/** Words of a header that are no name, and numbers of pages, dates and times. */
const NO_NAME =
	/^(?:name|date|class|course|page|pages|p|pp|of|group|worksheet|sheet|question|part|test|exam|homework|assignment|continued|cont|the|and|mon|tue|wed|thu|fri|sat|sun)?[\W\d_]*$/i;
/** Words this short say nothing. */
const LEAST_LETTERS = 3;

/**
 * Where on a page names of a class stand: pieces of the header by the recogniser of short writing, lines anywhere by the
 * whole text.
 *
 * @param reading null where it was not read
 * @param writer whose page it is, where that is known
 * @param known words that stand in headers and are no names: title, course
 */
export function namesOnPage(
	reading: Pick<PageReading, 'lines' | 'header' | 'labels' | 'startsOnly'> | null,
	roster: readonly RosterPerson[],
	writer: RosterPerson | null,
	known: readonly string[] = []
): NamesOnPage {
	if (!reading || reading.startsOnly) return { places: [], doubtful: [], look: 'not-read' };
	const found = nameEvidence(reading, roster, writer);
	const places = toHide(found);
	const isDoubtful = (p: NamePlace) => p.confidence >= LEAST && p.confidence < SURE;
	const doubtful = joined(found.filter(isDoubtful)).map((p) => p.box);
	if (found.some((p) => !isHigh(p) && isDoubtful(p))) return { places, doubtful, look: 'perhaps-a-name' };
	if (places.some((p) => p.confidence >= SURE)) return { places, doubtful: [], look: null };
	const unknown = reading.lines.filter((l) => isHigh(l) && isUnexplained(l, reading, known));
	const hidden = joined([...places, ...unknown.map(({ box }) => ({ box, confidence: HIDDEN_IN_HEADER }))]);
	return {
		places: hidden,
		doubtful: hidden.map((p) => p.box),
		look: hidden.length > 0 ? 'perhaps-a-name' : null
	};
}

/** Whatever on a page may be a name, however unlikely. */
function nameEvidence(
	reading: Pick<PageReading, 'lines' | 'header'>,
	roster: readonly RosterPerson[],
	writer: RosterPerson | null
): NamePlace[] {
	return [...inHeader(reading, roster, writer), ...inText(reading.lines, roster, writer)].filter(
		({ box }) => box[2] - box[0] >= NARROW && box[3] - box[1] >= FLAT
	);
}

function toHide(found: readonly NamePlace[]): NamePlace[] {
	return joined(found.filter((p) => p.confidence >= (isHigh(p) ? HIDDEN_IN_HEADER : HIDDEN_BELOW)));
}

function isHigh({ box }: Pick<NamePlace, 'box'>): boolean {
	return heightOf(box) < HEADER;
}

/** Names that are still read on a page from which all that were known have been taken. */
export function namesLeftOn(
	reading: Pick<PageReading, 'lines' | 'header'>,
	roster: readonly RosterPerson[],
	writer: RosterPerson | null
): NamePlace[] {
	return toHide(nameEvidence(reading, roster, writer));
}

/** What is known of a page's names once it was read again without those that were found first. */
export function withNamesLeft(first: NamesOnPage, left: readonly NamePlace[]): NamesOnPage {
	return {
		places: [...first.places, ...left],
		doubtful: [...first.doubtful, ...left.map((p) => p.box)],
		look: first.look ?? (left.length > 0 ? 'perhaps-a-name' : null)
	};
}

/** What stands in the headers of an assignment's pages and is no name. */
export function knownInHeaders(sheet: Pick<RuleSheet, 'title' | 'course'>): string[] {
	return [sheet.title, ...(sheet.course ? [sheet.course] : [])];
}

/**
 * The pages of one packet together: whoever writes their name on most pages is expected to on all, so that one on which
 * none was found is looked at.
 */
export function namesInPacket(pages: readonly NamesOnPage[]): NamesOnPage[] {
	const named = pages.filter((p) => p.places.some((place) => place.confidence >= SURE)).length;
	const expected = named >= 2 && named > pages.length / 2;
	return pages.map((page) =>
		expected && page.look === null && page.places.length === 0
			? { ...page, look: 'no-name-found' as const }
			: page
	);
}

function inHeader(
	{ header = [], lines }: Pick<PageReading, 'header' | 'lines'>,
	roster: readonly RosterPerson[],
	writer: RosterPerson | null
): NamePlace[] {
	const ways = rosterWays(roster);
	return header.map((piece) => {
		let sum = 0;
		const high = isHigh(piece);
		const text = high
			? []
			: lines.filter((l) => overlap(l.box, piece.box) > 0.3).flatMap(({ text }) => wordsOf(text));
		const isLine = lettersIn(piece.text) >= LINE_LETTERS;
		for (const [person, { odds }] of nameOdds([piece], ways)) {
			const own = high && isSame(person, writer) ? OWN : 1;
			const isSeen = high || text.some(({ piece: p }) => likest(p, person) >= likeByChance(p) - SEEN_TOO);
			if (isSeen || !isLine) sum += isSeen ? odds * own : Math.min(odds, UNSEEN / (1 - UNSEEN));
		}
		return { box: piece.box, confidence: round(sum / (1 + sum)) };
	});
}

/** Every one to three words in a row, and where they stand in their line. */
function wordsOf(text: string): { piece: string; from: number; to: number; count: number }[] {
	const words = [...text.matchAll(/\S+/g)].map((m) => ({ from: m.index, to: m.index + m[0].length }));
	return words.flatMap(({ from }, i) =>
		words.slice(i, i + 3).map(({ to }, k) => ({ piece: text.slice(from, to), from, to, count: k + 1 }))
	);
}

function inText(
	lines: readonly TextLine[],
	roster: readonly RosterPerson[],
	writer: RosterPerson | null
): NamePlace[] {
	return lines.flatMap((line): NamePlace[] => {
		const high = isHigh(line);
		let best: { from: number; to: number; confidence: number } | null = null;
		for (const { piece, from, to, count } of wordsOf(line.text)) {
			if (lettersIn(piece) < LEAST_LETTERS) continue;
			for (const person of roster) {
				const own = isSame(person, writer);
				// A lone name of somebody else's is a word like any other; so is one that was not written large.
				if (!high && !own && count < 2) continue;
				if (!high && !/\p{Lu}/u.test(piece)) continue;
				const confidence = chance(likest(piece, person), piece, high);
				if (confidence > (best?.confidence ?? 0)) best = { from, to, confidence };
			}
		}
		if (!best || best.confidence < HIDDEN_IN_HEADER) return [];
		return [{ box: partOf(line, best.from, best.to, high), confidence: best.confidence }];
	});
}

/** How likely a piece of text that is like a name is that name. Short words are like others by chance. */
function chance(likeness: number, piece: string, high: boolean): number {
	const margin = likeness - likeByChance(piece) - (high ? 0 : 0.06);
	return round(1 / (1 + Math.exp(-28 * margin)));
}

function lettersIn(text: string): number {
	return text.replace(/[^\p{L}]/gu, '').length;
}

/** Up to how much a piece of text is like some name by chance. */
function likeByChance(piece: string): number {
	const letters = lettersIn(piece);
	return letters < 5 ? 0.85 : letters < 9 ? 0.76 : 0.68;
}

/** Characters either side of a name in a line that may be part of it, as a share of its own. */
const SLACK = 0.25;

/** Where characters of a line stand; a short line of the header as a whole. */
function partOf({ box, text }: TextLine, from: number, to: number, high: boolean): TextLine['box'] {
	if (high && to - from > 0.4 * text.length) return box;
	const slack = 1 + SLACK * (to - from);
	const at = (character: number) =>
		box[0] + (box[2] - box[0]) * Math.min(1, Math.max(0, character / text.length));
	return [round(at(from - slack)), box[1], round(at(to + slack)), box[3]];
}

/** Whether a line of the header may hold a name that nobody on the roster has. */
function isUnexplained(
	{ text, box }: TextLine,
	{ labels }: Pick<PageReading, 'labels'>,
	known: readonly string[]
): boolean {
	const words = text.split(/[\s.,:;/]+/).filter((w) => lettersIn(w) >= LEAST_LETTERS);
	if (words.length === 0 || box[2] - box[0] > WIDE) return false;
	const firstLabel = Math.min(
		1,
		...labels.filter((l) => (l.options[0]?.probability ?? 0) > 0.5).map((l) => l.y)
	);
	if (box[3] > firstLabel) return false;
	const ofKnown = known.flatMap((k) => k.toLowerCase().split(/\W+/));
	const rest = words.filter(
		(w) => !NO_NAME.test(w) && !ofKnown.some((k) => k.length > 1 && similarity(w.toLowerCase(), k) >= 0.7)
	);
	return rest.length > 0;
}

/** Places that lie in each other, once. */
function joined(places: readonly NamePlace[]): NamePlace[] {
	const kept: NamePlace[] = [];
	for (const place of [...places].sort((a, b) => b.confidence - a.confidence)) {
		const at = kept.findIndex((k) => overlap(k.box, place.box) > 0.5);
		if (at < 0) kept.push(place);
		else kept[at] = { box: around(kept[at]!.box, place.box), confidence: kept[at]!.confidence };
	}
	return kept;
}

/** The part of the smaller box that lies in the other. */
function overlap(a: TextLine['box'], b: TextLine['box']): number {
	const across = Math.min(a[2], b[2]) - Math.max(a[0], b[0]);
	const down = Math.min(a[3], b[3]) - Math.max(a[1], b[1]);
	if (across <= 0 || down <= 0) return 0;
	const size = (c: TextLine['box']) => (c[2] - c[0]) * (c[3] - c[1]);
	return (across * down) / Math.max(1e-9, Math.min(size(a), size(b)));
}

function around(a: TextLine['box'], b: TextLine['box']): TextLine['box'] {
	return [Math.min(a[0], b[0]), Math.min(a[1], b[1]), Math.max(a[2], b[2]), Math.max(a[3], b[3])];
}

function isSame(a: RosterPerson, b: RosterPerson | null): boolean {
	return b !== null && a.given === b.given && a.family === b.family;
}

function round(value: number): number {
	return Math.round(1e4 * value) / 1e4;
}
