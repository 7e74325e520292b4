import { describe, expect, it } from 'vitest';
import { labelForms, LONG_WORDS, type LabelMeaning } from './labelForms';
import type { Trie } from './trie';

/** What a text means, and how usual it is to write that so. */
function meaningsOf(trie: Trie<LabelMeaning>, text: string) {
	let node: Trie<LabelMeaning> | undefined = trie;
	for (const character of text) node = node?.children.get(character);
	return node?.meanings ?? [];
}
const OWN = labelForms([{ label: '1' }, { label: '2', parts: [{ label: 'a' }, { label: 'b' }] }]);
const ANY = labelForms(null);
const says = (forms: typeof OWN, text: string) =>
	meaningsOf(forms.trie, text).map(({ value: { question, part, form } }) => [question, part, form]);
const usual = (forms: typeof OWN, text: string) =>
	Math.max(0, ...meaningsOf(forms.trie, text).map((m) => m.weight));

describe('what a label may look like', () => {
	it.each([
		['1', '1', null, 'bare'],
		['1.', '1', null, 'signed'],
		['(1)', '1', null, 'signed'],
		['[1]', '1', null, 'signed'],
		['1 -', '1', null, 'signed'],
		['Q1', '1', null, 'named'],
		['Question 1', '1', null, 'named'],
		['2b', '2', 'b', 'bare'],
		['2 (b)', '2', 'b', 'signed'],
		['2. b)', '2', 'b', 'signed'],
		['(2b)', '2', 'b', 'signed'],
		['[2b]', '2', 'b', 'signed'],
		['Task 2b', '2', 'b', 'named'],
		['b)', null, 'b', 'signed'],
		['(b)', null, 'b', 'signed'],
		['b', null, 'b', 'bare']
	] as const)('"%s" says question %s, part %s', (text, question, part, form) => {
		for (const forms of [OWN, ANY]) expect(says(forms, text)).toContainEqual([question, part, form]);
	});

	it('has the assignment’s own parts, and no others', () => {
		expect(says(OWN, '2c')).toEqual([]);
		expect(says(OWN, '1a')).toEqual([]);
		expect(says(OWN, 'c)')).toEqual([]);
		expect(says(ANY, '2c')).toEqual([['2', 'c', 'bare']]);
		expect(OWN.parts!.get('2')).toEqual(['a', 'b']);
		expect(ANY.parts).toBeNull();
	});

	it('knows numbers that the assignment does not have as hardly likely', () => {
		expect(usual(OWN, 'Q7')).toBeGreaterThan(0);
		expect(usual(OWN, 'Q7')).toBeLessThan(0.2 * usual(OWN, 'Q1'));
		expect(usual(ANY, 'Q7')).toBe(usual(ANY, 'Q1'));
	});

	it('takes later parts for less usual where no assignment says which there are', () => {
		const weights = [...'abcdefgh'].map((letter) => usual(ANY, `(${letter})`));
		expect([...weights].sort((a, b) => b - a)).toEqual(weights);
		expect(weights.at(-1)!).toBeLessThan(0.05 * weights[0]!);
		expect(usual(ANY, '3h')).toBeLessThan(0.05 * usual(ANY, '3a'));
		// Where it says so, each is as usual as the next.
		const own = labelForms([{ label: '1', parts: [...'abcdefgh'].map((label) => ({ label })) }]);
		expect(new Set([...'abcdefgh'].map((letter) => usual(own, `(${letter})`))).size).toBe(1);
	});

	it('names the words that are told by their shape in small letters', () => {
		expect(LONG_WORDS).toContain('question');
		for (const word of LONG_WORDS) expect(word).toMatch(/^[a-z]{4,}$/);
	});
});
