import { closeSync, mkdirSync, openSync, writeFileSync, writeSync } from 'node:fs';
import { join } from 'node:path';
import { Random } from '../demo/generator/random';
import { digitsOf } from './digits';
import { handsOf, type Part } from './hands';
import { samplesOfPage } from './pages';
import { drawSample, type Sample } from './sample';

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

/** Seeds of pages lie behind those of pieces. */
const PAGES_FROM = 20_000_000;

/** Draws pieces of writing into a file of their own, see `write`. */
export function drawSamples(folder: string, part: Part, count: number, share: number): Promise<void> {
	const first = FIRST_SEED[part] + share * 500_000;
	const { hands, digits, invented } = drawnWith(part, first);
	return write(folder, `${part}-${share}`, count, (i) => [
		drawSample(new Random(first + i), hands, digits, invented)
	]);
}

/** Draws pages and cuts out of them what the recogniser is shown, into a file of their own, see `write`. */
export function drawPages(folder: string, part: Part, count: number, share: number): Promise<void> {
	const first = FIRST_SEED[part] + PAGES_FROM + share * 10_000;
	const { hands, digits, invented } = drawnWith(part, first);
	return write(folder, `${part}-pages-${share}`, count, (i) =>
		samplesOfPage(new Random(first + i), hands, digits, invented)
	);
}

function drawnWith(part: Part, first: number) {
	const all = handsOf(part);
	const which = new Random(first - 1);
	const hands = part === 'training' ? Array.from({ length: HANDS_IN_SHARE }, () => which.pick(all)) : all;
	return { hands, digits: digitsOf(part), invented: part === 'training' ? INVENTED : 0 };
}

/**
 * Writes FOLDER/NAME.bin (grey levels of one sample after the other) and NAME.json (for each where it begins, its width,
 * what stands there).
 */
async function write(
	folder: string,
	name: string,
	count: number,
	drawn: (nth: number) => readonly Sample[] | Promise<readonly Sample[]>
): Promise<void> {
	mkdirSync(folder, { recursive: true });
	const file = openSync(join(folder, `${name}.bin`), 'w');
	const index: (readonly [number, number, string])[] = [];
	let at = 0;
	for (let i = 0; i < count; i++) {
		for (const { crop, text } of await drawn(i)) {
			writeSync(file, crop.data);
			index.push([at, crop.width, text]);
			at += crop.data.length;
		}
	}
	closeSync(file);
	writeFileSync(join(folder, `${name}.json`), JSON.stringify(index));
}
