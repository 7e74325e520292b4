import { withLabelsSettled } from '../../src/lib/core/mapping/settleLabels';
import { nearby } from '../../src/lib/core/order/bestSequence';
import { cluesOf } from '../../src/lib/core/order/pageClues';
import { sequenceJudge, SEQUENCE_FEATURES } from '../../src/lib/core/order/sequenceScore';
import type { Part } from '../../training/hands';
import { keptPacket, type KeptPage } from '../keptPacket';
import type { SamplePacket } from '../packets';
import { known } from '../readPacket';
import { WIDER_FROM } from './lookedPages';
import { fitChoices, listed, type Choice } from './multinomial';

/** As many packets of the wider kind as of the usual one. */
const KINDS = [undefined, 'wider'] as const;
/**
 * The generator's writers answer in order nearly always, and number every page or none; people do not: nothing is
 * believed more than so, in natural logarithms.
 */
const MOST = 3;
/** A packet is one choice among hundreds: there are few of them, and each says much. */
const RIDGE = 0.4;
const RATE = 0.1;

/**
 * Fits the weights of what tells which page follows which: the true order of a packet's pages among all orders that are
 * a step from it (conditional logistic regression, McFadden 1974). Prints the line of `orderWeights.ts`.
 */
export async function fitOrder(
	part: Part,
	packets: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const choices: Choice[] = [];
	for (const [k, habits] of KINDS.entries()) {
		for (let i = 0; i < packets; i++) {
			const digits = i % 4 < 2 ? 'people' : 'fonts';
			const seed = firstSeed + k * WIDER_FROM + i;
			const { packet, pages } = await keptPacket(seed, { hands: part, digits, habits });
			choices.push(choiceOf(packet, pages));
		}
	}
	print(`${choices.length} packets, ${choices.reduce((sum, c) => sum + c.options.length, 0)} other orders`);
	const weights = fitChoices(choices, { most: MOST, rate: RATE, ridge: RIDGE });
	const named = weights.slice(1);
	named.forEach((w, f) => print(`  ${SEQUENCE_FEATURES[f]}: ${w.toFixed(2)}`));
	print(listed(named));
}

/** Each other order by what it says more than the true one; "none" is the true one. */
function choiceOf(packet: SamplePacket, pages: readonly KeptPage[]): Choice {
	const strip = pages
		.filter((p) => p.shot.role === 'page')
		.sort((a, b) => a.shot.position! - b.shot.position!);
	const records = withLabelsSettled(Object.fromEntries(strip.map((p) => [p.page.id, known(p, packet)])), {
		strip: strip.map((p) => p.page.id),
		seams: []
	});
	const judge = sequenceJudge(
		strip.map((p) => cluesOf(p.page, records[p.page.id]!)),
		packet.sheet.questions
	);
	const truth = strip.map((_, i) => i);
	const right = judge.describe(truth);
	const options = [...nearby(truth)].map((other) => [
		0,
		...judge.describe(other).map((value, f) => value - right[f]!)
	]);
	return { options, right: null };
}
