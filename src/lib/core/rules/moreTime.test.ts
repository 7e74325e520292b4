import { describe, expect, it } from 'vitest';
import { withMoreTime } from './moreTime';

describe('more time', () => {
	const sheet = { due: '2031-03-14T10:00:00+01:00', workUntil: '2031-03-14T09:30:00+01:00' };

	it('moves the due time, and the end of the writing with it', () => {
		expect(withMoreTime(sheet, '2031-03-14T11:15:00+01:00')).toEqual({
			due: '2031-03-14T11:15:00+01:00',
			workUntil: '2031-03-14T10:45:00+01:00'
		});
	});

	it('is none where none was given, or nothing is due', () => {
		expect(withMoreTime(sheet, null)).toBe(sheet);
		const open: { due?: string } = {};
		expect(withMoreTime(open, '2031-03-14T11:15:00+01:00')).toBe(open);
	});
});
