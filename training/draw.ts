import { closeSync, mkdirSync, openSync, writeFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { Random } from '../demo/generator/random';
import { digitsOf } from './digits';
import { handsOf, type Part } from './hands';
import { drawSample } from './sample';

/** Seeds of the parts lie apart. */
const FIRST_SEED: Readonly<Record<Part, number>> = {
	training: 1_000_000,
	tuning: 50_000_000,
	test: 80_000_000
};

/** Hands that one share of the training part is of: going to and fro between more takes most of the time. */
const HANDS_IN_SHARE = 30;
/** Of what is trained on, so much is in hands that nobody has; others are judged in hands that somebody drew. */
const INVENTED = 0.45;

/**
 * Draws pieces of writing into FOLDER/PART-N.bin (their grey levels, one after the other) and PART-N.json (for each:
 * where it begins, its width, what stands there).
 */
export function drawSamples(folder: string, part: Part, count: number, share: number): void {
	mkdirSync(folder, { recursive: true });
	const first = FIRST_SEED[part] + share * 500_000;
	const all = handsOf(part);
	const which = new Random(first - 1);
	const hands = part === 'training' ? Array.from({ length: HANDS_IN_SHARE }, () => which.pick(all)) : all;
	const digits = digitsOf(part);
	const file = openSync(join(folder, `${part}-${share}.bin`), 'w');
	const index: (readonly [number, number, string])[] = [];
	let at = 0;
	for (let i = 0; i < count; i++) {
		const { crop, text } = drawSample(
			new Random(first + i),
			hands,
			digits,
			part === 'training' ? INVENTED : 0
		);
		writeSync(file, crop.data);
		index.push([at, crop.width, text]);
		at += crop.data.length;
	}
	closeSync(file);
	writeFileSync(join(folder, `${part}-${share}.json`), JSON.stringify(index));
}
