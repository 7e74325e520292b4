import { Path2D, type SKRSContext2D } from '@napi-rs/canvas';
import type { Random } from './random';

/** The ink of one digit, cropped to it: `width x height`, row-major, 0 to 1. */
export interface DigitShape {
	readonly width: number;
	readonly height: number;
	readonly data: Float32Array;
}

/** How one writer departs from the font that is written in. */
export interface Manner {
	/** Sideways shift a height, to the right. */
	readonly slant: number;
	/** Width of a line drawn around each letter, as a part of the size: a broader pen. */
	readonly weight: number;
	/** 0 to about 2: how much sizes, places and angles differ from letter to letter. */
	readonly unevenness: number;
	/** Space put between letters, as a part of the size. */
	readonly spacing: number;
	/** Width of a space, as a part of the size. */
	readonly space: number;
	/** Digits that are written in place of the font's, for each of 0 to 9; null: the font's own. */
	readonly digits: readonly (readonly DigitShape[])[] | null;
	/** Fonts of which each letter is taken from one, by chance; `scale`: their size as a part of the writer's own. */
	readonly mixed?: readonly { readonly family: string; readonly scale: number }[];
	/** Hands without a font: each letter is of one of them, by chance, or of those mixed in. */
	readonly drawn?: readonly DrawnHand[];
}

/** A hand that is drawn stroke by stroke. */
export interface DrawnHand {
	/**
	 * Draws a character with its base line's beginning at the origin, in the canvas's stroke colour.
	 *
	 * @param size as a font's, in pixels
	 * @returns the width that it takes in pixels; null, and nothing drawn, where this hand has none
	 */
	draw(c: SKRSContext2D, character: string, size: number, random: Random): number | null;
}

/** One letter and where it came to lie, in pixels. */
export interface Letter {
	readonly character: string;
	readonly x0: number;
	readonly x1: number;
}

/** A writer's manner, by chance. */
export function someManner(random: Random, digits: Manner['digits']): Manner {
	return {
		slant: random.chance(0.4) ? 0 : random.between(-0.12, 0.28),
		weight: random.chance(0.5) ? 0 : random.between(0, 0.035),
		unevenness: random.between(0.3, 1.6),
		spacing: random.chance(0.4) ? 0 : random.between(-0.03, 0.08),
		space: random.between(0.2, 0.45),
		digits
	};
}

/**
 * Writes letter by letter, each a little otherwise.
 *
 * @param x and y where the base line begins, in pixels
 * @param size of the font, in pixels
 */
export function writeByLetter(
	c: SKRSContext2D,
	text: string,
	[x, y]: readonly [number, number],
	size: number,
	family: string,
	ink: string,
	manner: Manner,
	random: Random
): Letter[] {
	const letters: Letter[] = [];
	const { unevenness: u, slant, weight, digits } = manner;
	let at = x;
	let drift = 0;
	c.fillStyle = c.strokeStyle = ink;
	for (const character of text) {
		if (character === ' ') {
			at += size * manner.space * random.between(0.8, 1.25);
			continue;
		}
		const own = size * (1 + 0.035 * u * random.normal());
		drift = 0.7 * drift + 0.012 * u * size * random.normal();
		c.save();
		const mixed = manner.mixed ? random.pick(manner.mixed) : null;
		c.font = mixed ? `${own * mixed.scale}px ${mixed.family}` : `${own}px ${family}`;
		c.translate(at, y + drift);
		c.rotate(0.02 * u * random.normal());
		c.transform(1, 0, -slant + 0.03 * u * random.normal(), 1, 0, 0);
		let width: number | null = null;
		const shapes = digits && character >= '0' && character <= '9' ? digits[Number(character)] : undefined;
		if (shapes) {
			const height = c.measureText('5').actualBoundingBoxAscent * random.between(0.88, 1.15);
			const shape = random.pick(shapes);
			width = (height * shape.width * random.between(0.85, 1.1)) / shape.height;
			c.translate(0.04 * size, -height);
			c.scale(width / shape.width, height / shape.height);
			c.fill(outlineOf(shape, random.between(0.35, 0.6)));
			width += 0.12 * size;
		} else if (manner.drawn && !(mixed && random.chance(0.5))) {
			width = random.pick(manner.drawn).draw(c, character, own, random);
		}
		if (width === null) {
			c.fillText(character, 0, 0);
			if (weight > 0) {
				c.lineWidth = weight * size;
				c.lineJoin = 'round';
				c.strokeText(character, 0, 0);
			}
			width = c.measureText(character).width;
		}
		c.restore();
		letters.push({ character, x0: at, x1: at + width });
		at += width + size * (manner.spacing + 0.015 * u * random.normal());
	}
	return letters;
}

/** Side by which the shapes of digits are enlarged, so that their edges are as sharp as a pen's. */
const ENLARGED = 4;

/** Where a digit's own grey is over `edge`: runs of ink, row by row, in its own pixels. */
function outlineOf({ width, height, data }: DigitShape, edge: number): Path2D {
	const path = new Path2D();
	const at = (x: number, y: number) =>
		x < 0 || y < 0 || x >= width || y >= height ? 0 : data[y * width + x]!;
	const step = 1 / ENLARGED;
	for (let v = -0.5 + step / 2; v < height - 0.5; v += step) {
		const v0 = Math.floor(v);
		let from: number | null = null;
		for (let u = -0.5 + step / 2; u < width - 0.5 + step; u += step) {
			const u0 = Math.floor(u);
			const top = at(u0, v0) * (u0 + 1 - u) + at(u0 + 1, v0) * (u - u0);
			const bottom = at(u0, v0 + 1) * (u0 + 1 - u) + at(u0 + 1, v0 + 1) * (u - u0);
			const ink = top * (v0 + 1 - v) + bottom * (v - v0) > edge && u < width - 0.5;
			if (ink) from ??= u;
			else if (from !== null) {
				// Rows overlap a little, so that no light comes through between them.
				path.rect(from + 0.5 - step / 2, v + 0.5 - step / 2, u - from, 1.02 * step);
				from = null;
			}
		}
	}
	return path;
}
