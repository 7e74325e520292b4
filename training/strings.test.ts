import { describe, expect, it } from 'vitest';
import { Random } from '../demo/generator/random';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { SHORT_ALPHABET, shortText } from '../src/lib/core/reading/shortAlphabet';
import { someLabel, someName, somePageNumber, someWriting } from './strings';

const many = <T>(make: (random: Random) => T): T[] =>
	Array.from({ length: 500 }, (_, i) => make(new Random(i)));

describe('what is written for training', () => {
	it('is in the alphabet of the recogniser, or becomes so', () => {
		for (const { text } of many(someWriting)) {
			expect(text.trim()).not.toBe('');
			for (const c of shortText(text)) expect(SHORT_ALPHABET).toContain(c);
			expect(shortText(text).replace(/ /g, '')).toHaveLength(text.replace(/ /g, '').length);
		}
	});

	it('holds labels that the grammar knows, most of them', () => {
		const { trie } = labelForms(null);
		const isKnown = (text: string) => {
			let node: typeof trie | undefined = trie;
			for (const c of text) node = node?.children.get(c);
			return (node?.meanings.length ?? 0) > 0;
		};
		const known = many(someLabel).filter(isKnown);
		expect(known.length).toBeGreaterThan(300);
	});

	it('holds page numbers that do not pass their count', () => {
		for (const text of many(somePageNumber)) {
			const [number, of] = text.match(/\d+/g)!.map(Number);
			expect(number).toBeGreaterThan(0);
			if (of !== undefined) expect(number).toBeLessThanOrEqual(of);
		}
	});

	it('holds names of two words that begin with a capital', () => {
		for (const name of many(someName)) expect(name).toMatch(/^[A-Z][a-z]+ [A-Z][a-z]+$/);
	});
});
