import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { testPage, testPhotograph } from '../../../../tests/support/pictures';
import { hands } from '../../../../demo/generator/hands';
import type { PhotographSpec } from '../../../../demo/generator/photograph';
import type { PageSpec } from '../../../../demo/generator/writtenPage';
import { preparePage } from '../page/preparePage';
import { gaussianBlur } from '../raster/boxBlur';
import { toFloat } from '../raster/floatPlane';
import { luma } from '../raster/luma';
import { blankPicture, type Picture } from '../raster/picture';
import { wholePicture } from '../sheet/geometry';
import type { ToneName } from '../tone/tone';
import { paperNoise } from './paperNoise';
import { measureLegibility } from './measureLegibility';
import { writingMask } from './writingMask';
import { halve } from '../raster/halve';
import { blackAndWhite } from '../tone/blackAndWhite';
import { evenGrey } from '../tone/evenLight';
import { estimateIllumination } from '../tone/illumination';
import { fuseRecognition } from './fuseRecognition';
import { adviceFor, describeReasons, placeName } from './describe';
import { CLEAR, PROFILE_ROWS, UNREADABLE, verdictOf, type Legibility, type WeakPlace } from './legibility';
import { glareOf, TILE_COLUMNS, TILES } from './tiles';
import { weakPlaces } from './weakPlaces';

const tone = { name: 'greyscale', evenLight: true, inkWeight: 0 } as const;
const SIZE = [1300, 1750] as const;

function measured(
	page: Partial<PageSpec> = {},
	shot: Partial<PhotographSpec> = {},
	spoil: (picture: Picture) => Picture = (p) => p,
	seed = 3
) {
	const { picture, corners } = testPhotograph(testPage(seed, { scale: 7, ...page }), {
		seed,
		size: SIZE,
		...shot
	});
	return preparePage(spoil(picture), { corners, turn: 0, tone }).facts;
}

/** The mean along a straight path of this many pixels down and right: what a moving camera sees. */
function moved(picture: Picture, length: number): Picture {
	const { width, height, channels, data } = picture;
	const out = new Uint8Array(data.length);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			for (let c = 0; c < 3; c++) {
				let sum = 0;
				for (let k = 0; k < length; k++) {
					const px = Math.min(width - 1, x + k);
					const py = Math.min(height - 1, y + (k >> 1));
					sum += data[(py * width + px) * channels + c]!;
				}
				out[(y * width + x) * channels + c] = sum / length;
			}
		}
	}
	return { ...picture, data: out };
}

