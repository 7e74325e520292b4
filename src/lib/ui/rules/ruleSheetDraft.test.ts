import { describe, expect, it } from 'vitest';
import type { RuleSheet } from '$lib/core/rules/ruleSheet';
import { draftOf, sheetOf } from './ruleSheetDraft';

const sheet = (due?: string, workUntil?: string): RuleSheet => ({
	title: 'Worksheet 3',
	questions: [{ label: '1', marks: 4, newPage: true, parts: [{ label: 'a' }, { label: 'b', marks: 2 }] }],
	...(due && { due }),
	...(workUntil && { workUntil }),
	file: { type: 'pdf', maxBytes: 2_500_000 },
	legibility: 'clear'
});

describe('a draft of a rule sheet', () => {
	it.each([
		['in winter', '2026-12-04T18:00:00+01:00', 'Europe/Amsterdam', ''],
		['in summer', '2027-06-04T18:00:00+02:00', 'Europe/Amsterdam', ''],
		['with a zone of its own', '2026-12-04T18:00:00-05:00', 'Europe/Amsterdam', '-05:00'],
		['in a zone of half an hour', '2026-12-04T18:00:00+05:30', 'Asia/Kolkata', ''],
		['in UTC', '2026-12-04T18:00:00Z', 'Europe/Amsterdam', '+00:00']
	])('says the same moment %s', (_, due, timeZone, zone) => {
		const draft = draftOf(sheet(due), timeZone);
		expect([draft.dueLocal, draft.zone]).toEqual([due.slice(0, 16), zone]);
		const { due: again } = sheetOf(draft, timeZone) as RuleSheet;
		expect(Date.parse(again!)).toBe(Date.parse(due));
	});

	it('of which the day is moved into summer keeps the hour of the clock', () => {
		const draft = draftOf(sheet('2026-12-04T18:00:00+01:00'), 'Europe/Amsterdam');
		draft.dueLocal = '2027-06-04T18:00';
		expect((sheetOf(draft, 'Europe/Amsterdam') as RuleSheet).due).toBe('2027-06-04T18:00:00+02:00');
	});

	it('leaves out what is left empty, and keeps all else', () => {
		const whole = sheet('2026-12-04T18:00:00+01:00', '2026-12-04T17:45:00+01:00');
		const again = sheetOf(draftOf(whole, 'Europe/Amsterdam'), 'Europe/Amsterdam') as RuleSheet;
		// Marks of a question with parts are those of its parts.
		expect(again).toEqual({
			...whole,
			questions: [{ label: '1', newPage: true, parts: [{ label: 'a' }, { label: 'b', marks: 2 }] }]
		});
	});
});
