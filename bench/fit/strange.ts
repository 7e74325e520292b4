import { FEATURES } from '../../src/lib/core/reading/describeLabels';
import { labelForms } from '../../src/lib/core/reading/labelForms';
import { WEIGHTS } from '../../src/lib/core/reading/labelWeights';
import { NUMBER_WEIGHTS } from '../../src/lib/core/reading/numberWeights';
import { NUMBER_FEATURES } from '../../src/lib/core/reading/pageNumber';
import { readPlaces } from '../../src/lib/server/reader/lookAtPage';
import type { Part } from '../../training/hands';
import { numberChoice } from './header';
import { placesReadTwice, rowsOf } from './labels';
import { pagesToFit } from './lookedPages';
import { fitChoices, listed, type Choice } from './multinomial';
import { ofStrangePages } from './ofStrangePages';

/**
 * Fits what tells that a page is no answer, or none that its reader can read, on answers and strange pages together. What
 * tells labels and numbers from other writing stays as it was fitted on answers: a strange page must not teach how those
 * look. Prints the lines of `labelWeights.ts` and `numberWeights.ts`.
 */
export async function fitStrange(
	part: Part,
	packets: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const [own, both, numbers]: Choice[][] = [[], [], []];
	for await (const { nth, pages } of pagesToFit(part, packets, firstSeed)) {
		for (const page of pages) {
			const forms = labelForms(nth % 3 === 0 ? null : page.questions);
			const places = await readPlaces(page.places);
			const once = rowsOf(page, places, forms);
			const twice = rowsOf(page, await placesReadTwice(page, places, forms), forms);
			own!.push(...once.map(choiceOf));
			both!.push(...twice.filter((r) => r.options.some((o) => o.both)).map(choiceOf));
			const number = numberChoice(page, places);
			if (number) numbers!.push(number);
		}
	}
	const fitted = (choices: Choice[], features: readonly string[], from: readonly number[]) =>
		listed(fitChoices(choices, { from, free: ofStrangePages(features) }));
	print(`own: ${fitted(own!, FEATURES, WEIGHTS.own)},\nboth: ${fitted(both!, FEATURES, WEIGHTS.both)}`);
	print(`numbers: ${fitted(numbers!, NUMBER_FEATURES, NUMBER_WEIGHTS)}`);
}

const choiceOf = ({ options, right }: ReturnType<typeof rowsOf>[number]): Choice => ({
	options: options.map((o) => o.features),
	right
});
