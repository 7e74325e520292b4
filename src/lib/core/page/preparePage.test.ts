import { describe, expect, it } from 'vitest';
import { testPage, testPhotograph } from '../../../../tests/support/pictures';
import type { PageSpec } from '../../../../demo/generator/writtenPage';
import type { PhotographSpec } from '../../../../demo/generator/photograph';
import { hands } from '../../../../demo/generator/hands';
import { likeness, SAME_PAGE } from './fingerprint';
import type { Plane } from '../raster/picture';
import { blankPicture } from '../raster/picture';
import { wholePicture } from '../sheet/geometry';
import { greyOf } from '../tone/finish';
import { DEFAULT_TONE, TONES, type ToneName } from '../tone/tone';
import { preparePage } from './preparePage';

function prepared(
	seed: number,
	page: Partial<PageSpec> = {},
	photo: Partial<PhotographSpec> = {},
	tone: ToneName = 'greyscale'
) {
	const shot = testPhotograph(testPage(seed, page), { size: [1200, 1600], ...photo });
	return preparePage(shot.picture, {
		corners: shot.corners,
		turn: shot.turn,
		tone: { ...DEFAULT_TONE, name: tone }
	});
}

function plane(result: ReturnType<typeof prepared>): Plane {
	if (result.finished.holds === 'colours') throw new Error('expected one plane');
	return result.finished.plane;
}

/** Fraction of samples that are white paper. */
const whiteShare = ({ data }: Plane) => data.reduce((n, v) => n + (v > 235 ? 1 : 0), 0) / data.length;

type Shot = ReturnType<typeof testPhotograph>;

/** The page with a violet bar painted over a part of it. */
function withBar(page: ReturnType<typeof testPage>): ReturnType<typeof testPage> {
	const { width, height, channels, data } = page.picture;
	const picture = { ...page.picture, data: data.slice() };
	for (let y = Math.round(0.62 * height); y < 0.8 * height; y++) {
		for (let x = Math.round(0.3 * width); x < 0.55 * width; x++)
			picture.data.set([96, 64, 160], (y * width + x) * channels);
	}
	return { ...page, picture };
}

describe('preparePage', () => {
	it('makes an A4 page upright, with a resolution its source can hold', () => {
		const { facts } = prepared(3, {}, { lies: 90 });
		expect(facts.size).toBe('A4');
		expect(facts.height / facts.width).toBeCloseTo(297 / 210, 2);
		expect(facts.dotsPerInch).toBeGreaterThan(100);
		expect(facts.dotsPerInch).toBeLessThanOrEqual(200);
		expect(facts.blank).toBe(false);
	});

	it('evens out a hard shadow and a warm lamp', () => {
		const page = prepared(4, { ruling: 'plain' }, { shadow: 0.7, falloff: 0.5, warmth: 1 });
		expect(whiteShare(plane(page))).toBeGreaterThan(0.9);
	});

	it('keeps the shadow when it is told to', () => {
		const shot = testPhotograph(testPage(4, { ruling: 'plain' }), { shadow: 0.7 });
		const tone = { name: 'greyscale', evenLight: false, inkWeight: 0 } as const;
		const page = preparePage(shot.picture, { corners: shot.corners, turn: 0, tone });
		expect(whiteShare(plane(page))).toBeLessThan(0.5);
	});

	it('lets nothing of a coloured picture through a strip that is laid over it, in no tone', () => {
		const picture = blankPicture(840, 1188, [240, 238, 230]);
		const [x0, y0, x1, y1] = [200, 300, 520, 700];
		// Stripes of two colours, wide enough to be seen in the light of blocks.
		for (let y = y0; y < y1; y++) {
			for (let x = x0; x < x1; x++)
				picture.data.set(y % 80 < 40 ? [70, 100, 180] : [200, 120, 90], 3 * (y * 840 + x));
		}
		const strip = [[x0 - 8, y0 - 8], [x1 + 8, y0 - 8], [x1 + 8, y1 + 8], [x0 - 8, y1 + 8]] as const; // prettier-ignore
		for (const name of TONES) {
			for (const evenLight of [true, false]) {
				const { finished } = preparePage(picture, {
					corners: wholePicture(840, 1188),
					turn: 0,
					tone: { ...DEFAULT_TONE, name, evenLight },
					strips: [strip]
				});
				const grey = greyOf(finished);
				const scale = grey.width / 840;
				let darkest = 255;
				for (let y = Math.round((y0 + 12) * scale); y < (y1 - 12) * scale; y++) {
					for (let x = Math.round((x0 + 12) * scale); x < (x1 - 12) * scale; x++)
						darkest = Math.min(darkest, grey.data[y * grey.width + x]!);
				}
				expect([name, evenLight, darkest > 225]).toEqual([name, evenLight, true]);
			}
		}
	});

	it('keeps the colour of the ink', () => {
		const { finished } = prepared(8, { ink: [190, 30, 30], ruling: 'plain' }, { warmth: 1 }, 'colour');
		if (finished.holds !== 'colours') throw new Error('expected colour');
		const { data } = finished.picture;
		let red = 0;
		for (let i = 0; i < data.length; i += 3) if (data[i]! > data[i + 2]! + 60) red++;
		expect(red / (data.length / 3)).toBeGreaterThan(0.004);
	});

	it('in black and white holds ink, paper and nothing between, without specks or ruling', () => {
		const page = plane(prepared(9, { ruling: 'squared' }, { noise: 4 }, 'black-and-white'));
		const values = new Set(page.data);
		expect([...values].sort()).toEqual([0, 255]);
		const ink = 1 - whiteShare(page);
		expect(ink).toBeGreaterThan(0.005);
		expect(ink).toBeLessThan(0.08);
	});

	it('does not lose pencil in black and white', () => {
		const pen = 1 - whiteShare(plane(prepared(10, { ruling: 'plain' }, {}, 'black-and-white')));
		const pencil = plane(
			prepared(10, { ruling: 'plain', pressure: 0.35, ink: [84, 84, 88] }, {}, 'black-and-white')
		);
		expect(1 - whiteShare(pencil)).toBeGreaterThan(0.5 * pen);
	});
});

