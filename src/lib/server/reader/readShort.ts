import type { Plane } from '../../core/raster/picture';
import { CLASSES, classOf, type LinePosterior } from '../../core/reading/linePosterior';
import { SHORT_ALPHABET } from '../../core/reading/shortAlphabet';
import { SHORT_HEIGHT } from '../../core/reading/shortCrop';
import { run } from './models';

export interface ReadShort {
	/** Best path, in the recogniser's alphabet. */
	readonly text: string;
	/** Mean probability of the characters read, 0 to 1; 0 for nothing read. */
	readonly confidence: number;
	readonly posterior: LinePosterior;
}

/** Crops of about one width are read together, so many at once. */
const BATCH = 16;
/** Pixels of a crop that one step of the recogniser stands for. */
const STEP = 4;

/** For each class of the recogniser, that of the posterior. */
const PLAIN = [0, ...Array.from(SHORT_ALPHABET, classOf)];

/** Reads crops of short writing (`shortCrop`), each by itself. */
export async function readShort(crops: readonly Plane[]): Promise<ReadShort[]> {
	const byWidth = crops.map((_, i) => i).sort((a, b) => crops[a]!.width - crops[b]!.width);
	const read: ReadShort[] = [];
	for (let at = 0; at < byWidth.length; at += BATCH) {
		const batch = byWidth.slice(at, at + BATCH);
		const widest = Math.ceil(crops[batch.at(-1)!]!.width / 8) * 8;
		const input = new Float32Array(batch.length * SHORT_HEIGHT * widest);
		batch.forEach((i, n) => {
			const { width, data } = crops[i]!;
			for (let y = 0; y < SHORT_HEIGHT; y++) {
				const to = (n * SHORT_HEIGHT + y) * widest;
				for (let x = 0; x < width; x++) input[to + x] = data[y * width + x]! / 255;
			}
		});
		const { data, shape } = await run('short writing', input, [batch.length, 1, SHORT_HEIGHT, widest]);
		const [, steps, classes] = shape as [number, number, number];
		batch.forEach((i, n) => {
			const used = Math.min(steps, Math.max(1, Math.ceil(crops[i]!.width / STEP)));
			read[i] = decode(data.subarray(n * steps * classes, (n * steps + used) * classes), used, classes);
		});
	}
	return read;
}

/** @param logs logarithms of probabilities, `steps x classes` */
function decode(logs: Float32Array, steps: number, classes: number): ReadShort {
	const data = new Float32Array(steps * CLASSES);
	let text = '';
	let sum = 0;
	let last = 0;
	for (let t = 0; t < steps; t++) {
		let best = 0;
		let value = -1;
		for (let k = 0; k < classes; k++) {
			const p = Math.exp(logs[t * classes + k]!);
			data[t * CLASSES + PLAIN[k]!] = p;
			if (p > value) [best, value] = [k, p];
		}
		if (best !== 0 && best !== last) {
			text += SHORT_ALPHABET[best - 1]!;
			sum += value;
		}
		last = best;
	}
	return {
		text: text.trim(),
		confidence: text.length > 0 ? sum / text.length : 0,
		posterior: { steps, data, caseless: true }
	};
}
