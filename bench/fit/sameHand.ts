import { describePair, HAND_FEATURES, handOf } from '../../src/lib/core/hand/sameHand';
import { Random } from '../../demo/generator/random';
import type { Part } from '../../training/hands';
import { lookedStack } from '../stacks/lookedStack';
import { fitChoices, listed, type Choice } from './multinomial';

/** Pairs of pages of one packet, and as many of two packets of the same stack. */
export async function fitSameHand(
	part: Part,
	stacks: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const choices: Choice[] = [];
	for (let i = 0; i < stacks; i++) {
		const { stack, pages } = await lookedStack(firstSeed + i, part, 12);
		const random = new Random(firstSeed + i);
		const written = pages.flatMap(({ facts, reading }, k) => {
			const { spec, owner } = stack.pages[k]!;
			return spec && owner && reading.hand
				? [{ hand: handOf(reading.hand, facts.colours), owner, spec, number: k }]
				: [];
		});
		const same: Choice[] = [];
		const other: Choice[] = [];
		for (const a of written) {
			for (const b of written) {
				if (a.number >= b.number || a.spec === b.spec) continue;
				// Two of a class who write in one font are no two hands.
				if (a.owner !== b.owner && a.spec.hand.family === b.spec.hand.family) continue;
				const features = describePair(a.hand, b.hand);
				if (!features) continue;
				const isSame = a.owner === b.owner;
				(isSame ? same : other).push({ options: [features], right: isSame ? 0 : null });
			}
		}
		// As many of both, so that the odds are those of the differences alone.
		choices.push(...same, ...same.flatMap(() => (other.length > 0 ? [random.pick(other)] : [])));
	}
	// No difference speaks for one hand: where one seems to, it tells nothing.
	const weights = fitChoices(choices).map((w, k) => (k === 0 ? w : Math.min(0, w)));
	const right = choices.filter(({ options, right }) => {
		const sum = options[0]!.reduce((s, f, k) => s + f * weights[k]!, 0);
		return sum > 0 === (right === 0);
	}).length;
	print(`${choices.length} pairs, ${right} told rightly by these weights`);
	weights.forEach((w, k) => print(`  ${HAND_FEATURES[k]}: ${w.toFixed(2)}`));
	print(listed(weights));
}