describe('in black and white', () => {
	const scan = testPage(3, { scale: 7, ruling: 'plain' }).picture;
	const inTone = (picture: Picture, name: ToneName) =>
		preparePage(picture, {
			corners: wholePicture(picture.width, picture.height),
			turn: 0,
			tone: { ...tone, name }
		}).facts.legibility;
	/** From here down soft and fainter, as pencil that was rubbed. */
	const rubbed = (picture: Picture, from: number): Picture => {
		const { width, height } = picture;
		const grey = luma(picture);
		const soft = gaussianBlur(toFloat(grey), 3.5).data;
		const data = new Uint8Array(3 * width * height);
		for (let i = 0; i < width * height; i++) {
			const isBelow = i >= from * height * width;
			data.fill(isBelow ? 255 - 0.6 * (255 - soft[i]!) : grey.data[i]!, 3 * i, 3 * i + 3);
		}
		return { width, height, channels: 3, data };
	};

	it('a page reads as in greys while its strokes are there', () => {
		const [greys, ink] = [inTone(scan, 'greyscale'), inTone(scan, 'black-and-white')];
		expect(ink.verdict).toBe('clear');
		expect(ink.reasons).not.toContain('lost-strokes');
		expect(Math.abs(ink.score - greys.score)).toBeLessThan(0.02);
		expect(greys.inGreys).toBeUndefined();
	});

	it('says that it loses strokes, where, and how the page would read in greys', () => {
		const page = rubbed(scan, 0.25);
		const [greys, ink] = [inTone(page, 'greyscale'), inTone(page, 'black-and-white')];
		expect(greys.reasons).not.toContain('lost-strokes');
		expect(ink.inGreys).toBe(greys.score);
		expect(ink.score).toBeLessThan(greys.score);
		expect(ink.reasons).toContain('lost-strokes');
		expect(describeReasons(ink)).toContain('black and white loses part of the writing');
		const lost = ink.places.filter((p) => p.reason === 'lost-strokes');
		expect(lost.length).toBeGreaterThan(0);
		for (const { top } of lost) expect(top).toBeGreaterThan(0.2);
	});

	it('is doubtful where a part is gone, and only there; of stains it makes no unreadable page', () => {
		const light = estimateIllumination(scan);
		const grey = evenGrey(scan, light);
		const noise = paperNoise(scan);
		const dotsPerInch = 7 * 25.4;
		const without = (from: number) => {
			const { data, ...size } = blackAndWhite(grey, dotsPerInch);
			return measureLegibility({
				grey,
				writing: writingMask(halve(grey), noise / 2),
				sourceDotsPerInch: dotsPerInch,
				dotsPerInch,
				flat: scan,
				light: light.green,
				noise,
				cutOff: false,
				binary: { ...size, data: data.map((v, i) => (i < from * data.length ? v : 255)) }
			});
		};
		const [whole, upper, none] = [without(1), without(0.3), without(0)];
		expect(whole.verdict).toBe('clear');
		expect([upper.verdict, upper.reasons[0], upper.inGreys]).toEqual([
			'doubtful',
			'lost-strokes',
			whole.score
		]);
		for (const [row, score] of upper.profile.entries()) {
			if (row < 0.3 * PROFILE_ROWS - 1) expect(score).toBe(whole.profile[row]);
			else if (row > 0.3 * PROFILE_ROWS && score >= 0) expect(score).toBeLessThan(CLEAR);
		}
		expect(none.verdict).toBe('doubtful');
	});
});

