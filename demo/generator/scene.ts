import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import type { Picture } from '../../src/lib/core/raster/picture';
import { fromCanvas } from './fromCanvas';
import { addNoise, blur } from './light';
import { Random } from './random';

/** Colours that a scene is made of. */
type Palette = (random: Random, light: number) => string;

export const GREYS: Palette = (_, light) => {
	const v = Math.round(255 * light);
	return `rgb(${v},${v},${v})`;
};
const COLOURS: Palette = (random, light) =>
	`hsl(${random.whole(0, 359)} ${random.whole(4, 60)}% ${Math.round(100 * light)}%)`;

export const SCENES = ['outdoors', 'building', 'shelf', 'things', 'wall', 'texture'] as const;
export type SceneKind = (typeof SCENES)[number];

/** A photograph of something that is no page: a landscape, a house front, a shelf, things on a table. */
export function noPage(seed: number, kind: SceneKind, [width, height]: readonly [number, number]): Picture {
	const random = new Random(seed);
	const canvas = createCanvas(width, height);
	const c = canvas.getContext('2d');
	scene(c, random, width, height, random.chance(0.2) ? GREYS : COLOURS, kind);
	const view = fromCanvas(c, width, height);
	blur(view, random.between(0.4, 2.5));
	addNoise(view.data, random.between(1, 6), random);
	return view;
}

export function scene(
	c: SKRSContext2D,
	random: Random,
	width: number,
	height: number,
	colour: Palette,
	kind: SceneKind = random.pick(SCENES)
): void {
	const sky = c.createLinearGradient(0, 0, random.between(-0.5, 0.5) * width, height);
	sky.addColorStop(0, colour(random, random.between(0.2, 0.9)));
	sky.addColorStop(1, colour(random, random.between(0.2, 0.9)));
	c.fillStyle = sky;
	c.fillRect(0, 0, width, height);
	DRAW[kind](c, random, width, height, colour);
}

type Draw = (c: SKRSContext2D, random: Random, width: number, height: number, colour: Palette) => void;

const DRAW: Readonly<Record<SceneKind, Draw>> = {
	outdoors(c, random, width, height, colour) {
		for (let k = 0; k < 4; k++) {
			c.fillStyle = colour(random, random.between(0.1, 0.7));
			c.beginPath();
			c.moveTo(0, height);
			const base = height * (0.35 + 0.15 * k);
			for (let x = 0; x <= 20; x++) c.lineTo((x / 20) * width, base + random.between(-0.08, 0.08) * height);
			c.lineTo(width, height);
			c.fill();
		}
		blots(c, random, width, height, colour, 60, 0.05);
	},
	building(c, random, width, height, colour) {
		const slope = random.between(-0.12, 0.12);
		c.setTransform(1, slope, random.between(-0.1, 0.1), 1, c.getTransform().e, c.getTransform().f);
		const [across, down] = [random.whole(3, 8), random.whole(3, 7)];
		c.fillStyle = colour(random, random.between(0.3, 0.8));
		c.fillRect(0.05 * width, 0.1 * height, 0.9 * width, height);
		for (let i = 0; i < across; i++) {
			for (let j = 0; j < down; j++) {
				c.fillStyle = colour(
					random,
					random.chance(0.3) ? random.between(0.7, 0.95) : random.between(0.05, 0.4)
				);
				const x = (0.1 + (0.8 * i) / across) * width;
				const y = (0.15 + (0.8 * j) / down) * height;
				c.fillRect(x, y, (0.5 * width) / across, (0.55 * height) / down);
			}
		}
		if (random.chance(0.6)) {
			c.fillStyle = colour(random, 0.9);
			c.fillRect(0.3 * width, 0.05 * height, 0.4 * width, 0.08 * height);
			c.fillStyle = colour(random, 0.15);
			c.font = `${0.06 * height}px sans-serif`;
			c.fillText('corner stores', 0.32 * width, 0.11 * height, 0.36 * width);
		}
	},
	shelf(c, random, width, height, colour) {
		const rows = random.whole(2, 4);
		for (let r = 0; r < rows; r++) {
			const [top, bottom] = [(r / rows) * height, ((r + 0.92) / rows) * height];
			for (let x = 0; x < width;) {
				const wide = random.between(0.015, 0.06) * width;
				c.fillStyle = colour(random, random.between(0.08, 0.8));
				c.fillRect(x, top + random.between(0.02, 0.3) * (bottom - top), wide * 0.95, bottom - top);
				x += wide;
			}
			c.fillStyle = colour(random, 0.25);
			c.fillRect(0, bottom, width, (0.08 / rows) * height);
		}
	},
	things(c, random, width, height, colour) {
		blots(c, random, width, height, colour, random.whole(3, 12), 0.25);
		for (let k = 0; k < random.whole(1, 4); k++) {
			c.save();
			c.translate(random.next() * width, random.next() * height);
			c.rotate(random.between(-0.8, 0.8));
			const [w, h] = [random.between(0.1, 0.4) * width, random.between(0.1, 0.4) * height];
			const shade = c.createLinearGradient(0, 0, w, h);
			shade.addColorStop(0, colour(random, random.between(0.1, 0.9)));
			shade.addColorStop(1, colour(random, random.between(0.1, 0.9)));
			c.fillStyle = shade;
			c.fillRect(-w / 2, -h / 2, w, h);
			c.restore();
		}
	},
	wall(c, random, width, height, colour) {
		const corner = random.between(0.2, 0.8) * width;
		for (const [x, w] of [
			[0, corner],
			[corner, width - corner]
		] as const) {
			const shade = c.createLinearGradient(x, 0, x + w, 0);
			shade.addColorStop(0, colour(random, random.between(0.4, 0.85)));
			shade.addColorStop(1, colour(random, random.between(0.4, 0.85)));
			c.fillStyle = shade;
			c.fillRect(x, 0, w, height * random.between(0.6, 0.9));
		}
		if (random.chance(0.5)) {
			for (let x = corner; x < width; x += 0.02 * width) {
				c.fillStyle = `rgba(0,0,0,${random.between(0, 0.15)})`;
				c.fillRect(x, 0, 0.01 * width, 0.8 * height);
			}
		}
		blots(c, random, width, height, colour, 4, 0.12);
	},
	texture(c, random, width, height, colour) {
		blots(c, random, width, height, colour, 900, random.between(0.008, 0.03));
	}
};

function blots(
	c: SKRSContext2D,
	random: Random,
	width: number,
	height: number,
	colour: Palette,
	count: number,
	size: number
): void {
	for (let k = 0; k < count; k++) {
		c.fillStyle = colour(random, random.between(0.05, 0.95));
		c.beginPath();
		c.ellipse(
			random.next() * width,
			random.next() * height,
			size * width * random.between(0.3, 1.2),
			size * width * random.between(0.3, 1.2),
			random.between(0, 3),
			0,
			7
		);
		c.fill();
	}
}
