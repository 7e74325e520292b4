import sharp from 'sharp';
import { photograph } from '../demo/generator/photograph';
import { inPlainTypeScript } from '../src/lib/core/kernels/kernels';
import { pageSize, preparePage } from '../src/lib/core/page/preparePage';
import { findOutline } from '../src/lib/core/sheet/outline';
import { encodePage } from '../src/lib/server/codec/encode';
import { openCvSteps } from './openCv';
import { situationSpec, specimenPage } from './situations';

/** A server has prepared some pages before: the first ones, on which code is still being compiled, do not count. */
const WARM_UP = 12;
const RUNS = 11;
const SIZE = [3024, 4032] as const;
const SITUATIONS = ['plain wood', 'hard shadow'] as const;

/**
 * Time of each step of preparing 12-megapixel photographs, as ratios to decoding their JPEG in the same run; the same
 * without the kernels, and the same steps with a general-purpose library.
 */
export async function benchPreparation(print: (line: string) => void): Promise<void> {
	for (const situation of SITUATIONS) {
		const page = specimenPage(77, 12);
		const { picture } = photograph(page.picture, situationSpec(situation, 77, SIZE));
		const jpeg = await sharp(picture.data, {
			raw: { width: picture.width, height: picture.height, channels: 3 }
		})
			.jpeg({ quality: 90 })
			.toBuffer();
		print(`${situation}:`);
		await benchPicture(jpeg, print);
	}
}

async function benchPicture(jpeg: Buffer, print: (line: string) => void): Promise<void> {
	const times = new Map<string, number[]>();
	const note = (step: string, spent: number) => times.set(step, [...(times.get(step) ?? []), spent]);
	const time = async <T>(step: string, work: () => T | Promise<T>): Promise<T> => {
		const started = performance.now();
		const result = await work();
		note(step, performance.now() - started);
		return result;
	};
	/** Each way by itself, so that none disturbs the memory of another. */
	const repeat = async (runs: number, warmUp: number, work: () => Promise<void>) => {
		for (let i = 0; i < runs + warmUp; i++) {
			if (i === warmUp) times.clear();
			await work();
		}
		for (const [step, values] of times) medians.set(step, median(values));
		times.clear();
	};
	const medians = new Map<string, number>();
	const tone = { name: 'black-and-white', evenLight: true, inkWeight: 0 } as const;
	const decode = async () => {
		const data = await time('decode', () => sharp(jpeg).removeAlpha().raw().toBuffer());
		return { width: SIZE[0], height: SIZE[1], channels: 3, data } as const;
	};
	await repeat(RUNS, WARM_UP, async () => {
		const decoded = await decode();
		const { corners } = await time('outline', () => findOutline(decoded));
		const { finished, milliseconds } = preparePage(decoded, { corners, turn: 0, tone });
		for (const [step, spent] of Object.entries(milliseconds)) note(step, spent);
		await time('encode', () => encodePage(finished));
	});
	const ours = new Map(medians);
	await repeat(3, 2, async () => {
		const decoded = await decode();
		const { corners } = await time('plain outline', () => inPlainTypeScript(() => findOutline(decoded)));
		await time('plain page', () => inPlainTypeScript(() => preparePage(decoded, { corners, turn: 0, tone })));
	});
	const plainDecode = medians.get('decode')!;
	const openCv = await openCvSteps();
	await repeat(5, 3, async () => {
		const decoded = await decode();
		const { corners } = findOutline(decoded);
		const { width, height } = pageSize(decoded, corners, 0);
		await time('library outline', () => openCv.outline(decoded));
		const grey = await time('library flatten', () => openCv.flatten(decoded, corners, width, height));
		await time('library threshold', () => openCv.threshold(grey, width, height));
	});
	const libraryDecode = medians.get('decode')!;
	const sum = (from: ReadonlyMap<string, number>, steps: readonly string[]) =>
		steps.reduce((total, step) => total + from.get(step)!, 0);
	const ratio = (steps: readonly string[], from = ours, unit = ours.get('decode')!) =>
		(sum(from, steps) / unit).toFixed(2);
	const line = (name: string, value: string, rest = '') =>
		print(`  ${name.padEnd(44)} ${value} x decode${rest}`);
	line('outline', ratio(['outline']), ' (budget 0.35)');
	for (const step of ['flatten', 'tone', 'legibility', 'encode']) line(step, ratio([step]));
	const whole = ['decode', 'outline', 'flatten', 'tone', 'legibility', 'encode'];
	line('whole preparation, with decode and encode', ratio(whole), ' (budget 4)');
	line(
		'the same, without kernels',
		ratio(['decode', 'plain outline', 'plain page'], medians, plainDecode),
		' and encode'
	);
	line('decode, outline, flatten and tone', ratio(['decode', 'outline', 'flatten', 'tone']));
	const library = ['decode', 'library outline', 'library flatten', 'library threshold'];
	line('the same with the library', ratio(library, medians, libraryDecode));
}

function median(values: readonly number[]): number {
	return [...values].sort((a, b) => a - b)[values.length >> 1]!;
}
