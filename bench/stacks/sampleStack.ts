import { Random } from '../../demo/generator/random';
import type { PageSpec } from '../../demo/generator/writtenPage';
import type { RuleSheet } from '../../src/lib/core/rules/ruleSheet';
import { asWritten } from '../namedPackets';
import { makeQuestions, samplePacket, shuffled, type InClass } from '../packets';
import type { Part } from '../../training/hands';

/** A person of a class, as its roster has them. */
export interface Pupil {
	readonly sourcedId: string;
	readonly givenName: string;
	readonly familyName: string;
}

/** One side of paper in a stack, in the order in which it is fed, and the truth about it. */
export interface StackPage {
	/** What is written on it; null where it is blank. */
	readonly spec: PageSpec | null;
	/** Whose it is; null of a page of another assignment. */
	readonly owner: string | null;
	/** Whether that person's name stands on it. */
	readonly named: boolean;
	readonly role: 'page' | 'blank' | 'twice' | 'stray' | 'other';
	/** Degrees it lies turned in the feeder. */
	readonly lies: 0 | 180;
}

/**
 * What a class is like: as what the weights were fitted on, or with `other` habits that nothing is fitted on, where
 * people take another pen within a packet, write less evenly from page to page and put down a part of their name, and
 * where half of the stacks are photographed.
 */
export type Kind = 'usual' | 'other';

export interface SampleStack {
	readonly seed: number;
	/** Photographed page by page; from a feeder otherwise. */
	readonly isPhotographed: boolean;
	readonly sheet: RuleSheet;
	readonly roster: readonly Pupil[];
	readonly pages: readonly StackPage[];
	/** Who brought nothing in. */
	readonly absent: readonly string[];
	/** What was done to it. */
	readonly about: string;
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
	const duplex = random.chance(0.4);
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
	const about: string[] = [`${size} of ${roster.length}`, duplex ? 'both sides' : 'one side', habit];

	// Before they are piled: pages left out, twice, and blank backs.
	const piled = packets.map((pages) => {
		const own = [...pages];
		if (own.length > 2 && random.chance(0.08)) {
			own.splice(random.whole(1, own.length - 1), 1);
			about.push('a page missing');
		}
		if (!duplex && own.length > 1 && random.chance(0.06)) {
			const at = random.whole(0, own.length - 1);
			own.splice(at + 1, 0, { ...own[at]!, role: 'twice' });
			about.push('a page twice');
		}
		if (duplex && own.length % 2 === 1) own.push(blank(own[0]!.owner));
		else if (!duplex && random.chance(0.05)) own.push(blank(own[0]!.owner));
		return own;
	});
	// A leaf that lies in another's packet.
	const leaf = duplex ? 2 : 1;
	const strays = random.pick([0, 1, 1, 2, 3]);
	for (let n = 0; n < strays; n++) {
		const from = random.whole(0, piled.length - 1);
		const to = random.whole(0, piled.length - 1);
		const source = piled[from]!;
		const target = piled[to]!;
		if (Math.abs(from - to) < 2 || source.length < 2 * leaf + 1 || target.length < 2 * leaf) continue;
		const at = leaf * random.whole(1, Math.floor(source.length / leaf) - 1);
		const gone = source.splice(at, leaf);
		const into = leaf * random.whole(1, Math.floor(target.length / leaf) - 1);
		if (into >= target.length) {
			source.splice(at, 0, ...gone);
			continue;
		}
		target.splice(into, 0, ...gone.map((p): StackPage => (p.role === 'page' ? { ...p, role: 'stray' } : p)));
		about.push('a stray');
	}
	if (random.chance(0.15)) {
		const packet = samplePacket(seed * 100 + 99, { hands: part, digits: 'fonts' });
		const spec = packet.pages.find((p) => p.role === 'page')!.spec;
		const at = random.whole(0, piled.length - 1);
		const other = { spec: { ...spec, name: undefined }, owner: null, named: false, lies: 0 } as const;
		piled[at]!.push({ ...other, role: 'other' }, ...(duplex ? [blank(null)] : []));
		about.push('a page of another assignment');
	}
	let pages = piled.flat();
	if (duplex && random.chance(0.4)) {
		const fronts = pages.filter((_, i) => i % 2 === 0);
		const backs = pages.filter((_, i) => i % 2 === 1);
		const isTurnedOver = random.chance(0.5);
		pages = [...fronts, ...(isTurnedOver ? backs.reverse() : backs)];
		about.push(isTurnedOver ? 'fronts, then backs from the last' : 'fronts, then backs');
	}
	if (random.chance(0.3)) {
		const from = random.whole(0, pages.length - 2);
		const to = random.chance(0.5) ? pages.length : random.whole(from + 1, pages.length);
		pages = pages.map((p, i) => (i >= from && i < to ? { ...p, lies: 180 } : p));
		about.push('some upside down');
	}
	const sheet: RuleSheet = {
		title: 'Worksheet 5: The Sluice',
		course: 'HY-2',
		questions,
		pages: { min: 1, max: 12, size: 'A4' },
		file: { namePattern: '{family}_{given}_{course}_W5' }
	};
	const absent = roster.slice(size).map((p) => p.sourcedId);
	if (isPhotographed) about.push('photographed');
	return { seed, isPhotographed, sheet, roster, pages, absent, about: about.join(', ') };
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
