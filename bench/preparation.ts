import sharp from 'sharp';
import { photograph } from '../demo/generator/photograph';
import { findOutline } from '../src/lib/core/sheet/outline';
import { analysePicture, preparePage } from '../src/lib/core/page/preparePage';
import { encodePage } from '../src/lib/server/codec/encode';
import { situationSpec, specimenPage } from './situations';

const RUNS = 7;

/** Time of each step of preparing a 12-megapixel photograph, as ratios to decoding its JPEG. */
export async function benchPreparation(print: (line: string) => void): Promise<void> {
	const page = specimenPage(77, 12);
	const { picture } = photograph(page.picture, situationSpec('plain wood', 77, [3024, 4032]));
	const raw = { width: picture.width, height: picture.height, channels: picture.channels };
	const jpeg = await sharp(picture.data, { raw }).jpeg({ quality: 90 }).toBuffer();
	const times: Record<string, number[]> = {};
	const time = async <T>(step: string, work: () => T | Promise<T>): Promise<T> => {
		const started = performance.now();
		const result = await work();
		(times[step] ??= []).push(performance.now() - started);
		return result;
	};
	for (let i = 0; i < RUNS; i++) {
		const data = await time('decode', () => sharp(jpeg).removeAlpha().raw().toBuffer());
		const decoded = { ...picture, data };
		await time('outline', () => findOutline(decoded));
		const facts = analysePicture(decoded);
		const tone = { name: 'black-and-white', evenLight: true, inkWeight: 0 } as const;
		const prepared = await time('flatten to legibility', () =>
			preparePage(decoded, { corners: facts.outline.corners, turn: 0, tone })
		);
		await time('encode', () => encodePage(prepared.finished));
	}
	const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
	const decode = median(times.decode!);
	for (const [step, values] of Object.entries(times)) {
		print(`${step.padEnd(22)} ${(median(values) / decode).toFixed(2)} x decode`);
	}
	const whole = Object.values(times).reduce((sum, values) => sum + median(values), 0);
	print(`${'whole preparation'.padEnd(22)} ${(whole / decode).toFixed(2)} x decode (budget 4)`);
}
