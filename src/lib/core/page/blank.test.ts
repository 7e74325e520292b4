import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { hands } from '../../../../demo/generator/hands';
import { addNoise } from '../../../../demo/generator/light';
import { Random } from '../../../../demo/generator/random';
import { writtenPage, type PageSpec } from '../../../../demo/generator/writtenPage';
import { testPage, testPhotograph } from '../../../../tests/support/pictures';
import { blankPicture, type Picture } from '../raster/picture';
import { wholePicture } from '../sheet/geometry';
import { DEFAULT_TONE } from '../tone/tone';
import { blankOf } from './blank';
import { preparePage } from './preparePage';

const EMPTY = { blocks: [], name: undefined, pageNumber: undefined };
const line = (text: string) => ({ text, confidence: 0.9, box: [0.1, 0.1, 0.9, 0.2] as const });

function photographed(seed: number, change: Partial<PageSpec>) {
	const shot = testPhotograph(testPage(seed, change), { seed });
	return preparePage(shot.picture, { corners: shot.corners, turn: 0, tone: DEFAULT_TONE }).facts;
}
function flat(picture: Picture) {
	const corners = wholePicture(picture.width, picture.height);
	return preparePage(picture, { corners, turn: 0, tone: DEFAULT_TONE }).facts;
}

describe('blankOf', () => {
	it('is sure of bare paper, plain or evenly ruled', () => {
		for (const ruling of ['plain', 'ruled', 'squared'] as const) {
			expect([ruling, blankOf(photographed(31, { ...EMPTY, ruling }), null)]).toEqual([ruling, 'yes']);
		}
	});

	it('is sure of ruled paper that went askew through a feeder which makes paper white', async () => {
		for (const ruling of ['ruled', 'squared'] as const) {
			const { picture } = testPage(33, { ...EMPTY, ruling, scale: 7.874 });
			const { width, height } = picture;
			const jpeg = await sharp(picture.data, { raw: { width, height, channels: 3 } })
				.rotate(0.7, { background: '#f7f5ee' })
				.linear(1.04, 2)
				.jpeg({ quality: 82 })
				.toBuffer();
			const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
			const facts = flat({ width: info.width, height: info.height, channels: 3, data });
			expect([ruling, blankOf(facts, null)]).toEqual([ruling, 'yes']);
		}
	});

	it('four lines on a page are writing', () => {
		const lines = ['the lode runs slower', 'near the reeds', 'so we took three', 'verticals here'];
		const facts = photographed(32, { ...EMPTY, blocks: [{ kind: 'text', lines }] });
		expect(facts.blank).toBe(false);
		expect(blankOf(facts, null)).toBe('no');
	});

	it('is not sure where something is there that is no writing', () => {
		const picture = blankPicture(1240, 1754, [240, 238, 232]);
		// Two long strokes, as of a sketch that was begun.
		for (let k = 0; k < 900; k++) {
			for (let t = 0; t < 5; t++) {
				picture.data.fill(40, ((600 + t) * 1240 + 150 + k) * 3, ((600 + t) * 1240 + 151 + k) * 3);
				picture.data.fill(40, ((400 + k) * 1240 + 300 + t) * 3, ((400 + k) * 1240 + 301 + t) * 3);
			}
		}
		expect(blankOf(flat(picture), null)).not.toBe('yes');
	});

	it('is not sure where faded writing leaves traces in the noise, and does not call the page clear', () => {
		const level = 222;
		const page = writtenPage({
			seed: 5,
			hand: hands()[1]!,
			paper: 'A4',
			ruling: 'plain',
			ink: [level, level, level],
			scale: 6,
			blocks: [{ kind: 'text', lines: Array.from({ length: 12 }, () => 'the lode runs slower near reeds') }]
		}).picture;
		const data = Uint8Array.from(page.data);
		addNoise(data, 8, new Random(1));
		const facts = flat({ ...page, data });
		expect(blankOf(facts, null)).not.toBe('yes');
		expect(facts.legibility.verdict).not.toBe('clear');
	});

	it('believes what was read, and only proposes what reading could make nothing of', () => {
		const facts = {
			blank: true,
			bare: true,
			legibility: { score: 1, verdict: 'clear', reasons: [] }
		} as never;
		expect(blankOf(facts, { lines: [] })).toBe('yes');
		expect(blankOf(facts, { lines: [line('read anyway')] })).toBe('no');
		const dust = { blank: false, legibility: { score: 0.1, verdict: 'unreadable', reasons: [] } } as never;
		expect(blankOf(dust, { lines: [] })).toBe('perhaps');
		expect(blankOf(dust, null)).toBe('no');
		expect(blankOf(null, null)).toBe('no');
	});
});