describe('reasons', () => {
	it('tells a moved camera from one out of focus', () => {
		const shaken = measured({}, { blur: 0.4 }, (p) => moved(p, 13)).legibility;
		expect(shaken.verdict).not.toBe('clear');
		expect(shaken.reasons[0]).toBe('motion');
		const soft = measured({}, { blur: 5 }).legibility;
		expect(soft.verdict).not.toBe('clear');
		expect(soft.reasons[0]).toBe('blur');
	});

	it('knows from the file that it was squeezed too hard', () => {
		const small = { size: [620, 830] as const, blur: 0 };
		const good = measured({}, small, (p) => ({ ...p, quantisation: 4 })).legibility;
		const bad = measured({}, small, (p) => ({ ...p, quantisation: 255 })).legibility;
		expect(good.reasons).not.toContain('compression');
		expect(bad.score).toBeLessThan(good.score - 0.2);
		expect(bad.reasons).toContain('compression');
	});

	it('finds the lamp where it is mirrored', () => {
		const { legibility } = measured({}, { seed: 4, glare: 1 });
		expect(legibility.reasons).toContain('glare');
		const place = legibility.places.find((p) => p.reason === 'glare')!;
		expect(place.bottom - place.top).toBeLessThan(0.4);
		expect(place.right - place.left).toBeLessThan(0.5);
		expect(measured({}, { seed: 4 }).legibility.reasons).not.toContain('glare');
	});

	it.each(['ruled', 'squared', 'plain'] as const)(
		'sees the other side show through, on %s paper',
		(ruling) => {
			// Every second line down to the foot of the page.
			const lines = ['we read the meter for sixty seconds at each depth'];
			const blocks = new Array(12).fill([
				{ kind: 'text', lines },
				{ kind: 'space', lines: 1 }
			]);
			const full = { ruling, blocks: blocks.flat() as PageSpec['blocks'] };
			const back = testPage(21, { scale: 7 }).picture;
			const through = measured({ ...full, showThrough: back }).legibility;
			expect([through.verdict, through.reasons]).toEqual(['clear', ['show-through']]);
			expect(measured(full).legibility.reasons).toEqual([]);
		}
	);

	/** Under a quarter of a page in pen, the rest by another hand than the pen's: pencil, or none. */
	const besidePen = (below: Partial<PageSpec> | null, more: Partial<PageSpec> = {}) => {
		const line = 'so the bed is soft and the rod sinks';
		const spec = { hand: hands()[0]!, scale: 7, ...more };
		const pen = testPage(31, {
			...spec,
			blocks: [{ kind: 'text', lines: new Array<string>(5).fill(line) }]
		}).picture;
		const rest = [
			{ kind: 'space', lines: 7 },
			{ kind: 'text', lines: new Array<string>(14).fill(line) }
		] as const;
		const other = below && testPage(31, { ...spec, ...below, blocks: [...rest] }).picture;
		const data = other ? pen.data.map((v, i) => Math.min(v, other.data[i]!)) : pen.data;
		const shot = testPhotograph({ picture: { ...pen, data }, labels: [] }, { seed: 8, size: SIZE });
		return preparePage(shot.picture, { corners: shot.corners, turn: shot.turn, tone }).facts.legibility;
	};

	it.each(['plain', 'ruled'] as const)(
		'is not sure of a page that is written in faint pencil below a pen’s lines, on %s paper',
		(ruling) => {
			expect(besidePen(null, { ruling }).verdict).toBe('clear');
			const faint = besidePen({ pressure: 0.13 }, { ruling });
			expect(faint.verdict).toBe('doubtful');
			expect(faint.reasons).toContain('faint-marks');
			expect(describeReasons(faint)).toContain('very faint');
			const places = faint.places.filter(({ reason }) => reason === 'faint-marks');
			expect(places.length).toBeGreaterThan(0);
			for (const { top } of places) expect(top).toBeGreaterThan(0.25);
			// Pencil that can be read is read with the pen.
			const firm = besidePen({ pressure: 0.3 }, { ruling });
			expect([firm.verdict, firm.reasons]).toEqual(['clear', []]);
		}
	);

	it('says when writing is fainter than the lines it stands on', () => {
		const pencil = { ink: [90, 90, 94] as const, pressure: 0.14 };
		const plain = measured({ ...pencil, ruling: 'plain' }).legibility;
		const squared = measured({ ...pencil, ruling: 'squared' }).legibility;
		expect(plain.reasons).toContain('low-contrast');
		expect(plain.verdict).toBe('doubtful');
		expect(squared.score).toBeLessThan(plain.score);
	});
});

describe('blank and faint', () => {
	it.each([0, 3])('ink that even light whitens away is faint, not blank (hand %i)', (hand) => {
		const faint = measured({ hand: hands()[hand]!, ruling: 'plain', pressure: 0.07 });
		expect(faint.blank).toBe(false);
		expect(faint.legibility.verdict).not.toBe('clear');
		expect(faint.legibility.reasons).toContain('low-contrast');
	});

	it.each(['ruled', 'squared', 'plain'] as const)('a %s sheet without writing is blank', (ruling) => {
		const empty = { blocks: [], name: undefined, pageNumber: undefined, ruling };
		expect(measured(empty, { noise: 4, falloff: 0.4 }).blank).toBe(true);
	});
});

describe('weakPlaces', () => {
	const at = (column: number, row: number) => row * TILE_COLUMNS + column;

	it('joins tiles that touch and share a reason, and puts the greatest loss first', () => {
		const reasons = new Array<'blur' | 'glare' | null>(TILES).fill(null);
		const scores = new Float64Array(TILES).fill(1);
		const weight = new Float64Array(TILES).fill(1);
		for (const t of [at(2, 3), at(3, 4)]) {
			reasons[t] = 'blur';
			scores[t] = 0.5;
		}
		for (const t of [at(8, 20), at(9, 20), at(9, 21), at(10, 20)]) {
			reasons[t] = 'glare';
			scores[t] = 0.1;
		}
		const [first, second, ...more] = weakPlaces(reasons, scores, weight);
		expect(more).toEqual([]);
		expect(first).toEqual({
			left: 8 / 12,
			right: 11 / 12,
			top: 20 / 28,
			bottom: 22 / 28,
			score: 0.1,
			reason: 'glare'
		});
		expect(second).toMatchObject({ left: 2 / 12, right: 4 / 12, score: 0.5, reason: 'blur' });
	});

	it('does not join over the edge of a row', () => {
		const reasons = new Array<'blur' | null>(TILES).fill(null);
		reasons[at(11, 3)] = reasons[at(0, 4)] = 'blur';
		expect(weakPlaces(reasons, new Float64Array(TILES), new Float64Array(TILES).fill(1))).toHaveLength(2);
	});
});

