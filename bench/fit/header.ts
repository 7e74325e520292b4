import {
	describeNumbers,
	NUMBER_FEATURES,
	type DescribedNumber
} from '../../src/lib/core/reading/pageNumber';
import { pageReading } from '../../src/lib/core/reading/pageReading';
import { unpackPosterior } from '../../src/lib/core/reading/packedPosterior';
import { heightOf, type RosterPerson } from '../../src/lib/core/reading/personName';
import {
	describeNames,
	NAME_FEATURES,
	rosterWays,
	type DescribedName
} from '../../src/lib/core/reading/rosterNames';
import type { ReadLine } from '../../src/lib/core/reading/readLine';
import { labelForms } from '../../src/lib/core/reading/labelForms';
import { namedPacket } from '../namedPackets';
import { personOf } from '../packets';
import { readPlaces } from '../../src/lib/server/reader/lookAtPage';
import type { Part } from '../../training/hands';
import { lookedPacket, packetsToFit, type LookedPage, type PageToFit } from './lookedPages';
import { fitChoices, listed, type Choice } from './multinomial';
import { ofAnswers } from './ofStrangePages';

const NO_LABELS = labelForms([]);

/** Fits the weights of what describes a page number. Prints the line of `numberWeights.ts`. */
export async function fitNumbers(
	part: Part,
	packets: number,
	firstSeed: number,
	print: (line: string) => void
) {
	async function* pages() {
		for await (const { pages } of packetsToFit(part, packets, firstSeed)) yield* pages;
	}
	await fit(pages(), NUMBER_FEATURES, numberChoice, print);
}

/**
 * Fits the weights of what describes a name of the roster, on classes with names of all kinds. Prints the line of
 * `nameWeights.ts`.
 */
export async function fitNames(
	part: Part,
	packets: number,
	firstSeed: number,
	print: (line: string) => void
) {
	async function* pages() {
		for (let seed = firstSeed; seed < firstSeed + packets; seed++) {
			yield* await lookedPacket(namedPacket(seed, part), seed);
		}
	}
	await fit(pages(), NAME_FEATURES, nameChoice, print);
}

async function fit<P extends PageToFit>(
	pages: AsyncIterable<P>,
	features: readonly string[],
	choiceOf: (page: P, places: readonly ReadLine[]) => Choice | null,
	print: (line: string) => void
): Promise<void> {
	const choices: Choice[] = [];
	for await (const page of pages) {
		const choice = choiceOf(page, await readPlaces(page.places));
		if (choice) choices.push(choice);
	}
	print(`${choices.length} pages, ${choices.filter((c) => c.right !== null).length} of them with one`);
	const weights = fitChoices(choices, { free: ofAnswers(features) });
	weights.forEach((w, k) => print(`  ${features[k]}: ${w.toFixed(2)}`));
	print(listed(weights));
}

const [LOG_SCORE, USUAL_FORM] = (['log score', 'usual form'] as const).map((f) => NUMBER_FEATURES.indexOf(f));
/** How well it is read, and how usual it is to write it so. */
const likely = ({ features }: DescribedNumber) => features[LOG_SCORE!]! + features[USUAL_FORM!]!;

export function numberChoice(page: PageToFit, places: readonly ReadLine[]): Choice | null {
	const written = page.shot.spec.pageNumber?.match(/\d+/g)?.map(Number);
	const best = new Map<string, DescribedNumber>();
	for (const one of describeNumbers(places, page.size)) {
		const key = `${one.value.number}/${one.value.of ?? ''}`;
		const known = best.get(key);
		if (!known || likely(known) < likely(one)) best.set(key, one);
	}
	const options = [...best.values()];
	const right = options.findIndex(
		({ value }) => value.number === written?.[0] && value.of === (written[1] ?? null)
	);
	// What is not among the options cannot be chosen.
	if (written && right < 0) return null;
	return { options: options.map((o) => o.features), right: right < 0 ? null : right };
}

function nameChoice(page: LookedPage, places: readonly ReadLine[]): Choice | null {
	const roster = page.roster.map(personOf);
	const ways = rosterWays(roster);
	const best = new Map<RosterPerson, DescribedName<RosterPerson>>();
	for (const { box, posterior } of pageReading([], places, page.size, NO_LABELS).header ?? []) {
		for (const one of describeNames(unpackPosterior(posterior), heightOf(box), ways)) {
			const known = best.get(one.person);
			if (!known || known.features[1]! < one.features[1]!) best.set(one.person, one);
		}
	}
	const options = [...best.values()];
	const right = options.findIndex(({ person }) => `${person.given} ${person.family}` === page.shot.named);
	if (page.shot.named && right < 0) return null;
	return { options: options.map((o) => o.features), right: right < 0 ? null : right };
}
