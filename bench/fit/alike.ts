import { ALIKE_FEATURES, describeAlike } from '../../src/lib/core/reading/alikeLabels';
import type { LabelCandidate } from '../../src/lib/core/reading/labelCandidates';
import { labelForms } from '../../src/lib/core/reading/labelForms';
import { pageReading } from '../../src/lib/core/reading/pageReading';
import { readPlaces } from '../../src/lib/server/reader/lookAtPage';
import type { Part } from '../../training/hands';
import { labelNear, placesReadTwice, rightOf } from './labels';
import { packetsToFit, type LookedPage } from './lookedPages';
import { fitChoices, listed, type Choice } from './multinomial';

/**
 * Fits the weights of what labels say of each other, on labels as they are read by the weights of `labelWeights.ts`:
 * each page by itself, and all pages of a packet together. Prints the line of `alikeWeights.ts`.
 */
export async function fitAlike(
	part: Part,
	packets: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const rows: Choice[] = [];
	for await (const { nth, pages: looked } of packetsToFit(part, packets, firstSeed)) {
		const read: { page: LookedPage; labels: readonly LabelCandidate[] }[] = [];
		for (const page of looked) {
			if (page.shot.role === 'foreign') continue;
			const forms = labelForms(nth % 3 === 0 ? null : page.questions);
			const places = await placesReadTwice(page, await readPlaces(page.places), forms);
			read.push({ page, labels: pageReading([], places, page.size, forms).labels });
		}
		for (const together of [...read.map((one) => [one]), read]) {
			const described = describeAlike(together.map(({ labels }) => labels));
			together.forEach(({ page, labels }, p) => rows.push(...rowsOf(page, labels, described[p]!)));
		}
	}
	print(`${rows.length} places, ${rows.filter((r) => r.right !== null).length} labels`);
	const weights = fitChoices(rows);
	weights.forEach((w, f) => print(`  ${ALIKE_FEATURES[f]}: ${w.toFixed(2)}`));
	print(listed(weights));
}

function rowsOf(page: LookedPage, labels: readonly LabelCandidate[], described: number[][][]): Choice[] {
	return labels.flatMap(({ x, y, options }, i): Choice[] => {
		const label = labelNear(page, x, y);
		if (!label) return [{ options: described[i]!, right: null }];
		const right = rightOf(label, options);
		return right < 0 ? [] : [{ options: described[i]!, right }];
	});
}