describe('words', () => {
	it('say what is wrong, what to do and where', () => {
		expect(describeReasons({ score: 0.4, reasons: ['motion', 'low-contrast'] })).toMatch(/moved.*faint/);
		expect(describeReasons({ score: 0.95, reasons: [] })).toBe('it reads well.');
		expect(describeReasons({ score: 0.5, reasons: [] })).toContain('hard to make out');
		expect(adviceFor('compression')).toContain('send the original');
		const place = (left: number, top: number, right: number, bottom: number): WeakPlace => ({
			left,
			top,
			right,
			bottom,
			score: 0,
			reason: 'blur'
		});
		expect(placeName(place(0.7, 0.8, 1, 1))).toBe('On the right, near the bottom');
		expect(placeName(place(0.1, 0.1, 0.9, 0.2))).toBe('Across the page, near the top');
		expect(placeName(place(0, 0, 1, 1))).toBe('Nearly everywhere');
	});
});

describe('glare', () => {
	/** A page of grey paper on which some tiles are burnt out, and what surrounds the writing. */
	const burnt = (paper: number, share: number) => {
		const picture = blankPicture(600, 840, [paper, paper, paper]);
		picture.data.fill(255, 0, Math.round(share * 840) * 600 * 3);
		return glareOf(picture).reduce((most, tile) => Math.max(most, tile), 0);
	};

	it('is what is burnt out of paper that is darker', () => {
		expect(burnt(200, 0.2)).toBe(1);
		expect(burnt(200, 0)).toBe(0);
	});

	it('is not there where the paper itself is white: in scans, grey or of two tones', () => {
		expect(burnt(255, 0)).toBe(0);
		expect(burnt(250, 0.4)).toBe(0);
		const { picture } = testPage(2, { ruling: 'plain' });
		const twoTone = { ...picture, data: picture.data.map((v) => (v > 160 ? 255 : 0)) };
		expect(Math.max(...glareOf(twoTone))).toBe(0);
	});
});

