import type { Picture } from '../../core/raster/picture';
import type { Quadrilateral } from '../../core/sheet/geometry';
import { columnsOf, LINE_HEIGHT, lineInput } from './lineInput';
import { alphabet, run } from './models';

export interface RecognisedLine {
	readonly text: string;
	/** Mean probability of the characters read, 0 to 1; 0 for nothing read. */
	readonly confidence: number;
}

/** Longer lines are squeezed: the recogniser was trained on shorter ones. */
const MOST_COLUMNS = 1600;

/** Reads one line of writing. */
export async function recognise(picture: Picture, corners: Quadrilateral): Promise<RecognisedLine> {
	const used = Math.min(MOST_COLUMNS, columnsOf(corners));
	const width = Math.max(64, Math.ceil(used / 8) * 8);
	const input = new Float32Array(3 * LINE_HEIGHT * width);
	lineInput(picture, corners, Math.min(used, width), width, input, 0);
	const { data, shape } = await run('recogniser', input, [1, 3, LINE_HEIGHT, width]);
	return greedy(data, shape[1]!, shape[2]!, await alphabet());
}

/** The best class of each step, repeats and "nothing" dropped (Graves et al. 2006, best path decoding). */
function greedy(data: Float32Array, steps: number, classes: number, characters: string[]): RecognisedLine {
	let text = '';
	let sum = 0;
	let count = 0;
	let before = 0;
	for (let t = 0; t < steps; t++) {
		let best = 0;
		let value = -1;
		for (let c = 0, i = t * classes; c < classes; c++, i++) {
			if (data[i]! > value) {
				value = data[i]!;
				best = c;
			}
		}
		if (best !== 0 && best !== before) {
			text += characters[best] ?? '';
			sum += value;
			count++;
		}
		before = best;
	}
	return { text: text.trim(), confidence: count > 0 ? sum / count : 0 };
}
