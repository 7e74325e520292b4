import { describe, expect, it } from 'vitest';
import { colouredSides, coveredBy, isDivider } from './dividers';

type Rgb = readonly [number, number, number];
const WHITE: Rgb = [0.95, 0.95, 0.94];
const YELLOW: Rgb = [0.95, 0.9, 0.5];
const written = (paper: Rgb = WHITE) => ({ isEmpty: false, paper: { paper } });
const empty = (paper: Rgb = WHITE) => ({ isEmpty: true, paper: { paper } });

describe('a sheet of coloured paper', () => {
	it('is an empty side of another tint than the stack’s', () => {
		const sides = [written(), written(), empty(YELLOW), written(), empty(), written()];
		expect(colouredSides(sides)).toEqual([false, false, true, false, false, false]);
	});

	it('is none where it is written on: somebody answered on it', () => {
		expect(colouredSides([written(), written(YELLOW), written()])).toEqual([false, false, false]);
	});

	it('is none where a lamp or a sheet of yellow paper tints what lies beside it as well', () => {
		expect(colouredSides([written(), written(), written(YELLOW), empty(YELLOW), written()])).toEqual([
			false,
			false,
			false,
			false,
			false
		]);
		expect(colouredSides([written(), written(), empty(YELLOW), written(YELLOW), written()])[2]).toBe(false);
	});

	it('is told by its tint, not by how bright it is', () => {
		const dim = WHITE.map((v) => 0.4 * v) as unknown as Rgb;
		const dimYellow = YELLOW.map((v) => 0.4 * v) as unknown as Rgb;
		expect(colouredSides([written(), empty(dim), written(), empty(dimYellow), written()])).toEqual([
			false,
			false,
			false,
			true,
			false
		]);
	});

	it('is not told where the paper is not known', () => {
		const unknown = { isEmpty: true, paper: undefined };
		expect(colouredSides([written(), unknown, written()])).toEqual([false, false, false]);
		expect(colouredSides([])).toEqual([]);
	});
});

describe('a cover sheet', () => {
	const roster = [
		{ id: 'a1', given: 'Ilka', family: 'Brandsma', sourcedId: 's01' },
		{ id: 'a2', given: 'Tobias', family: 'Okoro' }
	];
	const cover = (person: string, assignment?: string) =>
		({ person, ...(assignment && { assignment }) }) as Parameters<typeof coveredBy>[0];

	it('announces the packet of whom the roster knows by what stands in its code', () => {
		expect(coveredBy(cover('s01'), roster, undefined)).toBe(0);
		expect(coveredBy(cover('a2'), roster, undefined)).toBe(1);
	});

	it('announces nobody who is not in the class, and not by an id that a sourcedId stands for', () => {
		expect(coveredBy(cover('s09'), roster, undefined)).toBeNull();
		expect(coveredBy(cover('a1'), roster, undefined)).toBeNull();
	});

	it('of another assignment announces nobody; of none it may be of any', () => {
		expect(coveredBy(cover('s01', 'w2'), roster, 'w3')).toBeNull();
		expect(coveredBy(cover('s01', 'w3'), roster, 'w3')).toBe(0);
		expect(coveredBy(cover('s01'), roster, 'w3')).toBe(0);
	});
});

describe('what lies between packets', () => {
	it('was laid there where it is a cover or coloured; a blank back was not', () => {
		expect([isDivider('cover'), isDivider('coloured'), isDivider('blank'), isDivider(null)]).toEqual([
			true,
			true,
			false,
			false
		]);
	});
});
