import { createCanvas } from '@napi-rs/canvas';
import type { Hand } from '../demo/generator/hands';
import { someManner, writeByLetter, type DigitShape } from '../demo/generator/penman';
import { Random } from '../demo/generator/random';
import type { Plane } from '../src/lib/core/raster/picture';
import { shortText } from '../src/lib/core/reading/shortAlphabet';
import { MOST_WIDTH, shortCrop, SHORT_HEIGHT } from '../src/lib/core/reading/shortCrop';
import { drawFrame, seenInFrame, type Context } from './frames';
import { inventHand } from './inventedHand';
import { someWriting, type Writing } from './strings';

export interface Sample {
	readonly crop: Plane;
	/** What stands there, in the recogniser's alphabet. */
	readonly text: string;
}

/** Chance that digits are some that real people wrote. */
const REAL_DIGITS = 0.5;
/** Chance that every letter is of another hand: a letter is to be told by itself, not by those beside it. */
const MIXED = 0.3;
/** Hands that such a piece is mixed of. */
export const HANDS_MIXED = 6;
/** Chance that a label that stands by itself is framed or underlined, that this is done with another pen, and that it is found. */
const FRAMED = 0.6;
const OTHER_PEN = 0.15;
const FOUND = 0.85;
/** One canvas for all: what canvases hold is not given back fast enough. */
const SHEET = createCanvas(3200, 200);

/**
 * One piece of writing as it may be cut out of a prepared page.
 *
 * @param invented chance that it is in a hand that nobody has
 */
export function drawSample(
	random: Random,
	hands: readonly Hand[],
	digits: readonly (readonly DigitShape[])[],
	invented = 0,
	writing: Writing = someWriting(random)
): Sample {
	const hand = random.pick(hands);
	const size = random.between(24, 46);
	const steady = someManner(random, random.chance(REAL_DIGITS) ? digits : null);
	const mixed = Array.from({ length: random.chance(MIXED) ? HANDS_MIXED : 0 }, () => random.pick(hands)).map(
		({ family, scale }) => ({ family, scale: scale / hand.scale })
	);
	const drawn =
		invented > 0 && random.chance(invented)
			? Array.from({ length: mixed.length > 0 ? HANDS_MIXED / 2 : 1 }, () => inventHand(random, hand.scale))
			: null;
	const manner = { ...steady, ...(mixed.length > 0 && { mixed }), ...(drawn && { drawn }) };
	const ink = inkOf(random);
	const width = Math.min(SHEET.width, Math.ceil((writing.text.length + 6) * 0.9 * size) + 80);
	const height = Math.ceil(4.2 * size);
	const c = SHEET.getContext('2d');
	c.fillStyle = '#fff';
	c.fillRect(0, 0, width, height);
	const base = 2.4 * size;
	const left = 1.2 * size;
	const scaled = size * hand.scale;
	const letters = writeByLetter(c, writing.text, [left, base], scaled, hand.family, ink, manner, random);
	const written = Math.min(width, Math.ceil((letters.at(-1)?.x1 ?? left) + size));
	const box = inkBox(c.getImageData(0, 0, written, height).data, written, height);
	if (!box) return drawSample(random, hands, digits);
	// Lines beside this one, the rest of the row, rules, frames.
	if (random.chance(0.4)) {
		const pitch = random.between(1.05, 1.5) * size;
		const [above, below] = [random.chance(0.7), random.chance(0.7)];
		for (const y of [...(above ? [base - pitch] : []), ...(below ? [base + pitch] : [])]) {
			const other = someWriting(random).text;
			writeByLetter(
				c,
				other,
				[left + random.between(-1, 3) * size, y],
				scaled,
				hand.family,
				ink,
				manner,
				random
			);
		}
	}
	rules(c, random, width, height, size, base);
	const framed = writing.label && random.chance(FRAMED);
	const frame = framed
		? drawFrame(c, random, box, size, random.chance(OTHER_PEN) ? inkOf(random) : ink)
		: null;
	if (frame?.around && random.chance(FOUND)) {
		const reach = Math.min(width, Math.ceil(frame.box[2] + size));
		const page = degraded(c.getImageData(0, 0, reach, height).data, reach, height, random, size);
		const crop = seenInFrame(random, page, box, size);
		if (crop) return { crop, text: shortText(writing.text).trim() };
	}

	const [x0, y0, x1, y1] = box;
	const tall = Math.max(y1 - y0, 0.45 * size);
	let [top, bottom] = [
		y1 - tall - random.between(-0.03, 0.28) * tall,
		y1 + random.between(-0.03, 0.28) * tall
	];
	if (random.chance(0.35)) {
		// As a whole line is cut: by its usual ascenders and descenders.
		top = Math.min(y0 + 0.05 * size, base - random.between(0.62, 0.85) * size);
		bottom = Math.max(y1 - 0.05 * size, base + random.between(0.05, 0.32) * size);
	}
	if (frame && random.chance(0.8)) {
		top = Math.min(top, frame.box[1] + random.between(0, 0.15) * size);
		bottom = Math.max(bottom, frame.box[3] - random.between(0, 0.15) * size);
	}
	const tallest = bottom - top;
	const from = x0 - random.between(0, 0.45) * tallest;
	const furthest = from + (MOST_WIDTH / SHORT_HEIGHT) * tallest;
	let to = Math.min(furthest, x1 + random.between(0.02, 0.6) * tallest);
	if (!writing.label && letters.length > 4 && random.chance(0.35)) {
		to = Math.min(to, letters[random.whole(2, letters.length - 1)]!.x1 + random.between(-0.1, 0.4) * size);
	}
	to = Math.max(to, from + 0.6 * tallest);
	// A letter that is cut counts when most of it is there.
	const seen = letters.filter((l) => l.x1 - 0.3 * (l.x1 - l.x0) <= to).length;
	const text = shortText(prefix(writing.text, seen));
	// Only what comes into the crop is spoilt.
	const around = Math.ceil(0.2 * size);
	const [u0, v0] = [Math.max(0, Math.floor(from) - around), Math.max(0, Math.floor(top) - around)];
	const [w, h] = [
		Math.min(width, Math.ceil(to) + around) - u0,
		Math.min(height, Math.ceil(bottom) + around) - v0
	];
	const grey = degraded(c.getImageData(u0, v0, w, h).data, w, h, random, size);
	return { crop: shortCrop(grey, [from - u0, top - v0, to - u0, bottom - v0]), text: text.trim() };
}

