import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { coverText, readCover } from './coverSheet';

describe('the code of a cover sheet', () => {
	it('says what was put into it, whatever letters a roster has', () => {
		fc.assert(
			fc.property(
				fc.string({ maxLength: 40 }),
				fc.string({ minLength: 1, maxLength: 40 }),
				(assignment, person) => {
					expect(readCover(coverText({ assignment, person }))).toEqual({ assignment, person });
				}
			)
		);
	});

	it.each([
		'',
		'https://example.org/a/b',
		'MEMBRANA-COVER-1/a',
		'MEMBRANA-COVER-1/a/',
		'MEMBRANA-COVER-1/a/b/c',
		'MEMBRANA-COVER-2/a/b',
		'MEMBRANA-COVER-1/a/%E0%A4%A',
		`MEMBRANA-COVER-1/a/${'b'.repeat(400)}`
	])('is no other text: %s', (text) => {
		expect(readCover(text)).toBeNull();
	});
});
