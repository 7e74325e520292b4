import sharp from 'sharp';
import { photograph } from '../demo/generator/photograph';
import { inPlainTypeScript } from '../src/lib/core/kernels/kernels';
import { preparePage } from '../src/lib/core/page/preparePage';
import { pageSize } from '../src/lib/core/page/pageSize';
import { median } from '../src/lib/core/raster/percentile';
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
	const pictures: { situation: string; jpeg: Buffer; ours: Medians }[] = [];
	// All of ours first: a server runs nothing else, and what else runs changes how code is compiled.
	for (const situation of SITUATIONS) {
		const page = specimenPage(77, 12);
		const { picture } = photograph(page.picture, situationSpec(situation, 77, SIZE));
		const jpeg = await sharp(picture.data, {
			raw: { width: picture.width, height: picture.height, channels: 3 }
		})
			.jpeg({ quality: 90 })
			.toBuffer();
		pictures.push({ situation, jpeg, ours: await measureOurs(jpeg) });
	}
	for (const { situation, jpeg, ours } of pictures) {
		print(`${situation}:`);
		await compare(jpeg, ours, print);
	}
}

type Medians = ReadonlyMap<string, number>;
type Time = <T>(step: string, work: () => T | Promise<T>) => Promise<T>;

/** Median milliseconds of each step of a piece of work, after a warm-up. */
async function repeat(
	runs: number,
	warmUp: number,
	work: (time: Time, note: (step: string, spent: number) => void) => Promise<void>
): Promise<Medians> {
	const times = new Map<string, number[]>();
	const note = (step: string, spent: number) => times.set(step, [...(times.get(step) ?? []), spent]);
	const time: Time = async (step, work) => {
		const started = performance.now();
		const result = await work();
		note(step, performance.now() - started);
		return result;
	};
	for (let i = 0; i < runs + warmUp; i++) {
		if (i === warmUp) times.clear();
		await work(time, note);
	}
	return new Map([...times].map(([step, values]) => [step, median(values)]));
}

const TONE = { name: 'black-and-white', evenLight: true, inkWeight: 0 } as const;

async function decode(jpeg: Buffer, time: Time) {
	const data = await time('decode', () => sharp(jpeg).removeAlpha().raw().toBuffer());
	return { width: SIZE[0], height: SIZE[1], channels: 3, data } as const;
}

function measureOurs(jpeg: Buffer): Promise<Medians> {
	return repeat(RUNS, WARM_UP, async (time, note) => {
		const decoded = await decode(jpeg, time);
		const { corners } = await time('outline', () => findOutline(decoded));
		const { finished, milliseconds } = preparePage(decoded, { corners, turn: 0, tone: TONE });
		for (const [step, spent] of Object.entries(milliseconds)) note(step, spent);
		await time('encode', () => encodePage(finished));
	});
}

async function compare(jpeg: Buffer, ours: Medians, print: (line: string) => void): Promise<void> {
	const plain = await repeat(3, 2, async (time) => {
		const decoded = await decode(jpeg, time);
		const { corners } = await time('outline', () => inPlainTypeScript(() => findOutline(decoded)));
		await time('page', () => inPlainTypeScript(() => preparePage(decoded, { corners, turn: 0, tone: TONE })));
	});
	const openCv = await openCvSteps();
	const library = await repeat(5, 3, async (time) => {
		const decoded = await decode(jpeg, time);
		const { corners } = findOutline(decoded);
		const { width, height } = pageSize(decoded, corners, 0);
		await time('outline', () => openCv.outline(decoded));
		const grey = await time('flatten', () => openCv.flatten(decoded, corners, width, height));
		await time('threshold', () => openCv.threshold(grey, width, height));
	});
	const ratio = (steps: readonly string[], from = ours) =>
		(steps.reduce((total, step) => total + from.get(step)!, 0) / from.get('decode')!).toFixed(2);
	const line = (name: string, value: string, rest = '') =>
		print(`  ${name.padEnd(44)} ${value} x decode${rest}`);
	line('outline', ratio(['outline']), ' (budget 0.35)');
	for (const step of ['flatten', 'tone', 'legibility', 'encode']) line(step, ratio([step]));
	const whole = ['decode', 'outline', 'flatten', 'tone', 'legibility', 'encode'];
	line('whole preparation, with decode and encode', ratio(whole), ' (budget 4)');
	line('the same, without kernels', ratio(['decode', 'outline', 'page'], plain), ' and encode');
	line('decode, outline, flatten and tone', ratio(['decode', 'outline', 'flatten', 'tone']));
	line('the same with the library', ratio(['decode', 'outline', 'flatten', 'threshold'], library));
}