/** The beginning of a text that has so many letters, spaces not counted. */
function prefix(text: string, letters: number): string {
	let seen = 0;
	let end = 0;
	while (end < text.length && seen < letters) if (text[end++] !== ' ') seen++;
	return text.slice(0, end);
}

function inkOf(random: Random): string {
	const dark = random.chance(0.75) ? random.between(0, 60) : random.between(60, 120);
	const alpha = random.chance(0.7) ? 1 : random.between(0.45, 1);
	return `rgba(${Math.round(dark)},${Math.round(dark)},${Math.round(dark)},${alpha.toFixed(2)})`;
}

/** What is left of a page's rules and squares once it is prepared. */
function rules(c: Context, random: Random, width: number, height: number, size: number, base: number): void {
	const kind = random.next();
	if (kind > 0.4) return;
	c.strokeStyle = `rgba(0,0,0,${random.between(0.06, 0.3).toFixed(2)})`;
	c.lineWidth = random.between(1, 2.5);
	c.beginPath();
	const pitch = kind < 0.1 ? random.between(0.7, 1) * size : random.between(1.1, 1.6) * size;
	const at = base + random.between(-0.15, 0.25) * size;
	for (let y = at - 3 * pitch; y < height; y += pitch) {
		c.moveTo(0, y);
		c.lineTo(width, y + random.between(-2, 2));
	}
	if (kind < 0.1) {
		for (let x = random.between(0, pitch); x < width; x += pitch) {
			c.moveTo(x, 0);
			c.lineTo(x, height);
		}
	} else if (kind < 0.18) {
		const x = size * random.between(0.3, 1);
		c.moveTo(x, 0);
		c.lineTo(x, height);
	}
	c.stroke();
}

