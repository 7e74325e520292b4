import { describe, expect, it } from 'vitest';
import { mixed, posterior } from '../../../../tests/support/reading';
import { packPosterior, unpackPosterior } from './packedPosterior';
import { nameOnPage } from './personName';
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
