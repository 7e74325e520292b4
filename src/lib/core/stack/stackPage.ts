import { answerables, type Answerable, type Question } from '../assignment/question';
import { handOf, type Hand } from '../hand/sameHand';
import { isOwn } from '../mapping/labelEvents';
import { endsOf, type Ends } from '../order/continuation';
import { cluesOf, type PageClues, type Telling } from '../order/pageClues';
import { blankOf, type Blank } from '../page/blank';
import type { PictureFacts } from '../page/preparePage';
import type { Page } from '../packet/packet';
import type { LabelOption } from '../reading/labelCandidates';
import { nameOdds } from '../reading/personName';
import { rosterWays } from '../reading/rosterNames';
import type { RosterPerson } from '../reading/personName';
import { colouredSides, coveredBy, type Divider } from './dividers';

/** A person of the class, as its roster has them. */
export interface ClassPerson extends RosterPerson {
	readonly id: string;
	/** As rosters that are exported have it, and cover sheets; absent: the same as `id`. */
	readonly sourcedId?: string;
}

/** "of 4", as far as it could be read. */
export interface PageCount {
	readonly of: number;
	/** That it says so, if the number is what it was read as; 0 to 1. */
	readonly chance: number;
}

/** What a page of a stack tells about whose it is and where in a packet it stands. */
export interface StackPage {
	readonly id: string;
	readonly clues: PageClues;
	/** For each person of the roster, how much likelier the header is with their name on it than with none. */
	readonly names: Float64Array;
	/** What the name was read as, for the best of them. */
	readonly nameRead: string | null;
	/** For each number, how much likelier the page is with it than with none. */
	readonly numbers: ReadonlyMap<number, number>;
	/** The likeliest count of pages that is written beside a number, by the number. */
	readonly totals: ReadonlyMap<number, PageCount>;
	/** What the labels say, from the top down, each with its likeliest readings. */
	readonly labels: readonly (readonly Pick<LabelOption, 'question' | 'part' | 'probability'>[])[];
	readonly ends: Ends;
	readonly hand: Hand | null;
	/** `perhaps` where readers saw nothing on it although something is there. */
	readonly blank: Blank;
	/** Nothing stands on it but what a worksheet has at the top of every side: it tells nothing, and is nobody's first page. */
	readonly onlyHeader: boolean;
	/** It was laid between packets. */
	readonly divider: Divider | null;
	/** More stands on it than is printed on a cover sheet: then it is the first page of what lies behind it. */
	readonly isUsed: boolean;
}

/** A page of a stack, and what is known of it. */
export interface StackInputPage {
	readonly page: Page;
	readonly record: Telling & { readonly picture?: Pick<PictureFacts, 'cover'> | null };
}

/** A page with writing, and what lies between it and the one before. */
export interface WrittenPage extends StackPage {
	readonly before: Divider['kind'] | 'blank' | null;
	/** Whose cover sheet lies before it, as a place in the roster. */
	readonly coveredBy: number | null;
}

/** Names were fitted on pages of which this part carried one, of rosters of this many. */
const NAMED = 0.6;
const ROSTER = 30;
/** Numbers were fitted on pages of which this part carried one, each about as often. */
const NUMBERED = 0.5;
const USUAL_NUMBERS = 8;
/** What stands above this part of a page's height may be printed on every side. */
const HEADER = 0.12;
/** Lines that are read off a cover sheet at most, wrapped titles and what a reader makes of the code among them. */
const PRINTED = 10;
/** A name or number that is less likely than this many times that of a page without is none. */
const SAYS = 3;
/** However sure a reader is, it is wrong now and then; a cover sheet lies before the wrong packet as seldom. */
export const MOST = 3e4;
const LEAST_LABEL = 0.4;
const LEAST_OPTION = 0.15;

/**
 * Reads off each page what tells whose it is.
 *
 * @param pages in the order in which they were fed
 * @param assignment that the stack is of, for cover sheets; absent: those of any are taken
 */
export function stackPages(
	pages: readonly StackInputPage[],
	roster: readonly ClassPerson[],
	questions: readonly Question[],
	assignment?: string
): StackPage[] {
	const sides = pages.map(({ page, record }) => {
		const clues = cluesOf(page, record);
		const blank: Blank = clues.blank ? 'yes' : isEmpty(record) ? 'perhaps' : 'no';
		return { page, record, clues, blank, isEmpty: blank !== 'no', paper: record.prepared?.colours };
	});
	const coloured = colouredSides(sides);
	const ways = rosterWays(roster);
	const ranked = answerables(questions);
	return sides.map(({ page, record, clues, blank, isEmpty }, i): StackPage => {
		const { reading, prepared } = record;
		const odds = nameOdds(reading?.header ?? [], ways);
		const prior = NAMED / ROSTER / (1 - NAMED);
		const [best] = [...odds.values()].sort((a, b) => b.odds - a.odds);
		const names = Float64Array.from(roster, (p) => Math.min(MOST, (odds.get(p)?.odds ?? 0) / prior));
		const { numbers, totals } = numbersOf(reading?.numbers ?? []);
		const labels = labelsOf(clues, ranked);
		const isWork = reading === null || labels.length > 0 || reading.lines.some((l) => l.box[3] > HEADER);
		const cover = page.half === undefined ? record.picture?.cover : undefined;
		const divider: Divider | null = cover
			? { kind: 'cover', person: coveredBy(cover, roster, assignment) }
			: coloured[i]
				? { kind: 'coloured' }
				: null;
		const isTelling = [...names, ...numbers.values()].some((odds) => odds > SAYS);
		return {
			id: page.id,
			clues,
			names,
			nameRead: best && best.odds > 1 ? best.text : null,
			numbers,
			totals,
			labels,
			onlyHeader: !isWork && !isTelling && !isEmpty,
			ends: endsOf(clues),
			hand: reading?.hand && !clues.blank ? handOf(reading.hand, prepared?.colours) : null,
			blank,
			divider,
			isUsed: (reading?.lines.length ?? 0) > PRINTED
		};
	});
}

function isEmpty({ prepared, reading }: Telling): boolean {
	return prepared !== null && reading !== null && blankOf(prepared, { lines: reading.lines }) !== 'no';
}

function numbersOf(options: readonly { number: number; of: number | null; probability: number }[]) {
	const none = Math.max(1e-4, 1 - options.reduce((sum, o) => sum + o.probability, 0));
	const prior = NUMBERED / USUAL_NUMBERS / (1 - NUMBERED);
	const numbers = new Map<number, number>();
	const totals = new Map<number, PageCount>();
	for (const { number, of, probability } of options) {
		numbers.set(number, (numbers.get(number) ?? 0) + Math.min(MOST, probability / none / prior));
		if (of === null || totals.has(number)) continue;
		const all = options.filter((o) => o.number === number).reduce((sum, o) => sum + o.probability, 0);
		totals.set(number, { of, chance: probability / Math.max(1e-9, all) });
	}
	return { numbers, totals };
}

function labelsOf({ reading }: PageClues, ranked: readonly Answerable[]): StackPage['labels'] {
	return [...(reading?.labels ?? [])]
		.sort((a, b) => a.y - b.y)
		.flatMap(({ options }) => {
			const own = options.filter((o) => isOwn(o, ranked) && o.probability >= LEAST_OPTION);
			return own.reduce((sum, o) => sum + o.probability, 0) >= LEAST_LABEL ? [own] : [];
		});
}
