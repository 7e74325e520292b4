import { describe, expect, it } from 'vitest';
import { testPage, testPhotograph } from '../../../../tests/support/pictures';
import { preparePage } from '../../core/page/preparePage';
import { WORST_LOSS } from '../../core/size/sizePlan';
import { smallerTones } from '../../core/size/pageWeights';
import { DEFAULT_TONE, type Tone } from '../../core/tone/tone';
import { encodePage } from './encode';
import { encodeCoarser, weighPage } from './weigh';

const shot = testPhotograph(testPage(90), { size: [1200, 1600] });
const finish = (tone: Tone) => preparePage(shot.picture, { corners: shot.corners, turn: shot.turn, tone });

describe('weighPage', () => {
	it('weighs what then comes out, byte for byte; fewer dots lose more, and all of it is smaller', async () => {
		const { finished, facts } = finish(DEFAULT_TONE);
		const image = await encodePage(finished);
		const page = { ...facts, view: image.bytes, tone: DEFAULT_TONE.name };
		const weights = await weighPage(
			page,
			image.bytes.length,
			smallerTones(DEFAULT_TONE),
			async (tone) => finish(tone).finished
		);
		expect(weights[0]).toEqual({ tone: null, encoding: null, bytes: image.bytes.length, loss: 0 });
		const own = weights.filter((w) => w.tone === null && w.encoding);
		for (const { encoding, bytes } of own) {
			expect((await encodeCoarser(page, encoding!)).bytes.length).toBe(bytes);
		}
		const at = (dotsPerInch: number, quality: number) =>
			own.find((w) => w.encoding!.dotsPerInch === dotsPerInch && w.encoding!.quality === quality)!;
		const [fine, rough] = [at(110, 70), at(110, 32)];
		expect(rough.bytes).toBeLessThan(fine.bytes);
		expect(fine.loss).toBeGreaterThan(at(facts.dotsPerInch, 50).loss);
		expect(fine.bytes).toBeLessThan(image.bytes.length);
		const blackAndWhite = weights.find((w) => w.tone?.name === 'black-and-white' && !w.encoding)!;
		expect(blackAndWhite.bytes).toBeLessThan(fine.bytes);
		// A firm pen in black and white can still be read.
		expect(blackAndWhite.loss).toBeGreaterThan(0);
		expect(blackAndWhite.loss).toBeLessThan(WORST_LOSS);
	});
});