describe('legibility', () => {
	it.each([0, 4])('falls with blur and names it, hand %i', (hand) => {
		const scores = [0.3, 1.5, 3, 5].map(
			(blur) => prepared(30, { hand: hands()[hand]!, ruling: 'ruled' }, { blur }).facts.legibility
		);
		for (let i = 1; i < scores.length; i++)
			expect(scores[i]!.score).toBeLessThan(scores[i - 1]!.score + 0.02);
		expect(scores[0]!.verdict).toBe('clear');
		expect(scores[3]!.verdict).not.toBe('clear');
		expect(scores[3]!.reasons).toContain('blur');
	});

	it('falls with fading and names it', () => {
		const dark = prepared(31, { ruling: 'plain' }).facts.legibility;
		const faint = prepared(31, { ruling: 'plain', pressure: 0.16 }).facts.legibility;
		expect(faint.score).toBeLessThan(dark.score);
		expect(faint.reasons).toContain('low-contrast');
	});

	it('tells a blank page from a faint one', () => {
		expect(prepared(32, { blocks: [], name: undefined, pageNumber: undefined }).facts.blank).toBe(true);
		expect(prepared(32, { pressure: 0.16 }).facts.blank).toBe(false);
	});

	it('takes the trace of a hand’s shadow on squared paper for no writing, but a few faint words in it for some', () => {
		const squared = { ruling: 'squared', blocks: [], name: undefined, pageNumber: undefined } as const;
		for (const shadow of [0.3, 0.8]) {
			expect([shadow, prepared(50, squared, { shadow }).facts.blank]).toEqual([shadow, true]);
		}
		expect(prepared(50, { ...squared, name: 'Ilka Brandsma' }, { shadow: 0.8 }).facts.blank).toBe(false);
	});

	it('takes the rims of filled areas for no writing, in every tone', () => {
		const bare = { blocks: [], name: undefined, pageNumber: undefined };
		const [written, barred, empty] = [testPage(34), withBar(testPage(34)), withBar(testPage(34, bare))].map(
			(page) => testPhotograph(page, { size: [1200, 1600] })
		) as [Shot, Shot, Shot];
		const look = ({ picture, corners, turn }: Shot, name: ToneName) =>
			preparePage(picture, { corners, turn, tone: { ...DEFAULT_TONE, name } }).facts.legibility;
		for (const name of TONES) {
			const before = look(written, name);
			const { score, places } = look(barred, name);
			expect([name, before.places, places]).toEqual([name, [], []]);
			expect(score).toBeGreaterThan(before.score - 0.03);
			// Nothing else is on it: whether something was to be read there nobody knows.
			expect(look(empty, name)).toMatchObject({ verdict: 'doubtful', reasons: ['no-writing'] });
		}
	});

	it('says that too few pixels are too few', () => {
		const { legibility } = prepared(33, {}, { size: [420, 560], blur: 0 }).facts;
		expect(legibility.reasons).toContain('low-resolution');
		expect(legibility.verdict).not.toBe('clear');
	});
});

describe('fingerprint', () => {
	it('knows the same page again, turned, dimmer and blurred, and tells others apart', () => {
		const one = prepared(40).facts.fingerprint;
		const again = prepared(40, {}, { seed: 77, lies: 180, desk: 'dark', slant: -4, blur: 2, falloff: 0.5 })
			.facts.fingerprint;
		expect(likeness(one, again)).toBeGreaterThan(SAME_PAGE);
		for (const seed of [41, 43, 47]) {
			const other = prepared(seed, { hand: hands()[40 % hands().length]! }).facts.fingerprint;
			expect(likeness(one, other)).toBeLessThan(SAME_PAGE);
		}
	});

	it('is nothing for a blank page, which is like no other', () => {
		const blank = prepared(32, { blocks: [], name: undefined, pageNumber: undefined }).facts.fingerprint;
		expect(blank).toBe('');
		expect(likeness(blank, blank)).toBe(0);
	});
});
