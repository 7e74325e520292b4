import type { createCanvas } from '@napi-rs/canvas';
import type { Random } from '../demo/generator/random';
import type { Plane } from '../src/lib/core/raster/picture';
import type { Box } from '../src/lib/core/reading/pieces';
import { framedCrops } from '../src/lib/core/reading/places';
import { MOST_WIDTH, shortCrop, SHORT_HEIGHT } from '../src/lib/core/reading/shortCrop';
import { inkOnPage } from '../src/lib/server/reader/inkOnPage';

export type Context = ReturnType<ReturnType<typeof createCanvas>['getContext']>;

/** What is drawn around a label or under it. */
export interface DrawnFrame {
	readonly around: boolean;
	/** What it takes up, with what it is drawn around. */
	readonly box: Box;
}

/** Chance that a frame is a line under the label, that it is a box; else it is a ring. */
const UNDER = 0.25;
const BOXED = 0.35;
/** Chance that what goes around a label touches it or cuts its corners. */
const TIGHT = 0.5;

/** A ring, a box or a line under a label, as a quick hand draws it. */
export function drawFrame(
	c: Context,
	random: Random,
	[x0, y0, x1, y1]: Box,
	size: number,
	ink: string
): DrawnFrame {
	c.strokeStyle = ink;
	c.lineWidth = random.between(0.04, 0.1) * size;
	c.lineCap = c.lineJoin = 'round';
	const kind = random.next();
	c.beginPath();
	if (kind < UNDER) {
		const y = y1 + random.between(0.02, 0.3) * size;
		c.moveTo(x0 - random.between(-0.1, 0.3) * size, y);
		c.lineTo(x1 + random.between(-0.1, 0.4) * size, y + random.between(-0.1, 0.1) * size);
		if (random.chance(0.25)) {
			c.moveTo(x0, y + 0.12 * size);
			c.lineTo(x1, y + random.between(0.08, 0.16) * size);
		}
		c.stroke();
		return { around: false, box: [x0, y0, x1, y + 0.1 * size] };
	}
	const gap = (random.chance(TIGHT) ? random.between(-0.08, 0.12) : random.between(0.08, 0.35)) * size;
	const around: Box = [x0 - gap, y0 - gap, x1 + gap, y1 + gap];
	if (kind < UNDER + BOXED) drawBox(c, random, around, size);
	else drawRing(c, random, around, size);
	c.stroke();
	return { around: true, box: around };
}

/** Four strokes, none of them quite level, that may go on beyond the corners. */
function drawBox(c: Context, random: Random, [x0, y0, x1, y1]: Box, size: number): void {
	const off = () => random.between(-0.05, 0.05) * size;
	const beyond = () => (random.chance(0.3) ? random.between(0, 0.2) * size : 0);
	for (const y of [y0, y1]) {
		c.moveTo(x0 - beyond(), y + off());
		c.lineTo(x1 + beyond(), y + off());
	}
	for (const x of [x0, x1]) {
		c.moveTo(x + off(), y0 - beyond());
		c.lineTo(x + off(), y1 + beyond());
	}
}

/** One stroke around, rounder or more like a box, that may not quite close or go on over its beginning. */
function drawRing(c: Context, random: Random, [x0, y0, x1, y1]: Box, size: number): void {
	const wider = random.between(0, 0.3) * size;
	const [rx, ry] = [(x1 - x0) / 2 + wider, ((y1 - y0) / 2) * random.between(1, 1.25)];
	const square = random.between(0.6, 1);
	const lean = random.between(-0.1, 0.1);
	const waves = [2, 3].map((k) => ({
		k,
		by: random.between(0, 0.04),
		phase: random.between(0, 2 * Math.PI)
	}));
	const drift = random.between(-0.08, 0.08);
	const begin = random.between(0, 2 * Math.PI);
	const turn = 2 * Math.PI * random.between(0.95, 1.15);
	const steps = 60;
	for (let i = 0; i <= steps; i++) {
		const angle = begin + (turn * i) / steps;
		const far =
			waves.reduce((sum, w) => sum + w.by * Math.sin(w.k * angle + w.phase), 1) + (drift * i) / steps;
		const [x, y] = [Math.cos(angle), Math.sin(angle)].map(
			(v) => far * Math.sign(v) * Math.abs(v) ** square
		) as [number, number];
		c.lineTo((x0 + x1) / 2 + rx * x, (y0 + y1) / 2 + ry * y + lean * rx * x);
	}
}

/** Chance that a framed label is looked at without its frame, as far as that can be told from it. */
const PEELED = 0.55;
/** At about so many dots an inch letters are as large as here. */
const DOTS_PER_INCH = 200;
/** What is found in a frame begins and ends so near what was framed, in heights of a letter. */
const NEAR = 0.6;

/**
 * What the recogniser is shown of a framed label on a page: the very search for frames is asked.
 *
 * @param box of the label
 * @returns null where the frame is not found, or holds more than a crop shows
 */
export function seenInFrame(random: Random, page: Plane, box: Box, size: number): Plane | null {
	const { frames, letter, clean } = inkOnPage(page, DOTS_PER_INCH);
	const found = frames.find(
		({ kind, inside }) =>
			kind === 'around' &&
			Math.abs(inside[0] - box[0]) < NEAR * size &&
			Math.abs(inside[2] - box[2]) < NEAR * size &&
			Math.abs(inside[1] - box[1]) < NEAR * size &&
			Math.abs(inside[3] - box[3]) < NEAR * size
	);
	if (!found) return null;
	const [peeled, whole] = framedCrops(found, letter);
	const { box: shown, cleaned } = random.chance(PEELED) ? peeled : whole;
	const tooLong = shown[2] - shown[0] > (MOST_WIDTH / SHORT_HEIGHT) * (shown[3] - shown[1]);
	return tooLong ? null : shortCrop(cleaned ? clean : page, shown);
}
