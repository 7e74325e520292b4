import { Random } from '../demo/generator/random';
import type { Part } from '../training/hands';
import { makeQuestions, personOf, samplePacket, shuffled, type SamplePacket } from './packets';

/** Names of all lengths, short ones and words of the text among them; nobody in a stack has one of these. */
const GIVEN =
	'Ada Ali Amy Ben Bo Carl Dean Eve Finn Grace Hope Ian Ivy Jan Jo Jules Kim Lars Lee Lou Mark Max May Milo Nell Olga Paul Pia Rose Sam Sanne Tea Theo Tim Tom Una Will Wim Zoe Alexandra Bartholomew Cornelia Evangeline Frederik Guillermo Josephine Maximilian Rosalinde Valentijn'.split(
		' '
	);
const FAMILY =
	'As Bank Berg Bond Bos Brook Cole Dam Day Deane Ford Fox Gray Hall Hill Kahn Klein Lake Lange Lo Long Marsh Meer Moss North Page Park Pool Reed Rivers Rood Sand Shore Stone Tate Vos Wall Wang Ward West Winter Wood Young Abernathy Achterberg Castelijn Hoogstraten Kowalczyk Lichtenfeld Montgomery Oosterhuis Papadakis Vandermeulen Zuckerbrot'.split(
		' '
	);
const ROSTER = 30;
const MOST_PAGES = 6;

/** How somebody puts down their name: a quarter of people a part of it. */
export function asWritten(name: string, isOnlyOfGivenName: boolean, random: Random): string {
	const { given, family } = personOf(name);
	const short = random.next();
	if (short < 0.12) return `${given} ${family[0]!}.`;
	if (short < 0.2) return `${given[0]!}. ${family}`;
	return short < 0.26 && isOnlyOfGivenName ? given : name;
}

/** A packet out of a class whose names are of all kinds, written in full and in part, on all pages, on the first or on none. */
export function namedPacket(seed: number, hands: Part): SamplePacket {
	const random = new Random(seed);
	const givens = shuffled(GIVEN, random);
	const roster = shuffled(FAMILY, random)
		.slice(0, ROSTER)
		.map((family, i) => `${givens[i]!} ${family}`);
	const person = roster[0]!;
	const packet = samplePacket(
		seed,
		{ hands, digits: random.pick(['people', 'fonts']), habits: random.pick([undefined, 'wider']) },
		{
			person,
			roster,
			questions: makeQuestions(random).slice(0, random.whole(3, 5)),
			named: random.chance(0.1) ? 'none' : random.pick(['all', 'first']),
			length: random.between(0.4, 0.9)
		}
	);
	const written = asWritten(person, true, random);
	const pages = packet.pages.slice(0, MOST_PAGES).map((page) => {
		const name = page.spec.name?.replace(person, written);
		return name ? { ...page, spec: { ...page.spec, name } } : page;
	});
	return { ...packet, pages };
}
