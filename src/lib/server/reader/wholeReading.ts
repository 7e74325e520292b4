import type { Plane } from '../../core/raster/picture';
import { unsurePlaces } from '../../core/reading/labelCandidates';
import type { LabelForms } from '../../core/reading/labelForms';
import { pageReading, textOf, type PageReading } from '../../core/reading/pageReading';
import type { LinesToRead, ReadLine } from '../../core/reading/readLine';
import { inColour, inkOnPage } from './inkOnPage';
import { lookAtPage, withSecondOpinion, type LookedAt } from './lookAtPage';
import { readLines } from './readLines';

/** What a person waits for, and what is still to be read. */
export interface BegunReading {
	/** With the beginnings of lines only. */
	readonly reading: PageReading;
	readonly toRead: LinesToRead;
}

/**
 * Labels, page number and name of an upright page, and the beginnings of lines.
 *
 * @param page evenly lit, at about 200 dots an inch
 */
export async function beginReading(
	page: Plane,
	dotsPerInch: number,
	forms: LabelForms
): Promise<BegunReading> {
	const looked = await lookAtPage(page, dotsPerInch);
	const { starts, lines, clean } = looked;
	const reading = { ...(await readingOf(page, looked, starts, forms)), startsOnly: true } as const;
	return { reading, toRead: { boxes: lines, framed: clean !== page } };
}

/** The whole text of a page that was begun; all else is known and stays. */
export async function finishReading(
	page: Plane,
	dotsPerInch: number,
	{ reading, toRead }: BegunReading
): Promise<PageReading> {
	const clean = toRead.framed ? inkOnPage(page, dotsPerInch).clean : page;
	const read = await readLines(inColour(clean), toRead.boxes);
	return { ...withEnds(reading), lines: textOf(read, [page.width, page.height]) };
}

const withEnds = ({ startsOnly: _, ...known }: PageReading): PageReading => known;

/** Everything that is written on an upright page, in one go. */
export async function wholeReading(
	page: Plane,
	dotsPerInch: number,
	forms: LabelForms
): Promise<PageReading> {
	const looked = await lookAtPage(page, dotsPerInch);
	const lines = await readLines(inColour(looked.clean), looked.lines);
	return readingOf(page, looked, lines, forms);
}

async function readingOf(
	page: Plane,
	looked: LookedAt,
	lines: readonly ReadLine[],
	forms: LabelForms
): Promise<PageReading> {
	const size = [page.width, page.height] as const;
	const places = await secondOpinions(looked, size, forms);
	return { ...pageReading(lines, places, size, forms), hand: looked.hand };
}

/** The places of a page; where it hangs in the balance whether a label stands there, both readers have looked. */
async function secondOpinions(
	looked: LookedAt,
	size: readonly [number, number],
	forms: LabelForms
): Promise<ReadLine[]> {
	const places = [...looked.read];
	for (const i of unsurePlaces(places, size, forms)) places[i] = await withSecondOpinion(looked, i);
	return places;
}
