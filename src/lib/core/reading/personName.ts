import { NAME_WEIGHTS } from './nameWeights';
import { oddsOf } from './oddsOf';
import { unpackPosterior } from './packedPosterior';
import type { HeaderPiece, PageReading, TextLine } from './pageReading';
import { describeNames, rosterWays } from './rosterNames';
import { similarity } from './similarity';

/** A person as the roster has them. */
export interface RosterPerson {
	readonly given: string;
	readonly family: string;
}

/** The name read at the top of a page. */
export interface NameReading {
	/** As read. */
	readonly text: string;
	/** Whose it is; null where the roster has nobody like it. */
	readonly person: RosterPerson | null;
	/** 0 to 1. */
	readonly confidence: number;
}

/** Names stand in this part of the page's height. */
const HEADER = 0.12;
/** Less likely names are not taken for somebody's. */
const LEAST_LIKELY = 0.3;
/** From this confidence on, a page is taken for somebody else's. */
const SURE = 0.6;
/** A capital I is often read as a small l. */
const NAME_WORD = /^[\p{Lu}l]([\p{L}'’-]*\p{L})?$/u;

/**
 * The name at the top of a page, matched to the roster: how likely each piece of the header says each name in each way a
 * person may write it. Without somebody on the roster who fits, two or more capitalised words are taken for a name.
 */
export function nameOnPage(
	{ lines, header = [] }: Pick<PageReading, 'lines' | 'header'>,
	roster: readonly RosterPerson[]
): NameReading | null {
	const odds = nameOdds(header, rosterWays(roster));
	const all = [...odds.values()].reduce((sum, o) => sum + o.odds, 1);
	const [best] = [...odds].sort((a, b) => b[1].odds - a[1].odds);
	if (best && best[1].odds / all >= LEAST_LIKELY) {
		const [person, { text, odds: own }] = best;
		return { text: asRead(text, person, lines), person, confidence: round(own / all) };
	}
	for (const { text, confidence } of lines.filter((l) => heightOf(l.box) < HEADER)) {
		const found = capitalisedWords(text);
		if (found) return { text: found.text, person: null, confidence: round(found.likely * confidence) };
	}
	return null;
}

/** How likely capitalised words are a name where they stand by themselves in a header … */
const BY_THEMSELVES = 0.8;
/** … and where they are all in capitals, or the line goes on behind them: then they may be a title, or the text. */
const AMONG_OTHERS = 0.4;
/** What may stand behind a name in its line. */
const BEHIND_NAME = /^([^\p{L}]|(p|pg|page|sheet|seite|no)\b)/iu;

/** The capitalised words that a line begins with, two or more. */
function capitalisedWords(line: string): { readonly text: string; readonly likely: number } | null {
	const words = line.replace(/^name\s*:?\s*/i, '').split(/\s+/);
	let end = 0;
	while (end < words.length && NAME_WORD.test(words[end]!)) end++;
	const name = words.slice(0, end);
	if (name.filter((word) => word.length > 1).length < 2 || name.join('').length < 5) return null;
	const text = name.join(' ');
	const goesOn = end < words.length && !BEHIND_NAME.test(words[end]!);
	return { text, likely: goesOn || text === text.toUpperCase() ? AMONG_OTHERS : BY_THEMSELVES };
}

/**
 * The odds of each person's name standing in a header against no name of the roster standing there, and the piece of
 * the header that says so. People whose names are out of the question are left out.
 *
 * @param ways of the roster, see `rosterWays`
 */
export function nameOdds<P extends RosterPerson>(
	header: readonly HeaderPiece[],
	ways: ReturnType<typeof rosterWays<P>>
): Map<P, { text: string; odds: number }> {
	const odds = new Map<P, { text: string; odds: number }>();
	for (const { text, box, posterior } of header) {
		for (const { person, features } of describeNames(unpackPosterior(posterior), heightOf(box), ways)) {
			const here = oddsOf(features, NAME_WEIGHTS);
			if (here > (odds.get(person)?.odds ?? 0)) odds.set(person, { text, odds: here });
		}
	}
	return odds;
}

/** Of the middle of a piece of the header. */
export function heightOf(box: HeaderPiece['box']): number {
	return (box[1] + box[3]) / 2;
}

/** What stands there, from whichever reader saw more of the name. */
function asRead(text: string, person: RosterPerson, lines: readonly TextLine[]): string {
	const header = lines.filter((l) => heightOf(l.box) < HEADER).flatMap((l) => pieces(l.text));
	return [text, ...header].reduce((best, one) => (likest(one, person) > likest(best, person) ? one : best));
}

/** The name on a page when it is surely somebody else's than the packet's. */
export function otherThan(owner: RosterPerson, name: NameReading | null): string | null {
	if (!name?.person || name.confidence < SURE) return null;
	const { given, family } = name.person;
	return given === owner.given && family === owner.family ? null : `${given} ${family}`;
}

/** Runs of up to four words. */
function pieces(text: string): string[] {
	const words = text.split(/\s+/).filter((w) => w !== '');
	const found: string[] = [];
	for (let i = 0; i < words.length; i++) {
		for (let n = 1; n <= 4 && i + n <= words.length; n++) found.push(words.slice(i, i + n).join(' '));
	}
	return found;
}

/** How much a piece of text is like a person's name in the way that fits best, 0 to 1. */
export function likest(piece: string, { given, family }: RosterPerson): number {
	const ways: readonly (readonly [string, number])[] = [
		[`${given} ${family}`, 1],
		[`${family}, ${given}`, 1],
		[`${family} ${given}`, 1],
		[`${given[0] ?? ''}. ${family}`, 0.95],
		[`${given} ${family[0] ?? ''}.`, 0.9],
		[family, 0.9],
		[given, 0.75]
	];
	return Math.max(...ways.map(([way, weight]) => weight * similarity(fold(piece), fold(way))));
}

/** Without case, accents and signs; letters that look alike become one. */
function fold(text: string): string {
	return text
		.normalize('NFD')
		.toLowerCase()
		.replace(/[^\p{L}\d]/gu, '')
		.replace(/[1|!]/g, 'l')
		.replace(/i/g, 'l')
		.replace(/0/g, 'o')
		.replace(/5/g, 's')
		.replace(/rn/g, 'm');
}

function round(value: number): number {
	return Math.round(100 * value) / 100;
}
