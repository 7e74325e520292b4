import sharp from 'sharp';
import { photograph } from '../demo/generator/photograph';
import { effectiveSettings } from '../src/lib/core/page/effective';
import { analysePicture, preparePage } from '../src/lib/core/page/preparePage';
import { DEFAULT_TONE } from '../src/lib/core/tone/tone';
import { encodePage } from '../src/lib/server/codec/encode';
import { situationSpec, SITUATIONS, specimenPage } from './situations';

const SIZES = [
	{ name: '3 megapixels', size: [1500, 2000], analysis: 2, whole: 8 },
	{ name: '12 megapixels', size: [3024, 4032], analysis: 2, whole: 4 }
] as const;

/**
 * What a person waits for: photographs of every situation one after the other from the first on, with the turn, as
 * ratios to decoding their JPEGs in the same run.
 */
export async function benchWaiting(pages: number, print: (line: string) => void): Promise<void> {
	for (const { name, size, analysis, whole } of SIZES) {
		const spent = { decode: 0, analysis: 0, flatten: 0, tone: 0, legibility: 0, encode: 0 };
		for (let i = 0; i < pages; i++) {
			const seed = 9100 + i;
			const spec = situationSpec(SITUATIONS[i % SITUATIONS.length]!, seed, size);
			const { picture: drawn } = photograph(specimenPage(seed, 8).picture, spec);
			const { width, height } = drawn;
			const jpeg = await sharp(drawn.data, { raw: { width, height, channels: 3 } })
				.jpeg({ quality: 90 })
				.toBuffer();
			const time = async <T>(step: keyof typeof spent, work: () => T | Promise<T>): Promise<T> => {
				const started = performance.now();
				const result = await work();
				spent[step] += performance.now() - started;
				return result;
			};
			const data = await time('decode', () => sharp(jpeg).removeAlpha().raw().toBuffer());
			const picture = { width, height, channels: 3, data } as const;
			const found = await time('analysis', () => analysePicture(picture));
			const page = { id: 'p', source: 's', sourcePage: 0, corners: null, turn: null, tone: null };
			const settings = effectiveSettings(page, found, DEFAULT_TONE, 'A4');
			const { finished, milliseconds } = preparePage(picture, settings);
			for (const step of ['flatten', 'tone', 'legibility'] as const) spent[step] += milliseconds[step];
			await time('encode', () => encodePage(finished));
		}
		const ratio = (value: number) => (value / spent.decode).toFixed(2);
		const all = Object.values(spent).reduce((a, b) => a + b, 0);
		print(`${name}, ${pages} pages from the first on:`);
		print(`  outline, fold and turn  ${ratio(spent.analysis)} x decode (budget ${analysis})`);
		for (const step of ['flatten', 'tone', 'legibility', 'encode'] as const) {
			print(`  ${step.padEnd(22)}  ${ratio(spent[step])} x decode`);
		}
		print(`  whole, with decode      ${ratio(all)} x decode (budget ${whole})`);
	}
}
