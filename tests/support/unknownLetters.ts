import { createCanvas } from '@napi-rs/canvas';
import { fromCanvas } from '../../demo/generator/fromCanvas';
import { addNoise, blur } from '../../demo/generator/light';
import { Random } from '../../demo/generator/random';
import type { Picture } from '../../src/lib/core/raster/picture';

const SIZE = [1240, 1754] as const;
const COUNT = 22;

/** A page of writing in letters that nobody has: a few bent strokes each, the same all over the page. */
export function unknownLetters(seed: number): Picture {
	const random = new Random(seed);
	const [width, height] = SIZE;
	const c = createCanvas(width, height).getContext('2d');
	c.fillStyle = '#fbfaf6';
	c.fillRect(0, 0, width, height);
	c.strokeStyle = '#20242c';
	c.lineCap = 'round';
	const pitch = random.between(44, 62);
	const high = random.between(0.36, 0.5) * pitch;
	c.lineWidth = random.between(0.07, 0.12) * high + 1;
	const point = () => [random.between(0, 0.75) * high, -random.between(-0.15, 1.15) * high] as const;
	const letters = Array.from({ length: COUNT }, () =>
		Array.from({ length: random.whole(1, 3) }, () => [point(), point(), point()] as const)
	);
	for (let y = 0.1 * height; y < 0.9 * height; y += pitch) {
		for (let x = 0.12 * width; x < 0.82 * width;) {
			for (let left = random.whole(2, 8); left > 0 && x < 0.88 * width; left--, x += 0.9 * high) {
				for (const [from, by, to] of random.pick(letters)) {
					c.beginPath();
					c.moveTo(x + from[0], y + from[1]);
					c.quadraticCurveTo(x + by[0], y + by[1], x + to[0], y + to[1]);
					c.stroke();
				}
			}
			x += 0.6 * high;
		}
	}
	const picture = fromCanvas(c, width, height);
	blur(picture, random.between(0.4, 1));
	addNoise(picture.data, random.between(1, 3), random);
	return picture;
}
