import type { Plane } from '../../core/raster/picture';
import { unsurePlaces } from '../../core/reading/labelCandidates';
import type { LabelForms } from '../../core/reading/labelForms';
import { pageReading, type PageReading } from '../../core/reading/pageReading';
import type { ReadLine } from '../../core/reading/readLine';
import { inColour } from './inkOnPage';
import { lookAtPage, withSecondOpinion, type LookedAt } from './lookAtPage';
import { readLines } from './readLines';

/**
 * Everything that is written on an upright page.
 *
 * @param page evenly lit, at about 200 dots an inch
 */
export async function wholeReading(
	page: Plane,
	dotsPerInch: number,
	forms: LabelForms
): Promise<PageReading> {
	return readingFrom(page, dotsPerInch, forms, ({ clean, lines }) => readLines(inColour(clean), lines));
}

/** What a person waits for: labels, page number and name, and the beginnings of lines. */
export async function firstReading(
	page: Plane,
	dotsPerInch: number,
	forms: LabelForms
): Promise<PageReading> {
	const reading = await readingFrom(page, dotsPerInch, forms, ({ starts }) => starts);
	return { ...reading, startsOnly: true };
}

/** @param linesOf the lines of text, as far as they are to be known */
async function readingFrom(
	page: Plane,
	dotsPerInch: number,
	forms: LabelForms,
	linesOf: (looked: LookedAt) => readonly ReadLine[] | Promise<readonly ReadLine[]>
): Promise<PageReading> {
	const looked = await lookAtPage(page, dotsPerInch);
	const size = [page.width, page.height] as const;
	const places = await secondOpinions(looked, size, forms);
	return { ...pageReading(await linesOf(looked), places, size, forms), hand: looked.hand };
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
