import type { Picture } from '../../src/lib/core/raster/picture';
import { homography } from '../../src/lib/core/sheet/homography';
import type { Quadrilateral } from '../../src/lib/core/sheet/geometry';

/** Darkens the desk close to the sheet's edges, where paper lying flat keeps the light off. */
export function dropShadow(view: Picture, corners: Quadrilateral, reach: number): void {
	const data = view.data as Uint8Array;
	const sides = sidesOf(corners);
	const darken = (y: number, from: number, to: number) => {
		for (let x = from, p = (y * view.width + from) * 3; x < to; x++, p += 3) {
			const d = -nearestSide(sides, x + 0.5, y + 0.5);
			if (d <= 0 || d > reach) continue;
			const k = 1 - 0.32 * (1 - d / reach) ** 2;
			data[p] = data[p]! * k;
			data[p + 1] = data[p + 1]! * k;
			data[p + 2] = data[p + 2]! * k;
		}
	};
	const box = boxAround(view, corners, reach);
	for (let y = box[1]; y < box[3]; y++) {
		const [from, to] = rowWithin(sides, y, -reach, box);
		const [sheetFrom, sheetTo] = rowWithin(sides, y, 0, box);
		// The row's span is a pixel wide of the truth, and so is the sheet's within it.
		const left = Math.max(from, Math.min(to, sheetFrom + 2));
		darken(y, from, left);
		darken(y, Math.max(left, sheetTo - 2), to);
	}
}

export function eachPixelNear(
	view: Picture,
	corners: Quadrilateral,
	margin: number,
	visit: (x: number, y: number, p: number) => void
): void {
	const [x0, y0, x1, y1] = boxAround(view, corners, margin);
	for (let y = y0; y < y1; y++) {
		for (let x = x0; x < x1; x++) visit(x + 0.5, y + 0.5, (y * view.width + x) * 3);
	}
}

type Box = readonly [x0: number, y0: number, x1: number, y1: number];

/** The pixels no farther from the corners' box than `margin`; the last column and row are not of it. */
function boxAround(view: Picture, corners: Quadrilateral, margin: number): Box {
	const xs = corners.map((c) => c[0]);
	const ys = corners.map((c) => c[1]);
	return [
		Math.max(0, Math.floor(Math.min(...xs) - margin)),
		Math.max(0, Math.floor(Math.min(...ys) - margin)),
		Math.min(view.width, Math.ceil(Math.max(...xs) + margin) + 1),
		Math.min(view.height, Math.ceil(Math.max(...ys) + margin) + 1)
	];
}

/** A side of a shape: the unit normal that points inside, and a point of it. */
type Sides = readonly (readonly [nx: number, ny: number, x: number, y: number])[];

function sidesOf(corners: Quadrilateral): Sides {
	return corners.map((a, i) => {
		const b = corners[(i + 1) % 4]!;
		const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
		return [-(b[1] - a[1]) / length, (b[0] - a[0]) / length, a[0], a[1]] as const;
	});
}

function nearestSide(sides: Sides, x: number, y: number): number {
	let nearest = Infinity;
	for (let i = 0; i < 4; i++) {
		const s = sides[i]!;
		nearest = Math.min(nearest, (x - s[2]) * s[0] + (y - s[3]) * s[1]);
	}
	return nearest;
}

/** Signed distance to the nearest side, in pixels; positive inside. */
export function distanceInside(corners: Quadrilateral): (x: number, y: number) => number {
	const sides = sidesOf(corners);
	return (x, y) => nearestSide(sides, x, y);
}

/** The columns of row `y` whose middles are at least `level` inside all sides: from, to; up to a pixel more on both. */
function rowWithin(sides: Sides, y: number, level: number, box: Box): [from: number, to: number] {
	let from = box[0];
	let to = box[2];
	for (const [nx, ny, x, y0] of sides) {
		// (column + 0.5 - x) nx + (y + 0.5 - y0) ny >= level
		const rest = level - (y + 0.5 - y0) * ny;
		if (Math.abs(nx) < 1e-9) {
			if (rest > 1) return [0, 0];
			continue;
		}
		const at = rest / nx + x - 0.5;
		if (nx > 0) from = Math.max(from, Math.floor(at));
		else to = Math.min(to, Math.ceil(at) + 1);
	}
	return from < to ? [from, to] : [0, 0];
}

/** Lays a flat page into the picture, its own top left corner on the first of these. */
export function paintSheet(view: Picture, page: Picture, corners: Quadrilateral): void {
	const data = view.data as Uint8Array;
	const h = homography(corners, [
		[0, 0],
		[page.width, 0],
		[page.width, page.height],
		[0, page.height]
	]);
	const [h0, h1, h2, h3, h4, h5, h6, h7] = h;
	const sides = sidesOf(corners);
	const { width: pw, height: ph, channels } = page;
	const source = page.data as Uint8Array;
	const box = boxAround(view, corners, 1);
	for (let row = box[1]; row < box[3]; row++) {
		const [from, to] = rowWithin(sides, row, -0.5, box);
		const [coverFrom, coverTo] = rowWithin(sides, row, 0.5, box);
		const y = row + 0.5;
		for (let column = from, p = (row * view.width + from) * 3; column < to; column++, p += 3) {
			const x = column + 0.5;
			const isWithin = column >= coverFrom + 2 && column < coverTo - 2;
			const cover = isWithin ? 1 : Math.min(1, Math.max(0, nearestSide(sides, x, y) + 0.5));
			if (cover === 0) continue;
			const w = h6 * x + h7 * y + 1;
			const sx = Math.min(Math.max((h0 * x + h1 * y + h2) / w - 0.5, 0), pw - 1.001);
			const sy = Math.min(Math.max((h3 * x + h4 * y + h5) / w - 0.5, 0), ph - 1.001);
			const x0 = sx | 0;
			const y0 = sy | 0;
			const fx = sx - x0;
			const fy = sy - y0;
			const q = (y0 * pw + x0) * channels;
			const below = q + pw * channels;
			for (let k = 0; k < 3; k++) {
				const top = source[q + k]! * (1 - fx) + source[q + channels + k]! * fx;
				const bottom = source[below + k]! * (1 - fx) + source[below + channels + k]! * fx;
				const value = top * (1 - fy) + bottom * fy;
				data[p + k] = data[p + k]! * (1 - cover) + value * cover;
			}
		}
	}
}
