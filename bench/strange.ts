import { weighedByOthers } from '../src/lib/core/reading/alikeLabels';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { namedLabels } from '../src/lib/core/reading/namedLabels';
import { pageReading } from '../src/lib/core/reading/pageReading';
import { readPlaces } from '../src/lib/server/reader/lookAtPage';
import type { Part } from '../training/hands';
import { placesReadTwice } from './fit/labels';
import { lookedStrangePage } from './fit/lookedPages';
import { STRANGE } from './strangePages';

/** How far from its place a label may be found, as a part of the page's height. */
const NEAR = 0.03;
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
				const open = new Set(page.shot.labels);
				there += open.size;
				for (const { question, y, confidence } of namedLabels(weighedByOthers([reading.labels])[0]!)) {
					const truth = [...open].find((l) => l.question === question && Math.abs(l.y - y) <= NEAR);
					if (truth) open.delete(truth);
					if (truth) found++;
					else if (confidence >= LIKELY) likely++;
					if (!truth && confidence >= SURE) sure++;
				}
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
