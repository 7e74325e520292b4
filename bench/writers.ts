import { hands, type Hand } from '../demo/generator/hands';
import { someManner } from '../demo/generator/penman';
import type { Random } from '../demo/generator/random';
import type { PageSpec } from '../demo/generator/writtenPage';
import { digitsOf } from '../training/digits';
import type { HabitsName } from './habits';
import { handsOf, type Part } from '../training/hands';

/** Who writes packets: the demo's hands as their fonts are, or people of one part, each with a manner of their own. */
export type Writers =
	| { readonly hands: 'demo' }
	/** `digits`: the fonts', or those that real people wrote. */
	| {
			readonly hands: Part;
			readonly digits: 'fonts' | 'people';
			/** Without, the usual ones. */
			readonly habits?: HabitsName | undefined;
	  };

/** What of a page is the writer's. */
export type WriterSpec = Pick<
	PageSpec,
	'hand' | 'manner' | 'labelFrom' | 'labelSize' | 'slope' | 'ink' | 'pressure'
>;

const INKS = [
	[28, 34, 82],
	[20, 20, 24],
	[66, 66, 72]
] as const;

export function someWriter(writers: Writers, random: Random, which?: number): WriterSpec {
	const ink = random.pick(INKS);
	if (writers.hands === 'demo') return { hand: random.pick(hands()), ink };
	const all = handsOf(writers.hands);
	const hand: Hand = which === undefined ? random.pick(all) : all[which % all.length]!;
	const digits = writers.digits === 'people' ? digitsOf(writers.hands) : null;
	return {
		hand,
		ink,
		manner: someManner(random, digits),
		pressure: random.chance(0.7) ? 1 : random.between(0.5, 1),
		labelFrom: random.chance(0.3) ? random.between(2, 5) : random.between(5, 20),
		labelSize: random.between(0.85, 1.35),
		slope: 0.01 * random.normal()
	};
}
