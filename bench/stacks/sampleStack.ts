import { Random } from '../../demo/generator/random';
import type { PageSpec } from '../../demo/generator/writtenPage';
import type { RuleSheet } from '../../src/lib/core/rules/ruleSheet';
import { asWritten } from '../namedPackets';
import { makeQuestions, samplePacket, shuffled, type InClass } from '../packets';
import type { Part } from '../../training/hands';
import { pileUp, type PiledPage, type TrueStack } from './pileUp';

/** A person of a class, as its roster has them. */
export interface Pupil {
	readonly sourcedId: string;
	readonly givenName: string;
	readonly familyName: string;
}

/** One side of paper in a stack, in the order in which it is fed, and the truth about it. */
export interface StackPage extends PiledPage {
	/** What is written on it; null where it is blank. */
	readonly spec: PageSpec | null;
}

/**
 * What a class is like: as what the weights were fitted on, or with `other` habits that nothing is fitted on, where
 * people take another pen within a packet, write less evenly from page to page and put down a part of their name, and
 * where half of the stacks are photographed.
 */
export type Kind = 'usual' | 'other';

/** A stack of a class's answers to an assignment. */
export interface ClassStack<P extends PiledPage = PiledPage> extends TrueStack<P> {
	readonly sheet: RuleSheet;
	readonly roster: readonly Pupil[];
	/** What was done to it. */
	readonly about: string;
}

export interface SampleStack extends ClassStack<StackPage> {
	/** Photographed page by page; from a feeder otherwise. */
	readonly isPhotographed: boolean;
	/** Who brought nothing in. */
	readonly absent: readonly string[];
}

const GIVEN =
	'Anouk Bram Cato Dirk Elin Femke Gijs Hanna Idris Joren Katja Lieke Mats Nienke Otto Pleun Quirin Roos Sven Tess Ulf Vera Wout Xenia Ymke Zeger Abel Birgit Cas Doutzen'.split(
		' '
	);
const FAMILY =
	'Aldermoor Brookhuis Candelaar Dunweg Eikelboom Fenwick Greidanus Hollander Ilsink Jongsma Kooistra Lammerts Merkelbach Noordhof Oldenbeek Plantinga Quintel Reitsma Schouten Tammens Uiterwijk Veenhuis Wiersum Yntema Zandstra Amaral Bellweather Corrigan Damsgaard Ekholm Fontaine Galvao Hedlund'.split(
		' '
	);

/** A class's answers to one assignment as one pile, with what goes wrong in piles. */
export function sampleStack(seed: number, part: Part, most = 30, kind: Kind = 'usual'): SampleStack {
	const random = new Random(seed);
	/** What other classes do, by chances of its own: the usual stay as their seeds made them. */
	const beside = new Random(seed + 1);
	const isOther = kind === 'other';
	const isPhotographed = isOther && beside.chance(0.5);
	const size = random.whole(8, most);
	const families = shuffled(FAMILY, random).slice(0, size + random.whole(0, 3));
	const givens = shuffled(GIVEN, random);
	const roster = families.map((familyName, i): Pupil => {
		// Two of a class may share a given name, seldom a family name.
		const givenName = givens[i % givens.length]!;
		return { sourcedId: `s${String(i + 1).padStart(2, '0')}`, givenName, familyName };
	});
	const present = roster.slice(0, size);
	const questions = makeQuestions(random).slice(0, random.whole(3, 6));
	const usualLength = random.between(0.6, 1.5);
	const names = roster.map((p) => `${p.givenName} ${p.familyName}`);
	const isDuplex = random.chance(0.4);
	const habit = random.pick(['all', 'first', 'mixed'] as const);
	const packets = present.map((pupil, i): StackPage[] => {
		const named: InClass['named'] = random.chance(0.1)
			? 'none'
			: habit === 'mixed'
				? random.pick(['all', 'first'])
				: habit;
		const packet = samplePacket(
			seed * 100 + i,
			{ hands: part, digits: random.pick(['people', 'fonts']), habits: isOther ? 'other' : undefined },
			{
				person: names[i]!,
				roster: names,
				questions,
				named,
				length: usualLength * random.between(0.6, 1.3)
			}
		);
		const specs = packet.pages.slice(0, 8).map(({ spec }) => spec);
		const isOnlyOne = givens.indexOf(pupil.givenName) + givens.length >= roster.length;
		const written = isOther ? unsteady(specs, pupil, isOnlyOne, beside) : specs;
		return packet.pages.slice(0, 8).map(({ named }, k) => ({
			spec: written[k]!,
			owner: pupil.sourcedId,
			named: named !== null,
			role: 'page',
			lies: 0
		}));
	});
	const piled = pileUp(
		{
			packets,
			isDuplex,
			blank,
			other: () => {
				const packet = samplePacket(seed * 100 + 99, { hands: part, digits: 'fonts' });
				const spec = packet.pages.find((p) => p.role === 'page')!.spec;
				return { spec: { ...spec, name: undefined }, owner: null, named: false, role: 'other', lies: 0 };
			}
		},
		random
	);
	const about = [`${size} of ${roster.length}`, isDuplex ? 'both sides' : 'one side', habit, ...piled.about];
	const sheet: RuleSheet = {
		title: 'Worksheet 5: The Sluice',
		course: 'HY-2',
		questions,
		pages: { min: 1, max: 12, size: 'A4' },
		file: { namePattern: '{family}_{given}_{course}_W5' }
	};
	const absent = roster.slice(size).map((p) => p.sourcedId);
	if (isPhotographed) about.push('photographed');
	const { pages, feeding } = piled;
	return { seed, isPhotographed, sheet, roster, pages, feeding, absent, about: about.join(', ') };
}

/** One person's pages as people write them who change their pen, their evenness and how they put down their name. */
function unsteady(
	pages: readonly PageSpec[],
	{ givenName, familyName }: Pupil,
	isOnlyOfGivenName: boolean,
	random: Random
): PageSpec[] {
	const otherPen = random.chance(0.3) ? random.whole(1, 8) : Infinity;
	const ink = random.pick([
		[40, 60, 150],
		[24, 24, 28],
		[90, 90, 96]
	] as const);
	const full = `${givenName} ${familyName}`;
	const part = asWritten(full, isOnlyOfGivenName, random);
	return pages.map((spec, i) => {
		const { manner, name } = spec;
		const moved = manner && {
			...manner,
			slant: manner.slant + 0.05 * random.normal(),
			spacing: manner.spacing + 0.012 * random.normal(),
			space: Math.max(0.16, manner.space + 0.04 * random.normal())
		};
		const pen = i < otherPen ? {} : { ink, pressure: random.between(0.6, 1) };
		const written = part === full ? name : name?.replace(full, part);
		return { ...spec, ...pen, ...(moved ? { manner: moved } : {}), ...(written ? { name: written } : {}) };
	});
}

function blank(owner: string | null): StackPage {
	return { spec: null, owner, named: false, role: 'blank', lies: 0 };
}
