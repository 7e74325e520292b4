import { weighedByOthers } from '../src/lib/core/reading/alikeLabels';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { namedLabels } from '../src/lib/core/reading/namedLabels';
import { pageReading, type PageReading } from '../src/lib/core/reading/pageReading';
import { readNumber } from '../src/lib/core/reading/pageNumber';
import { nameOnPage } from '../src/lib/core/reading/personName';
import type { PlacedLabel } from '../demo/generator/writtenPage';
import type { HabitsName } from './habits';
import { personOf } from './packets';
import { readPlaces } from '../src/lib/server/reader/lookAtPage';
import type { Part } from '../training/hands';
import { placesReadTwice } from './fit/labels';
import { lookedPages, type LookedPage } from './fit/lookedPages';
import { Figures, type ComparedLabels } from './readingFigures';

/** How far from its place a label may be found, as a part of the page's height. */
const NEAR = 0.03;
/**
 * Labels, page numbers and names of each page by itself, in hands of one part, hand by hand: what `inspect` says. Pages
 * are looked at once and kept, so that this is quick the second time.
 */
export async function benchShortWriting(
	part: Part,
	packets: number,
	firstSeed: number,
	habits: HabitsName | undefined,
	print: (line: string) => void
): Promise<void> {
	for (const withSheet of [false, true]) {
		const all = new Figures();
		const byHand = new Map<string, Figures>();
		const byDigits = { people: new Figures(), fonts: new Figures() };
		for (let i = 0; i < packets; i++) {
			const digits = i % 2 === 0 ? 'people' : 'fonts';
			for (const page of await lookedPages(firstSeed + i, { hands: part, digits, habits })) {
				const forms = labelForms(withSheet ? page.questions : null);
				const places = await placesReadTwice(page, await readPlaces(page.places), forms);
				const reading = pageReading([], places, page.size, forms);
				const { family } = page.shot.spec.hand;
				if (!byHand.has(family)) byHand.set(family, new Figures());
				for (const figures of [all, byHand.get(family)!, byDigits[digits]]) judge(figures, page, reading);
			}
		}
		print(
			`${withSheet ? 'With' : 'Without'} a rule sheet, ${part} hands${habits ? `, ${habits} habits` : ''}, ${packets} packets from ${firstSeed}`
		);
		const line = (name: string, figures: Figures) => print(`  ${name}: ${figures}`);
		line('all', all);
		line('digits by real people', byDigits.people);
		line('digits of the fonts', byDigits.fonts);
		for (const [hand, figures] of byHand) line(hand.replace('writer-', ''), figures);
		print(`  right by tenths of confidence: ${all.tenths.map(String).join(', ')}`);
	}
}

function judge(figures: Figures, page: LookedPage, reading: PageReading): void {
	const { shot } = page;
	// Whose labels stand for what is not known of another person's page.
	if (shot.role !== 'foreign') figures.countLabels(compareLabels(reading, shot.labels));
	figures.countNumber(readNumber(reading.numbers), shot.spec.pageNumber);
	const roster = page.roster.map(personOf);
	figures.countName(nameOnPage(reading, roster), shot.named);
}

/** What is said of a page's labels beside those that are there: how surely, and whether it is right; and how many are not said. */
export function compareLabels(
	{ labels: read }: Pick<PageReading, 'labels'>,
	there: readonly PlacedLabel[]
): ComparedLabels {
	const open = new Set(there);
	const said = namedLabels(weighedByOthers([read])[0]!).map(({ question, y, confidence }) => {
		const truth = [...open].find((l) => asSaid(l, there) === question && Math.abs(l.y - y) <= NEAR);
		if (truth) open.delete(truth);
		return { confidence, right: truth !== undefined };
	});
	return { said, lost: open.size };
}

/** What a page by itself can say of a label: "(b)" whose question stands on an earlier page is b. */
export function asSaid({ text, question, y }: PlacedLabel, all: readonly PlacedLabel[]): string | undefined {
	if (question === undefined || /\d/.test(text)) return question;
	const [number] = question.match(/^\d+/)!;
	const said = all.some(
		(l) => l.y <= y && l.text !== text && l.question?.startsWith(number) && /\d/.test(l.text)
	);
	return said ? question : question.slice(number.length);
}
