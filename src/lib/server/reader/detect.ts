import type { Picture } from '../../core/raster/picture';
import type { Point, Quadrilateral } from '../../core/sheet/geometry';
import { flatten } from '../../core/sheet/flatten';
import { wholePicture } from '../../core/sheet/geometry';
import { run } from './models';

/** Longer side at which lines are looked for. */
export const DETECT_SIZE = 960;
/** Where the detector's map is at least this, there is writing; a box needs the mean to be at least the other. */
const WRITING = 0.3;
const BOX = 0.55;
/** The map shows the core of a line; the box is grown by this share of area over perimeter. */
const GROW = 1.7;
/** Smaller boxes, in pixels of the map, are dots. */
const LEAST_SIDE = 4;

const MEAN = [0.406, 0.456, 0.485] as const;
const DEVIATION = [0.225, 0.224, 0.229] as const;
/** For each channel, from blue to red, what the detector is given for each level. */
const LEVELS = MEAN.map((mean, c) =>
	Float32Array.from({ length: 256 }, (_, level) => (level / 255 - mean) / DEVIATION[c]!)
) as [Float32Array, Float32Array, Float32Array];

/**
 * Finds the lines of writing on a picture: their boxes in its pixels, clockwise from the top left, top down.
 *
 * @param longest longer side in pixels at which they are looked for; time grows with its square
 */
export async function detectLines(picture: Picture, longest = DETECT_SIZE): Promise<Quadrilateral[]> {
	const scale = Math.min(1, longest / Math.max(picture.width, picture.height));
	// The detector takes sides of multiples of 32.
	const side = (length: number) => Math.max(32, Math.round((length * scale) / 32) * 32);
	const width = side(picture.width);
	const height = side(picture.height);
	const small = flatten(picture, wholePicture(picture.width, picture.height), width, height);
	const { data } = await run('detector', asInput(small), [1, 3, height, width]);
	const sx = picture.width / width;
	const sy = picture.height / height;
	return boxes(data, width, height)
		.map((box) => box.map(([x, y]): Point => [x * sx, y * sy]) as unknown as Quadrilateral)
		.sort((a, b) => a[0][1] + a[3][1] - b[0][1] - b[3][1]);
}

/** A picture plane by plane, as the detector takes it. */
function asInput({ width, height, data }: Picture): Float32Array {
	const plane = width * height;
	const input = new Float32Array(3 * plane);
	const [blue, green, red] = LEVELS;
	for (let i = 0, p = 0; i < plane; i++, p += 3) {
		input[i] = blue[data[p + 2]!]!;
		input[i + plane] = green[data[p + 1]!]!;
		input[i + 2 * plane] = red[data[p]!]!;
	}
	return input;
}

/** Connected parts of the map as rectangles along their main direction (principal axes), grown. */
function boxes(map: Float32Array, width: number, height: number): Quadrilateral[] {
	const seen = new Uint8Array(map.length);
	const stack: number[] = [];
	const found: Quadrilateral[] = [];
	for (let start = 0; start < map.length; start++) {
		if (seen[start] || map[start]! < WRITING) continue;
		const xs: number[] = [];
		const ys: number[] = [];
		let total = 0;
		stack.push(start);
		seen[start] = 1;
		while (stack.length > 0) {
			const i = stack.pop()!;
			const x = i % width;
			const y = (i - x) / width;
			xs.push(x);
			ys.push(y);
			total += map[i]!;
			for (let dy = -1; dy <= 1; dy++) {
				for (let dx = -1; dx <= 1; dx++) {
					const nx = x + dx;
					const ny = y + dy;
					if (nx < 0 || ny < 0 || nx >= width || ny >= height) continue;
					const j = ny * width + nx;
					if (seen[j] || map[j]! < WRITING) continue;
					seen[j] = 1;
					stack.push(j);
				}
			}
		}
		if (total / xs.length < BOX) continue;
		const box = rectangle(xs, ys);
		if (box) found.push(box);
	}
	return found;
}

function rectangle(xs: readonly number[], ys: readonly number[]): Quadrilateral | null {
	const n = xs.length;
	let mx = 0;
	let my = 0;
	for (let i = 0; i < n; i++) {
		mx += xs[i]! / n;
		my += ys[i]! / n;
	}
	let xx = 0;
	let xy = 0;
	let yy = 0;
	for (let i = 0; i < n; i++) {
		xx += (xs[i]! - mx) ** 2;
		xy += (xs[i]! - mx) * (ys[i]! - my);
		yy += (ys[i]! - my) ** 2;
	}
	// The main direction; nearly square parts lie straight.
	let angle = 0.5 * Math.atan2(2 * xy, xx - yy);
	const long = Math.hypot(xx - yy, 2 * xy) / Math.max(1e-9, xx + yy);
	if (long < 0.3) angle = 0;
	// Always read from left to right, or from the top down where the line stands upright.
	if (angle > Math.PI / 4) angle -= Math.PI / 2;
	if (angle < -Math.PI / 4) angle += Math.PI / 2;
	const cos = Math.cos(angle);
	const sin = Math.sin(angle);
	let u0 = Infinity;
	let u1 = -Infinity;
	let v0 = Infinity;
	let v1 = -Infinity;
	for (let i = 0; i < n; i++) {
		const u = (xs[i]! - mx) * cos + (ys[i]! - my) * sin;
		const v = -(xs[i]! - mx) * sin + (ys[i]! - my) * cos;
		u0 = Math.min(u0, u);
		u1 = Math.max(u1, u);
		v0 = Math.min(v0, v);
		v1 = Math.max(v1, v);
	}
	const w = u1 - u0 + 1;
	const h = v1 - v0 + 1;
	if (Math.min(w, h) < LEAST_SIDE) return null;
	const grow = (GROW * w * h) / (2 * (w + h));
	const at = (u: number, v: number): Point => [mx + 0.5 + u * cos - v * sin, my + 0.5 + u * sin + v * cos];
	return [
		at(u0 - 0.5 - grow, v0 - 0.5 - grow),
		at(u1 + 0.5 + grow, v0 - 0.5 - grow),
		at(u1 + 0.5 + grow, v1 + 0.5 + grow),
		at(u0 - 0.5 - grow, v1 + 0.5 + grow)
	];
}