function inkBox(
	rgba: Uint8ClampedArray,
	width: number,
	height: number
): [number, number, number, number] | null {
	let [x0, y0, x1, y1] = [width, height, 0, 0];
	for (let y = 0, p = 0; y < height; y++) {
		for (let x = 0; x < width; x++, p += 4) {
			if (rgba[p]! > 170) continue;
			x0 = Math.min(x0, x);
			y0 = Math.min(y0, y);
			x1 = Math.max(x1, x + 1);
			y1 = Math.max(y1, y + 1);
		}
	}
	return x1 > x0 ? [x0, y0, x1, y1] : null;
}

/** Bent a little, out of focus, with grain. */
function degraded(
	rgba: Uint8ClampedArray,
	width: number,
	height: number,
	random: Random,
	size: number
): Plane {
	const bend = random.chance(0.6) ? random.between(0, 0.035) * size : 0;
	const waves = [0, 1, 2, 3].map(() => ({
		k: (2 * Math.PI) / (random.between(0.5, 2.5) * size),
		phase: random.between(0, 6.3)
	}));
	const alongX = Float32Array.from(
		{ length: width },
		(_, x) => bend * Math.sin(waves[0]!.k * x + waves[0]!.phase)
	);
	const alongY = Float32Array.from(
		{ length: height },
		(_, y) => bend * Math.sin(waves[1]!.k * y + waves[1]!.phase)
	);
	const turn = 0.02 * random.normal();
	const grey = new Float32Array(width * height);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const u = Math.min(width - 1.01, Math.max(0, x + alongY[y]!));
			const v = Math.min(height - 1.01, Math.max(0, y + alongX[x]! + turn * (x - 0.3 * width)));
			const [u0, v0] = [u | 0, v | 0];
			const p = 4 * (v0 * width + u0);
			const [a, b] = [u - u0, v - v0];
			const top = rgba[p]! * (1 - a) + rgba[p + 4]! * a;
			const bottom = rgba[p + 4 * width]! * (1 - a) + rgba[p + 4 * width + 4]! * a;
			grey[y * width + x] = top * (1 - b) + bottom * b;
		}
	}
	const blurred = blur(
		grey,
		width,
		height,
		random.chance(0.7) ? random.between(0, 1.3) : random.between(1, 2.4)
	);
	const grain = random.chance(0.5) ? random.between(0, 10) : 0;
	// Tones that press the paper to white take the thin ends of strokes along.
	const white = random.between(215, 262);
	const data = new Uint8Array(blurred.length);
	const shift = random.whole(0, GRAINS.length - 1);
	for (let i = 0; i < data.length; i++) {
		const noisy = blurred[i]! + grain * GRAINS[(i + shift) % GRAINS.length]!;
		data[i] = Math.max(0, Math.min(255, (255 * noisy) / white));
	}
	return { width, height, data };
}

const grains = new Random(7);
const GRAINS = Float32Array.from({ length: 65_521 }, () => grains.next() + grains.next() - 1);

/** Gaussian of the given deviation in pixels, as three taps along each way, repeated. */
function blur(grey: Float32Array, width: number, height: number, deviation: number): Float32Array {
	const passes = Math.ceil(2 * deviation * deviation) || 0;
	if (passes === 0) return grey;
	const side = (deviation * deviation) / passes / 2;
	let from = grey;
	for (let n = 0; n < passes; n++) {
		const half = new Float32Array(from.length);
		for (let y = 0; y < height; y++) {
			for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
				half[i] = (1 - 2 * side) * from[i]! + side * (from[i - 1]! + from[i + 1]!);
			}
			half[y * width] = from[y * width]!;
			half[(y + 1) * width - 1] = from[(y + 1) * width - 1]!;
		}
		const whole = half.slice();
		for (let i = width; i < half.length - width; i++) {
			whole[i] = (1 - 2 * side) * half[i]! + side * (half[i - width]! + half[i + width]!);
		}
		from = whole;
	}
	return from;
}
