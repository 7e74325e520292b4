import type { PlacedLabel } from '../../demo/generator/writtenPage';
import { describeLabels, FEATURES, type DescribedOption } from '../../src/lib/core/reading/describeLabels';
import { unsurePlaces } from '../../src/lib/core/reading/labelCandidates';
import { labelForms, type LabelForms, type LabelMeaning } from '../../src/lib/core/reading/labelForms';
import type { ReadLine } from '../../src/lib/core/reading/readLine';
import { wholePicture } from '../../src/lib/core/sheet/geometry';
import { inColour } from '../../src/lib/server/reader/inkOnPage';
import { recognise } from '../../src/lib/server/reader/recognise';
import { readPlaces } from '../../src/lib/server/reader/lookAtPage';
import type { Part } from '../../training/hands';
import { fitChoices, listed } from './multinomial';
import { ofAnswers } from './ofStrangePages';
import { packetsToFit, type PageToFit } from './lookedPages';

/** How far from where a label begins a place may begin, as parts of the page's width and height. */
const NEAR_X = 0.028;
const NEAR_Y = 0.013;
/** One place: its readings, and which of them is right; null where no label begins there. */
export interface PlaceRow {
	readonly options: readonly DescribedOption[];
	readonly right: number | null;
}

/** Where it is not sure what stands there, with what the general reader sees. */
export async function placesReadTwice(
	page: PageToFit,
	lines: readonly ReadLine[],
	forms: LabelForms
): Promise<ReadLine[]> {
	const both = [...lines];
	for (const i of unsurePlaces(lines, page.size, forms)) {
		const { width, height, data } = page.places[i]!.shown;
		const picture = inColour({ width, height, data });
		const { posterior } = await recognise(picture, wholePicture(width, height));
		both[i] = { ...both[i]!, posteriors: [...both[i]!.posteriors, posterior] };
	}
	return both;
}

/** What may be read at each place, and what is right. */
export function rowsOf(page: PageToFit, lines: readonly ReadLine[], forms: LabelForms): PlaceRow[] {
	const [width, height] = page.size;
	const places = new Map<number, DescribedOption[]>();
	for (const option of describeLabels(lines, page.size, forms)) {
		places.set(option.line, [...(places.get(option.line) ?? []), option]);
	}
	return [...places].flatMap(([line, options]): PlaceRow[] => {
		const [x, y] = lines[line]!.box[0];
		const label = labelNear(page, x / width, y / height);
		if (!label) return [{ options, right: null }];
		// Of another person's page it is not known what its labels stand for.
		if (label.question === undefined) return [];
		const right = rightOf(
			label,
			options.map((o) => o.meaning)
		);
		// A label that nobody can read off it any more tells nothing of how labels look.
		return right < 0 ? [] : [{ options, right }];
	});
}

/** The label that begins at a place, on fractions of the page. */
export function labelNear(page: PageToFit, x: number, y: number): PlacedLabel | undefined {
	return page.shot.labels.find((l) => Math.abs(l.x - x) < NEAR_X && Math.abs(l.y - y) < NEAR_Y);
}

/** Which reading says what a label stands for; "(b)" alone says its part only. */
export function rightOf(
	{ text, question: truth }: PlacedLabel,
	options: readonly Pick<LabelMeaning, 'question' | 'part'>[]
): number {
	return options.findIndex(({ question, part }) =>
		question === null ? truth?.endsWith(part!) && bare(text) : question + (part ?? '') === truth
	);
}

/** Whether a label names no question. */
const bare = (text: string) => !/\d/.test(text);

/**
 * Fits the weights of what describes a label, by multinomial logistic regression, on packets in hands that the
 * recognisers were not trained on. Prints the lines of `labelWeights.ts`.
 */
export async function fitLabels(
	part: Part,
	packets: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const [own, both]: PlaceRow[][] = [[], []];
	for await (const { nth, pages: looked } of packetsToFit(part, packets, firstSeed)) {
		for (const page of looked) {
			const forms = labelForms(nth % 3 === 0 ? null : page.questions);
			const lines = await readPlaces(page.places);
			own!.push(...rowsOf(page, lines, forms));
			const twice = await placesReadTwice(page, lines, forms);
			both!.push(...rowsOf(page, twice, forms).filter((r) => r.options.some((o) => o.both)));
		}
	}
	const fitted = [own!, both!].map((rows, k) => {
		const labels = rows.filter((r) => r.right !== null).length;
		print(`${k === 0 ? 'our own reader' : 'both readers'}: ${rows.length} places, ${labels} labels`);
		const weights = fitChoices(
			rows.map((r) => ({ options: r.options.map((o) => o.features), right: r.right })),
			{ free: ofAnswers(FEATURES) }
		);
		weights.forEach((w, f) => print(`  ${FEATURES[f]}: ${w.toFixed(2)}`));
		return weights;
	});
	print(`own: ${listed(fitted[0]!)},\nboth: ${listed(fitted[1]!)}`);
}