describe('after reading', () => {
	/** Written on from the second to the last but one band. */
	const page = (
		score: number,
		reasons: Legibility['reasons'] = ['blur'],
		change: Partial<Legibility> = {}
	) => ({
		blank: false,
		legibility: {
			score,
			verdict: verdictOf(score),
			reasons,
			profile: Array.from({ length: PROFILE_ROWS }, (_, i) => (i > 0 && i < PROFILE_ROWS - 1 ? score : -1)),
			places: [],
			...change
		} as Legibility
	});
	/** Lines over the whole page, or from one height to another. */
	const read = (confidence: number, from = 0, to = 1) =>
		Array.from({ length: 20 }, (_, i) => i / 20)
			.filter((y) => y >= from && y < to)
			.map((y) => ({ text: 'the lode runs slower', confidence, box: [0.1, y, 0.9, y + 0.045] as const }));
	const after = (score: number, confidence: number, to?: number) =>
		fuseRecognition(page(score), read(confidence, 0, to)).legibility;

	it('a page that is read well is called clear, and no longer blurred', () => {
		const now = after(0.5, 0.97);
		expect(now).toMatchObject({ verdict: 'clear', reasons: [], readRight: 0.98 });
		expect(now.profile[0]).toBe(-1);
		expect(now.profile[5]).toBeGreaterThan(0.9);
	});

	it('a page that looks hard and is read badly is worse than either tells', () => {
		expect(after(0.5, 0.35).score).toBeLessThan(0.4);
		expect(after(0.3, 0).verdict).toBe('unreadable');
		expect(after(0.5, 0.35).reasons).toEqual(['blur']);
	});

	it('a sharp page that reads badly may hold drawings or a foreign script: doubtful, the more so the worse it is read', () => {
		expect(after(0.97, 0.2).verdict).toBe('doubtful');
		expect(after(0.97, 0.9).verdict).toBe('clear');
		expect(fuseRecognition(page(0.97), []).legibility.readRight).toBeUndefined();
		expect(after(0.97, 0.2).score).toBeLessThan(after(0.97, 0.6).score);
	});

	it('a picture on which nothing is read is not called clear, and says so', () => {
		expect(fuseRecognition(page(0.97, []), []).legibility).toMatchObject({
			score: 0.6,
			verdict: 'doubtful',
			reasons: ['no-writing']
		});
		const guessed = [{ text: 'Il1 |', confidence: 0.3, box: [0.1, 0.1, 0.9, 0.2] as const }];
		expect(fuseRecognition(page(0.97, []), guessed).legibility.reasons).toEqual(['no-writing']);
	});

	it('what reads fairly well is not unreadable, however faint it looks', () => {
		expect(after(0.05, 0.87).verdict).not.toBe('unreadable');
		expect(after(0.05, 0.4).verdict).toBe('unreadable');
	});

	it('does not speak for what was not read, or lies under a lamp', () => {
		const half = after(0.5, 0.99, 0.5);
		expect(half.verdict).not.toBe('clear');
		expect(half.profile[4]).toBeGreaterThan(0.9);
		expect(half.profile[24]).toBeLessThanOrEqual(0.5);
		const lamp = { left: 0, right: 1, top: 0.5, bottom: 1, score: 0.2, reason: 'glare' } as const;
		const burnt = fuseRecognition(page(0.6, ['glare'], { places: [lamp] }), read(0.99)).legibility;
		expect(burnt.verdict).not.toBe('clear');
		expect(burnt.profile[24]).toBe(0.6);
	});

	it('what a person can see is still said', () => {
		const seen = page(0.95, ['glare', 'cut-off', 'motion', 'show-through']);
		expect(fuseRecognition(seen, read(0.99)).legibility.reasons).toEqual([
			'glare',
			'cut-off',
			'show-through'
		]);
	});

	it('faint writing stays doubtful, however well it is read', () => {
		const faint = fuseRecognition(page(0.7, ['low-contrast']), read(0.99)).legibility;
		expect(faint.score).toBeGreaterThan(0.9);
		expect(faint).toMatchObject({ verdict: 'doubtful', reasons: ['low-contrast'] });
		// A pale line on a page that is clear all in all does not hold.
		expect(fuseRecognition(page(0.9, ['low-contrast']), read(0.99)).legibility.verdict).toBe('clear');
	});

	it.each(['lost-strokes', 'faint-marks'] as const)(
		'what has not been seen is not made good by reading the rest (%s)',
		(reason) => {
			const lost = fuseRecognition(page(0.6, [reason]), read(0.99)).legibility;
			expect(lost).toMatchObject({ verdict: 'doubtful', reasons: [reason] });
		}
	);

	it('a blank page stays as it is', () => {
		const blank = { ...page(1, []), blank: true };
		expect(fuseRecognition(blank, read(0.4))).toBe(blank);
	});

	it('is a share, rises with how surely was read, and calls no clear page unreadable', () => {
		const share = fc.double({ min: 0, max: 1, noNaN: true });
		fc.assert(
			fc.property(share, share, share, share, (score, a, b, to) => {
				const [low, high] = [after(score, Math.min(a, b), to), after(score, Math.max(a, b), to)];
				expect(low.score).toBeLessThanOrEqual(high.score + 1e-9);
				for (const { score: now } of [low, high]) {
					expect(now).toBeGreaterThanOrEqual(0);
					expect(now).toBeLessThanOrEqual(1);
					if (score >= CLEAR) expect(now).toBeGreaterThanOrEqual(UNREADABLE);
				}
			})
		);
	});
});
