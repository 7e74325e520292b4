import type { Picture } from '../../src/lib/core/raster/picture';
import { homography } from '../../src/lib/core/sheet/homography';
import type { Quadrilateral } from '../../src/lib/core/sheet/geometry';

/** Darkens the desk close to the sheet's edges, where paper lying flat keeps the light off. */
export function dropShadow(view: Picture, corners: Quadrilateral, reach: number): void {
	const data = view.data as Uint8Array;
	const inside = distanceInside(corners);
	eachPixelNear(view, corners, reach, (x, y, p) => {
		const d = -inside(x, y);
		if (d <= 0 || d > reach) return;
		const k = 1 - 0.32 * (1 - d / reach) ** 2;
		data[p] = data[p]! * k;
		data[p + 1] = data[p + 1]! * k;
		data[p + 2] = data[p + 2]! * k;
	});
}

export function eachPixelNear(
	view: Picture,
	corners: Quadrilateral,
	margin: number,
	visit: (x: number, y: number, p: number) => void
): void {
	const xs = corners.map((c) => c[0]);
	const ys = corners.map((c) => c[1]);
	const x0 = Math.max(0, Math.floor(Math.min(...xs) - margin));
	const x1 = Math.min(view.width - 1, Math.ceil(Math.max(...xs) + margin));
	const y0 = Math.max(0, Math.floor(Math.min(...ys) - margin));
	const y1 = Math.min(view.height - 1, Math.ceil(Math.max(...ys) + margin));
	for (let y = y0; y <= y1; y++) {
		for (let x = x0; x <= x1; x++) visit(x + 0.5, y + 0.5, (y * view.width + x) * 3);
	}
}

type Side4 = readonly [number, number, number, number];

/** Signed distance to the nearest side, in pixels; positive inside. */
export function distanceInside(corners: Quadrilateral): (x: number, y: number) => number {
	const sides = corners.map((a, i) => {
		const b = corners[(i + 1) % 4]!;
		const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
		return [-(b[1] - a[1]) / length, (b[0] - a[0]) / length, a[0], a[1]] as const;
	});
	const [a, b, c, d] = sides as [Side4, Side4, Side4, Side4];
	return (x, y) => {
		const along = (s: Side4) => (x - s[2]) * s[0] + (y - s[3]) * s[1];
		return Math.min(along(a), along(b), along(c), along(d));
	};
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
	const inside = distanceInside(corners);
	const { width: pw, height: ph, channels, data: source } = page;
	eachPixelNear(view, corners, 1, (x, y, p) => {
		const cover = Math.min(1, Math.max(0, inside(x, y) + 0.5));
		if (cover === 0) return;
		const w = h[6] * x + h[7] * y + 1;
		const sx = Math.min(Math.max((h[0] * x + h[1] * y + h[2]) / w - 0.5, 0), pw - 1.001);
		const sy = Math.min(Math.max((h[3] * x + h[4] * y + h[5]) / w - 0.5, 0), ph - 1.001);
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
	});
}
