import { weighedByOthers } from '../../src/lib/core/reading/alikeLabels';
import type { LabelCandidate } from '../../src/lib/core/reading/labelCandidates';
import { labelForms } from '../../src/lib/core/reading/labelForms';
import { labelChances, type Habits } from '../../src/lib/core/reading/namedLabels';
import { pageReading } from '../../src/lib/core/reading/pageReading';
import { readPlaces } from '../../src/lib/server/reader/lookAtPage';
import type { Part } from '../../training/hands';
import { asSaid } from '../shortWriting';
import { labelNear, placesReadTwice } from './labels';
import { packetsToFit } from './lookedPages';

/** A page's places, and what each says: null for no label. */
interface Truth {
	readonly candidates: readonly LabelCandidate[];
	readonly says: readonly (string | null | undefined)[];
}

/** The generator's writers answer in order nearly always, and people do not: the fit may not believe in it more than so. */
const NEXT = [1, 1.5, 2, 2.5, 3, 4, 5];
const LATER = [0.5, 0.7, 1, 1.4];
const BACK = [0.05, 0.08, 0.12, 0.2, 0.3, 0.5];
/** Nothing is held for impossible. */
const LEAST = 1e-3;

/**
 * Finds the habits of writers by which the labels of a page settle each other: those under which what the places say is
 * likeliest, each page by itself. Prints the line of `namedLabels.ts`.
 */
export async function fitSequence(
	part: Part,
	packets: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const pages: Truth[] = [];
	for await (const { nth, pages: looked } of packetsToFit(part, packets, firstSeed)) {
		for (const page of looked) {
			if (page.shot.role === 'foreign') continue;
			const forms = labelForms(nth % 3 === 0 ? null : page.questions);
			const places = await placesReadTwice(page, await readPlaces(page.places), forms);
			const { labels } = pageReading([], places, page.size, forms);
			const candidates = weighedByOthers([labels])[0]!;
			const says = candidates.map(({ x, y }) => {
				const label = labelNear(page, x, y);
				return label ? asSaid(label, page.shot.labels) : null;
			});
			pages.push({ candidates, says });
		}
	}
	const loss = (habits: Habits) => {
		let sum = 0;
		let places = 0;
		for (const { candidates, says } of pages) {
			for (const [i, chances] of labelChances(candidates, habits).entries()) {
				const truth = says[i];
				if (truth === undefined) continue;
				const none = 1 - [...chances.values()].reduce((a, b) => a + b, 0);
				sum -= Math.log(Math.max(LEAST, truth === null ? none : (chances.get(truth) ?? 0)));
				places++;
			}
		}
		return sum / places;
	};
	const tried = NEXT.flatMap((next) =>
		LATER.flatMap((later) =>
			BACK.map((back) => ({ habits: { next, later, back }, loss: loss({ next, later, back }) }))
		)
	).sort((a, b) => a.loss - b.loss);
	for (const { habits, loss: mean } of tried.slice(0, 5))
		print(`${JSON.stringify(habits)}: ${mean.toFixed(4)}`);
	print(`without any: ${loss({ next: 1, later: 1, back: 1 }).toFixed(4)}`);
}
