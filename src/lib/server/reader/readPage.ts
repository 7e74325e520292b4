import { components } from '../../core/raster/components';
import type { Picture, Plane } from '../../core/raster/picture';
import { findFrames } from '../../core/reading/frames';
import { strayMarks, type Box } from '../../core/reading/marks';
import type { ReadLine } from '../../core/reading/readLine';
import type { Point, Quadrilateral } from '../../core/sheet/geometry';
import { blackAndWhite } from '../../core/tone/blackAndWhite';
import { strokeWidth } from '../../core/tone/strokeWidth';
import { detectLines } from './detect';
import { columnsOf, LINE_HEIGHT } from './lineInput';
import { recognise } from './recognise';

/** A piece shorter than this, in heights, is read in several cuts, each grown by this part of its height. */
const SHORT = 3.5;
const CUTS = [-0.08, 0.14] as const;
/** Marks this near the side of a page, as a part of its width, are its edge. */
const EDGE = 0.015;

/**
 * Reads an upright page, line by line from the top down, and the short marks between lines. What is drawn around labels
 * is taken off first: it keeps the reader from seeing them.
 *
 * @param page evenly lit, at about 200 dots an inch
 */
export async function readPage(page: Plane, dotsPerInch: number): Promise<ReadLine[]> {
	const { width, height } = page;
	const mono = blackAndWhite(page, dotsPerInch);
	const ink = mono.data.map((v) => (v === 0 ? 1 : 0));
	const { list, labels } = components(ink, width, height);
	const stroke = strokeWidth(ink, width, height);
	const letter = letterHeight(
		list.map((c) => c.y1 - c.y0),
		stroke
	);
	const frames = findFrames(list, labels, width, letter, stroke);
	const clean = withoutFrames(
		page,
		frames.flatMap((f) => f.pixels),
		stroke
	);
	const picture = colour(clean);

	const lines: ReadLine[] = [];
	const add = async (box: Quadrilateral, kind: ReadLine['kind']) => {
		const { posterior, ...line } = await recognise(picture, box);
		if (line.text === '' && kind === 'line') return;
		const posteriors = [posterior];
		// A short piece hangs on how it is cut: it is read in several ways.
		if (columnsOf(box) < SHORT * LINE_HEIGHT) {
			for (const by of CUTS) posteriors.push((await recognise(picture, grown(box, by))).posterior);
		}
		lines.push({ box, kind, ...line, posteriors });
	};
	const found = await detectLines(picture);
	for (const box of found) await add(box, 'line');
	const framed = frames.map((f) => f.inside);
	for (const box of framed) await add(padded(box, 0.12 * letter + 2), 'framed');
	const covered = [...found.map(bounds), ...framed, ...frames.map((f) => boundsOf(f.pixels, width))];
	const inner = list.filter((c) => c.x0 > EDGE * width && c.x1 < (1 - EDGE) * width);
	for (const box of strayMarks(inner, covered, letter)) await add(padded(box, 0.2 * letter), 'mark');
	return lines;
}

/** Usual height of a letter: the middle one of all groups of ink that are more than dots. */
function letterHeight(heights: readonly number[], stroke: number): number {
	const letters = heights.filter((h) => h > 3 * stroke).sort((a, b) => a - b);
	return letters[letters.length >> 1] ?? 20;
}

function withoutFrames(page: Plane, pixels: readonly number[], stroke: number): Plane {
	if (pixels.length === 0) return page;
	const { width, height } = page;
	const data = page.data.slice();
	// The soft edge of a stroke lies outside its ink.
	const reach = Math.max(1, Math.round(stroke / 3));
	for (const p of pixels) {
		const x = p % width;
		const y = (p - x) / width;
		for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++) {
			for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u++)
				data[v * width + u] = 255;
		}
	}
	return { width, height, data };
}

function colour({ width, height, data }: Plane): Picture {
	const rgb = new Uint8Array(3 * data.length);
	for (let i = 0, p = 0; i < data.length; i++, p += 3) rgb[p] = rgb[p + 1] = rgb[p + 2] = data[i]!;
	return { width, height, channels: 3, data: rgb };
}

function bounds(box: Quadrilateral): Box {
	const xs = box.map((p) => p[0]);
	const ys = box.map((p) => p[1]);
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}

function boundsOf(pixels: readonly number[], width: number): Box {
	let [x0, y0, x1, y1] = [Infinity, Infinity, 0, 0];
	for (const p of pixels) {
		const x = p % width;
		const y = (p - x) / width;
		x0 = Math.min(x0, x);
		x1 = Math.max(x1, x + 1);
		y0 = Math.min(y0, y);
		y1 = Math.max(y1, y + 1);
	}
	return [x0, y0, x1, y1];
}

/** A box grown on all sides by a part of its height. */
function grown(box: Quadrilateral, part: number): Quadrilateral {
	const [a, b, c, d] = box;
	const by = part * Math.hypot(d[0] - a[0], d[1] - a[1]);
	const along = unit(a, b);
	const down = unit(a, d);
	const move = ([x, y]: Point, u: number, v: number): Point => [
		x + by * (u * along[0] + v * down[0]),
		y + by * (u * along[1] + v * down[1])
	];
	return [move(a, -1, -1), move(b, 1, -1), move(c, 1, 1), move(d, -1, 1)];
}

function unit(from: Point, to: Point): Point {
	const length = Math.max(1e-9, Math.hypot(to[0] - from[0], to[1] - from[1]));
	return [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
}

function padded([x0, y0, x1, y1]: Box, by: number): Quadrilateral {
	return [
		[x0 - by, y0 - by],
		[x1 + by, y0 - by],
		[x1 + by, y1 + by],
		[x0 - by, y1 + by]
	];
}
