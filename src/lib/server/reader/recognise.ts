import { CLASSES, classLike, type LinePosterior } from '../../core/reading/linePosterior';
import type { Picture } from '../../core/raster/picture';
import type { Quadrilateral } from '../../core/sheet/geometry';
import { columnsOf, LINE_HEIGHT, lineInput } from './lineInput';
import { ALPHABET, run } from './models';

export interface RecognisedLine {
	readonly text: string;
	/** Mean probability of the characters read, 0 to 1; 0 for nothing read. */
	readonly confidence: number;
	/** What stood to choose from, step by step. */
	readonly posterior: LinePosterior;
}

/** Longer lines are squeezed: the recogniser was trained on shorter ones. */
const MOST_COLUMNS = 1600;

/** Reads one line of writing. */
export async function recognise(picture: Picture, corners: Quadrilateral): Promise<RecognisedLine> {
	const used = Math.min(MOST_COLUMNS, columnsOf(corners));
	const width = Math.max(64, Math.ceil(used / 8) * 8);
	const input = lineInput(picture, corners, Math.min(used, width), width);
	const { data, shape } = await run('recogniser', input, [1, 3, LINE_HEIGHT, width]);
	return decode(data, shape[1]!, shape[2]!, ALPHABET);
}

let plain: Int16Array | null = null;

/** For each class of the recogniser, that of the posterior it is counted as. */
function plainClasses(characters: readonly string[]): Int16Array {
	return (plain ??= Int16Array.from(characters, (c, i) => (i === 0 ? 0 : classLike(c))));
}

/** Less likely alternatives are not kept. */
const LEAST = 1e-5;

/** The best class of each step, repeats and "nothing" dropped (Graves et al. 2006, best path decoding). */
function decode(
	data: Float32Array,
	steps: number,
	classes: number,
	characters: readonly string[]
): RecognisedLine {
	const classOf = plainClasses(characters);
	const kept = new Float32Array(steps * CLASSES);
	let text = '';
	let sum = 0;
	let count = 0;
	let before = 0;
	for (let t = 0; t < steps; t++) {
		let best = 0;
		let value = -1;
		for (let c = 0, i = t * classes; c < classes; c++, i++) {
			const p = data[i]!;
			if (p > value) {
				value = p;
				best = c;
			}
			if (p > LEAST && classOf[c]! >= 0) kept[t * CLASSES + classOf[c]!]! += p;
		}
		if (best !== 0 && best !== before) {
			text += characters[best] ?? '';
			sum += value;
			count++;
		}
		before = best;
	}
	return {
		text: text.trim(),
		confidence: count > 0 ? sum / count : 0,
		posterior: { steps, data: kept }
	};
}
