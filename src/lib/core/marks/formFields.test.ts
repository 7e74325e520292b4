import { describe, expect, it } from 'vitest';
import { changeSchema } from '../packet/changeSchema';
import { wholePicture } from '../sheet/geometry';
import { fillingOf, valueIn, type FormField } from './formFields';
import { boundsOf, drawnOn, type PageShape } from './onPage';

/** An A4 page drawn at 200 dots an inch. */
const PICTURE = { width: 1654, height: 2339 };
const SHAPE: PageShape = { ...PICTURE, corners: wholePicture(1654, 2339), turn: 0, dotsPerInch: 200 };
const FIELD: FormField = {
	id: 'field-0-1',
	label: 'Name',
	kind: 'words',
	box: [0.2, 0.1, 0.4, 0.02],
	isLong: false,
	options: [],
	oneOf: null
};

function boundsIn(field: FormField, value: string) {
	const mark = fillingOf(field, value, SHAPE, PICTURE)!;
	expect(changeSchema.validate({ kind: 'setMark', page: 'p', mark }).error).toBeUndefined();
	const [x0, y0, x1, y1] = boundsOf(drawnOn(SHAPE, [mark as never])[0]!);
	return { mark, x0: x0 / 1654, y0: y0 / 2339, x1: x1 / 1654, y1: y1 / 2339 };
}

describe('fields of a form', () => {
	it('are filled with words inside their box, smaller where they are long, and told again', () => {
		for (const value of ['Mirthe', 'Aleksandra Konstantinopolskaya-van der Heijden']) {
			const { mark, x0, y0, x1, y1 } = boundsIn(FIELD, value);
			expect(x0).toBeGreaterThan(0.2);
			expect(x1).toBeLessThan(0.63);
			expect(y0).toBeGreaterThan(0.095);
			expect(y1).toBeLessThan(0.125);
			expect(valueIn(FIELD, [mark])).toBe(value);
		}
		const size = (text: string) => (boundsIn(FIELD, text).mark as { size: number }).size;
		expect(size('a'.repeat(60))).toBeLessThan(size('a'.repeat(10)));
	});

	it('of several lines break at words and stay in their box', () => {
		const long = { ...FIELD, isLong: true, box: [0.1, 0.3, 0.5, 0.12] as const };
		const text = Array.from({ length: 40 }, (_, i) => `word${i}`).join(' ');
		const { mark, x1, y1 } = boundsIn(long, text);
		const lines = (mark as { text: string }).text.split('\n');
		expect(lines.length).toBeGreaterThan(3);
		expect(lines.join(' ')).toBe(text);
		expect(x1).toBeLessThan(0.68);
		expect(y1).toBeLessThan(0.44);
	});

	it('to tick hold a tick, and nothing of what is empty', () => {
		const tick = { ...FIELD, kind: 'tick' as const, box: [0.7, 0.5, 0.02, 0.014] as const };
		const { mark, x0, x1, y0, y1 } = boundsIn(tick, 'yes');
		expect(mark.kind).toBe('pen');
		expect(x0).toBeGreaterThan(0.69);
		expect(x1).toBeLessThan(0.73);
		expect(y0).toBeGreaterThan(0.495);
		expect(y1).toBeLessThan(0.52);
		expect(valueIn(tick, [mark])).toBe('yes');
		expect(valueIn(tick, [])).toBe('');
		expect(fillingOf(FIELD, '  ', SHAPE, PICTURE)).toBeNull();
	});
});
