import { createCanvas } from '@napi-rs/canvas';
import sharp from 'sharp';
import { fromCanvas } from '../demo/generator/fromCanvas';
import type { Hand } from '../demo/generator/hands';
import { addNoise } from '../demo/generator/light';
import { Random } from '../demo/generator/random';
import type { Picture } from '../src/lib/core/raster/picture';

// Pages made worse by other means than those that legibility was fitted on: flat, drawn without ruling or desk.

/** Each from nothing to hopeless, at 150 dots an inch. */
export const FLAT_LADDERS = {
	/** How far ink is darker than paper, in grey levels, in noise of 9 levels: it drowns. */
	drowning: [60, 35, 22, 14, 9, 6],
	/** The same without noise: it stays readable for long. */
	paling: [60, 30, 16, 9, 5, 3],
	/** Path of a camera that moves along the lines, in pixels. */
	'along lines': [5, 9, 13, 18, 24, 32],
	/** Dots an inch. */
	pixels: [90, 60, 45, 36, 29, 23]
} as const;
export type FlatLadder = keyof typeof FLAT_LADDERS;

const WIDTH = 1240;
const HEIGHT = 1754;
const DOTS = 150;

/** A flat page of words in a hand, made worse, and its lines. */
export async function flatPage(
	hand: Hand,
	lines: readonly string[],
	ladder: FlatLadder | 'none',
	amount: number,
	seed: number
): Promise<Picture> {
	const random = new Random(seed);
	const canvas = createCanvas(WIDTH, HEIGHT);
	const c = canvas.getContext('2d');
	c.fillStyle = 'rgb(226,224,218)';
	c.fillRect(0, 0, WIDTH, HEIGHT);
	const faint = ladder === 'drowning' || ladder === 'paling';
	const level = 222 - (faint ? amount : 170);
	c.fillStyle = `rgb(${level},${level},${level})`;
	const pitch = 78;
	lines.forEach((line, i) => {
		c.save();
		c.font = `${44 * hand.scale}px ${hand.family}`;
		c.translate(130 + random.between(-6, 6), 240 + i * pitch);
		c.rotate(random.between(-0.006, 0.006));
		c.fillText(line, 0, 0);
		c.restore();
	});
	const page = fromCanvas(c, WIDTH, HEIGHT);
	const { data } = page;
	if (ladder === 'along lines') smear(data, amount);
	if (ladder !== 'paling') addNoise(data, ladder === 'drowning' ? 9 : 2, random);
	if (ladder !== 'pixels') return page;
	const width = Math.round((WIDTH * amount) / DOTS);
	const { data: small, info } = await sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
		.resize({ width })
		.raw()
		.toBuffer({ resolveWithObject: true });
	return { width: info.width, height: info.height, channels: 3, data: small };
}

/** Each pixel becomes the mean of those on a path across. */
function smear(data: Uint8Array, length: number): void {
	const before = data.slice();
	const half = length >> 1;
	for (let y = 0; y < HEIGHT; y++) {
		for (let x = 0; x < WIDTH; x++) {
			for (let k = 0; k < 3; k++) {
				let sum = 0;
				for (let s = -half; s <= half; s++) {
					sum += before[(y * WIDTH + Math.min(WIDTH - 1, Math.max(0, x + s))) * 3 + k]!;
				}
				data[(y * WIDTH + x) * 3 + k] = sum / (2 * half + 1);
			}
		}
	}
}
