import { bestCharacters, bestPath, part, wordStarts, type LinePosterior } from './linePosterior';
import { NAME_WEIGHTS } from './nameWeights';
import { oddsOf } from './oddsOf';
import type { RosterPerson } from './personName';
import { scoreStrings } from './scoreStrings';
import { shortText } from './shortAlphabet';
import { addTo, emptyTrie, type Trie } from './trie';

/** One way to read a piece of the header as a person's name, described by numbers. */
export interface DescribedName<P extends RosterPerson> {
	readonly person: P;
	/** The name as it would be written there. */
	readonly written: string;
	readonly features: readonly number[];
}

export const NAME_FEATURES = [
	'bias',
	'log likelihood a letter',
	'much less likely than what is best',
	'both names',
	'family name alone',
	'given name alone',
	'with an initial',
	'long',
	'behind other words',
	'far behind other words',
	'others follow',
	'log likelihood',
	'other letters beside it',
	'below the header'
] as const;

interface Way<P> {
	readonly person: P;
	readonly kind: 'both' | 'family' | 'given' | 'initial';
}

/** A name of fifteen letters, each half sure, is still found. */
const LEAST = 1e-12;
/** Names stand above this part of the page's height, text from so much below it on. */
const HEADER_ENDS = 0.06;
const TEXT_BEGINS = 0.05;

/**
 * Every way to read a name of the roster off a piece of a page's header.
 *
 * @param height of its middle, as a fraction of the page's
 */
export function describeNames<P extends RosterPerson>(
	piece: LinePosterior,
	height: number,
	ways: Trie<Way<P>>
): DescribedName<P>[] {
	const found = new Map<P, DescribedName<P> & { rank: number }>();
	const letters = bestCharacters(piece).filter(({ character }) => /\w/.test(character)).length;
	const below = Math.min(1, Math.max(0, (height - HEADER_ENDS) / TEXT_BEGINS));
	for (const [nth, [from, first]] of wordStarts(piece).entries()) {
		const rest = part(piece, from, piece.steps);
		const best = bestPath(rest);
		for (const { value, text, whole, parted, end } of scoreStrings(rest, ways, rest.steps, LEAST)) {
			const score = Math.max(whole, 0.5 * parted);
			if (score < LEAST) continue;
			const length = text.replace(/\W/g, '').length;
			const log = Math.log(score) - best[Math.min(end, rest.steps)]!;
			const per = Math.max(-4, log / length);
			const features = [
				1,
				per,
				Math.min(0, per + 0.5),
				Number(value.kind === 'both'),
				Number(value.kind === 'family'),
				Number(value.kind === 'given'),
				Number(value.kind === 'initial'),
				Math.min(8, length / 2),
				Number(!first),
				Math.min(1, nth / 8),
				Number(whole < 0.5 * parted),
				Math.max(-8, log / 2),
				Math.min(2, Math.max(0, letters - length) / 12),
				below
			];
			const rank = oddsOf(features, NAME_WEIGHTS);
			const known = found.get(value.person);
			if (!known || known.rank < rank)
				found.set(value.person, { person: value.person, written: text, features, rank });
		}
	}
	return [...found.values()].map(({ person, written, features }) => ({ person, written, features }));
}

/** Every way in which people of a roster may write their names. */
export function rosterWays<P extends RosterPerson>(roster: readonly P[]): Trie<Way<P>> {
	const trie = emptyTrie<Way<P>>();
	for (const person of roster) {
		const [given, family] = [shortText(person.given), shortText(person.family)];
		const add = (text: string, kind: Way<P>['kind']) => {
			const written = text.trim();
			if (written.replace(/\W/g, '').length > 1) addTo(trie, written, { person, kind }, 1);
		};
		for (const between of [' ', '']) add(`${given}${between}${family}`, 'both');
		for (const between of [', ', ',', ' ']) add(`${family}${between}${given}`, 'both');
		if (given && family) {
			for (const between of ['. ', '.', ' ']) add(`${given[0]}${between}${family}`, 'initial');
			for (const end of ['.', '']) add(`${given} ${family[0]}${end}`, 'initial');
		}
		add(family, 'family');
		add(given, 'given');
	}
	return trie;
}
