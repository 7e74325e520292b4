import sharp from 'sharp';
import { photograph } from '../demo/generator/photograph';
import { Random } from '../demo/generator/random';
import { turnOf } from '../src/lib/core/page/effective';
import { analysePicture, preparePage } from '../src/lib/core/page/preparePage';
import { median } from '../src/lib/core/raster/percentile';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { greyOf } from '../src/lib/core/tone/finish';
import { readTurn } from '../src/lib/server/reader/readTurn';
import { beginReading, wholeReading } from '../src/lib/server/reader/wholeReading';
import { situationSpec, specimenPage } from './situations';

const SIZE = [3024, 4032] as const;
const LINES = 25;
/** The models are loaded by the first page; a server has done that before. */
const RUNS = 4;
const TONE = { name: 'greyscale', evenLight: true, inkWeight: 0 } as const;

/**
 * Time of reading a page of 25 lines on one core, as ratios to decoding its 12-megapixel JPEG in the same run: which way
 * up it is, what a person waits for, and all of it.
 */
export async function benchReadingTime(print: (line: string) => void): Promise<void> {
	const times = new Map<string, number[]>();
	const time = async <T>(step: string, work: () => T | Promise<T>): Promise<T> => {
		const started = performance.now();
		const result = await work();
		times.set(step, [...(times.get(step) ?? []), performance.now() - started]);
		return result;
	};
	for (let run = 0; run < RUNS; run++) {
		const random = new Random(90 + run);
		const sentence = () =>
			Array.from({ length: 6 }, () => random.pick(['the', 'lode', 'reading', 'slower', 'near'])).join(' ');
		const lines = Array.from({ length: LINES - 1 }, sentence);
		const page = specimenPage(90 + run, 12, {
			blocks: [
				{ kind: 'label', text: 'Q1' },
				{ kind: 'text', lines: lines.slice(0, 12) },
				{ kind: 'label', text: '2a)' },
				{ kind: 'text', lines: lines.slice(12) }
			]
		});
		const { picture } = photograph(page.picture, situationSpec('plain wood', 90 + run, SIZE));
		const jpeg = await sharp(picture.data, { raw: { width: SIZE[0], height: SIZE[1], channels: 3 } })
			.jpeg({ quality: 90 })
			.toBuffer();
		const data = await time('decode', () => sharp(jpeg).removeAlpha().raw().toBuffer());
		const pixels = { width: SIZE[0], height: SIZE[1], channels: 3, data } as const;
		const facts = analysePicture(pixels);
		const { corners } = facts.outline;
		const turn = await time('turn', () => readTurn(pixels, corners));
		const upright = turnOf({ turn: null }, { turn, readTurn: turn });
		const { finished, facts: made } = preparePage(pixels, { corners, turn: upright, tone: TONE });
		const plane = greyOf(finished);
		const sheet = labelForms([{ label: '1' }, { label: '2', parts: [{ label: 'a' }, { label: 'b' }] }]);
		await time('first, with a rule sheet', () => beginReading(plane, made.dotsPerInch, sheet));
		await time('first, without', () => beginReading(plane, made.dotsPerInch, labelForms(null)));
		await time('whole', () => wholeReading(plane, made.dotsPerInch, sheet));
	}
	const decode = median(times.get('decode')!.slice(1));
	const line = (name: string, step: string, rest = '') =>
		print(`  ${name.padEnd(44)} ${(median(times.get(step)!.slice(1)) / decode).toFixed(1)} x decode${rest}`);
	print(`a page of ${LINES} lines, beside the decoding of 12 megapixels:`);
	line('which way up', 'turn');
	line('labels, number and name, with a rule sheet', 'first, with a rule sheet', ' (asked 10)');
	line('labels, number and name, without', 'first, without', ' (asked 10)');
	line('the whole text', 'whole', ' (asked 20)');
}
