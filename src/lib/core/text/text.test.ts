import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asCells } from './csvCells';
import { holdsStorable, isStorable, shorten, toStorable } from './storable';

describe('storable text', () => {
	it('is all but NUL and halves of pairs', () => {
		for (const text of ['', 'plain', '😀', 'Ωλ\n\t', '\u0001', '\u{10ffff}', '\\u0000']) {
			expect(isStorable(text)).toBe(true);
		}
		for (const text of ['\0', 'a\0', '\ud800', '\udc00x', '\udc00\ud800'])
			expect(isStorable(text)).toBe(false);
	});

	it('can be made of anything, by letters of the same number, and then JSON and UTF-8 bring it back', () => {
		fc.assert(
			fc.property(fc.string({ unit: 'binary' }), fc.nat(40), (text, most) => {
				const dirty = `${text}\0${text.slice(1)}\ud83d`;
				const clean = toStorable(dirty);
				expect(isStorable(clean)).toBe(true);
				expect(Buffer.from(clean, 'utf8').toString('utf8')).toBe(clean);
				expect(toStorable(clean)).toBe(clean);
				const short = shorten(clean, most);
				expect(short.length).toBeLessThanOrEqual(most);
				expect(isStorable(short)).toBe(true);
				expect(clean.startsWith(short)).toBe(true);
				expect(short.length).toBeGreaterThanOrEqual(Math.min(most, clean.length) - 1);
			})
		);
	});

	it('is looked for everywhere in a value, names included, however deep', () => {
		let deep: unknown = 'fine';
		for (let i = 0; i < 50_000; i++) deep = [deep];
		expect(holdsStorable(deep)).toBe(true);
		expect(holdsStorable({ a: [1, null, { b: 'x\0' }] })).toBe(false);
		expect(holdsStorable({ 'k\0': 1 })).toBe(false);
		expect(holdsStorable([true, 3, null, { ok: 'yes' }])).toBe(true);
	});
});

describe('cells of a table', () => {
	it('are never the beginning of a formula, and numbers stay numbers', () => {
		expect(
			asCells({
				a: '=HYPERLINK("http://x")',
				b: '+1',
				c: '-2',
				d: '@x',
				e: '\tx',
				f: 'a=b',
				g: -3,
				h: '',
				i: null
			})
		).toEqual({
			a: '\'=HYPERLINK("http://x")',
			b: "'+1",
			c: "'-2",
			d: "'@x",
			e: "'\tx",
			f: 'a=b',
			g: -3,
			h: '',
			i: null
		});
	});
});
