import { labelForms } from '../src/lib/core/reading/labelForms';
import { pageReading } from '../src/lib/core/reading/pageReading';
import { readPlaces } from '../src/lib/server/reader/lookAtPage';
import type { Part } from '../training/hands';
import { placesReadTwice } from './fit/labels';
import { lookedStrangePage } from './fit/lookedPages';
import { compareLabels } from './shortWriting';
import { STRANGE } from './strangePages';

const [LIKELY, SURE] = [0.5, 0.9];

/**
 * What is read off pages that are no answers, and off answers in scripts that the reader does not know: labels that are
 * there and found, and labels and numbers that are not there and said all the same. Pages are looked at once and kept.
 */
export async function benchStrange(
	part: Part,
	each: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	for (const withSheet of [false, true]) {
		print(`${each} pages of each kind, ${withSheet ? 'with' : 'without'} a rule sheet:`);
		for (const kind of STRANGE) {
			let [there, found, likely, sure, numbers] = [0, 0, 0, 0, 0];
			for (let nth = 0; nth < each; nth++) {
				const page = await lookedStrangePage(kind, part, nth, firstSeed);
				const forms = labelForms(withSheet ? page.questions : null);
				const places = await placesReadTwice(page, await readPlaces(page.places), forms);
				const reading = pageReading([], places, page.size, forms);
				const { said, lost } = compareLabels(reading, page.shot.labels);
				const wrong = said.filter(({ right }) => !right);
				there += page.shot.labels.length;
				found += page.shot.labels.length - lost;
				likely += wrong.filter(({ confidence }) => confidence >= LIKELY).length;
				sure += wrong.filter(({ confidence }) => confidence >= SURE).length;
				const written = page.shot.spec.pageNumber?.match(/\d+/)?.[0];
				const number = reading.numbers[0];
				if (number && number.probability >= LIKELY && String(number.number) !== written) numbers++;
			}
			print(
				`  ${kind.padEnd(26)} labels found ${found} of ${there}; ` +
					`made up with ${LIKELY} or more ${likely}, with ${SURE} or more ${sure}; page numbers made up ${numbers}`
			);
		}
	}
}
