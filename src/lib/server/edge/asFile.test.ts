import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { asFile } from './asFile';

describe('a name to keep an answer under', () => {
	it('comes back as it was, in characters that a header may have and that mean nothing there', () => {
		fc.assert(
			fc.property(fc.string({ unit: 'grapheme' }), fc.boolean(), (name, shown) => {
				const said = asFile(name, shown);
				const [, kind, encoded] = /^(inline|attachment); filename\*=UTF-8''([\w.!~%-]*)$/.exec(said)!;
				expect(kind).toBe(shown ? 'inline' : 'attachment');
				expect(decodeURIComponent(encoded!)).toBe(name);
			})
		);
	});

	it('is taken by what reads headers', () => {
		const headers = new Headers({ 'content-disposition': asFile('Müller’s (3) *.pdf') });
		expect(headers.get('content-disposition')).toBe(
			"attachment; filename*=UTF-8''M%C3%BCller%E2%80%99s%20%283%29%20%2A.pdf"
		);
	});
});
