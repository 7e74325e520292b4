import { describe, expect, it } from 'vitest';
import { mixed, posterior } from '../../../../tests/support/reading';
import { packPosterior, unpackPosterior } from './packedPosterior';
import { nameOdds, nameOnPage } from './personName';
import { rosterWays } from './rosterNames';
import { shortText } from './shortAlphabet';

const ILKA = { given: 'Ilka', family: 'Brandsma' };
const ILSE = { given: 'Ilse', family: 'Brandsen' };
const ROSTER = [ILKA, ILSE, { given: 'Noor', family: 'Okoro' }, { given: 'Hugo', family: 'Kalverboer' }];
const header = (...texts: string[]) =>
	texts.map((text) => ({
		box: [0.1, 0.03, 0.4, 0.05] as const,
		text,
		posterior: packPosterior(posterior(shortText(text), 0.98))
	}));

describe('names of a roster', () => {
	it.each([
		'Ilka Brandsma',
		'ILKA BRANDSMA',
		'Name: Ilka Brandsma',
		'Brandsma, Ilka',
		'I. Brandsma',
		'Brandsma'
	])('are known as "%s"', (text) => {
		const name = nameOnPage({ lines: [], header: header(text) }, ROSTER)!;
		expect(name.person).toBe(ILKA);
		expect(name.confidence).toBeGreaterThan(0.6);
	});

	it('are told apart by what differs', () => {
		expect(nameOnPage({ lines: [], header: header('Ilse Brandsen') }, ROSTER)!.person).toBe(ILSE);
	});

	it('are not sure where the writing may say either', () => {
		const both = [
			{
				box: [0, 0, 1, 0.1] as const,
				text: 'ilka',
				posterior: packPosterior(mixed('ilka brandsma', 'ilse brandsen', 0.5))
			}
		];
		const name = nameOnPage({ lines: [], header: both }, ROSTER);
		expect(name?.confidence ?? 0).toBeLessThan(0.6);
	});

	it('are nobody’s where something else stands', () => {
		expect(nameOnPage({ lines: [], header: header('the lode runs slower', 'p. 2/4') }, ROSTER)).toBeNull();
		expect(nameOnPage({ lines: [], header: header('Ilka Brandsma') }, [])).toBeNull();
	});

	it('are not taken from the beginning of another word, however short they are', () => {
		const short = [
			{ given: 'Cas', family: 'Drost' },
			{ given: 'Ben', family: 'Wang' },
			{ given: 'Ulf', family: 'As' }
		];
		for (const text of ['castellan lka', 'tobias benhaddou', 'guess the head', 'head of the weir as']) {
			expect(nameOnPage({ lines: [], header: header(text) }, short)?.person ?? null, text).toBeNull();
		}
		expect(nameOnPage({ lines: [], header: header('Ben Wang') }, short)!.person).toBe(short[1]);
	});

	it('say more the more letters they have', () => {
		const odds = (person: { given: string; family: string }, text: string) =>
			nameOdds(header(text), rosterWays([person])).get(person)!.odds;
		const short = odds({ given: 'Bo', family: 'Vos' }, 'Bo');
		expect(odds({ given: 'Bo', family: 'Vos' }, 'Bo Vos')).toBeGreaterThan(5 * short);
		expect(odds({ given: 'Rosalinde', family: 'Vos' }, 'Rosalinde')).toBeGreaterThan(20 * short);
	});

	it('are told from those with whom they have the given name in common, though the rest is misread', () => {
		const two = [
			{ given: 'Jorrit', family: 'Castellan' },
			{ given: 'Jorrit', family: 'Solberg' }
		];
		const odds = nameOdds(header('jorrit casteblan'), rosterWays(two));
		expect(odds.get(two[0]!)!.odds).toBeGreaterThan(4 * odds.get(two[1]!)!.odds);
	});

	it('say less where text stands than where headers do', () => {
		const at = (y: number) =>
			nameOdds(
				header('Okoro').map((piece) => ({ ...piece, box: [0.1, y, 0.4, y + 0.02] as const })),
				rosterWays(ROSTER)
			).get(ROSTER[2]!)!.odds;
		expect(at(0.11)).toBeLessThan(0.5 * at(0.03));
	});

	it('are found through a letter that was surely misread', () => {
		expect(nameOnPage({ lines: [], header: header('Ilka Brandsna') }, ROSTER)!.person).toBe(ILKA);
	});
});

describe('a posterior that is kept', () => {
	it('says the same again, what is next to impossible aside', () => {
		const before = mixed('q3 (b)', 'q8 (b)', 0.7);
		const after = unpackPosterior(packPosterior(before));
		expect(after.steps).toBe(before.steps);
		expect(after.caseless).toBe(true);
		for (let i = 0; i < before.data.length; i++) {
			if (before.data[i]! >= 0.01) expect(after.data[i]!).toBeCloseTo(before.data[i]!, 1);
		}
	});
});
