import { describe, expect, it } from 'vitest';
import { dueNext, type DueRow } from './dueNext';

const NOW = Date.parse('2031-03-14T12:00:00Z');
const inHours = (hours: number) => new Date(NOW + hours * 3_600_000).toISOString();
const row = (name: string, more: Partial<DueRow>) => ({
	name,
	due: null,
	handedInAt: null,
	returnedAt: null,
	pages: 0,
	...more
});
const next = (...rows: ReturnType<typeof row>[]) => dueNext(rows, NOW)?.name ?? null;

describe('what is due next', () => {
	it('is the soonest that is not handed in, or that was given back', () => {
		const done = row('done', { due: inHours(1), handedInAt: inHours(-2) });
		const back = row('back', { due: inHours(3), handedInAt: inHours(-2), returnedAt: inHours(-1) });
		expect(next(row('later', { due: inHours(30) }), done, back)).toBe('back');
		expect(next(row('later', { due: inHours(30) }), done)).toBe('later');
		expect(next(done)).toBeNull();
	});

	it('is what is overdue only where nothing lies ahead, and not for ever', () => {
		const [old, recent] = [row('old', { due: inHours(-50) }), row('recent', { due: inHours(-2) })];
		expect(next(old, recent, row('ahead', { due: inHours(900) }))).toBe('ahead');
		expect(next(old, recent)).toBe('recent');
		expect(next(row('long ago', { due: inHours(-24 * 15) }))).toBeNull();
	});

	it('is something without a due time only once it is begun', () => {
		expect(next(row('untouched', {}))).toBeNull();
		expect(next(row('untouched', {}), row('begun', { pages: 2 }))).toBe('begun');
	});
});
