/** A point in pixels; pixel `(0, 0)` covers the square from `(0, 0)` to `(1, 1)`. */
export type Point = readonly [x: number, y: number];

/** Four corners, clockwise on the screen, starting from the one nearest the picture's top left. */
export type Quadrilateral = readonly [Point, Point, Point, Point];

export function distance(a: Point, b: Point): number {
	return Math.hypot(a[0] - b[0], a[1] - b[1]);
}

/** Signed area of a polygon; positive when it runs clockwise on the screen (y pointing down). */
export function signedArea(polygon: readonly Point[]): number {
	let twice = 0;
	for (let i = 0; i < polygon.length; i++) {
		const a = polygon[i]!;
		const b = polygon[(i + 1) % polygon.length]!;
		twice += a[0] * b[1] - b[0] * a[1];
	}
	return twice / 2;
}

/** True when all four corners turn the same way, so that the outline has no dent and no crossing. */
export function isConvex(corners: readonly Point[]): boolean {
	let sign = 0;
	for (let i = 0; i < corners.length; i++) {
		const a = corners[i]!;
		const b = corners[(i + 1) % corners.length]!;
		const c = corners[(i + 2) % corners.length]!;
		const cross = (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);
		if (cross === 0) return false;
		if (sign === 0) sign = Math.sign(cross);
		else if (Math.sign(cross) !== sign) return false;
	}
	return true;
}

/** Puts four corners into clockwise order, starting from the one nearest the top left. */
export function orderCorners(corners: readonly Point[]): Quadrilateral {
	const [cx, cy] = [0, 1].map((k) => corners.reduce((s, c) => s + c[k as 0 | 1], 0) / 4);
	const clockwise = [...corners].sort(
		(a, b) => Math.atan2(a[1] - cy!, a[0] - cx!) - Math.atan2(b[1] - cy!, b[0] - cx!)
	);
	let first = 0;
	for (let i = 1; i < 4; i++) {
		if (Math.hypot(...clockwise[i]!) < Math.hypot(...clockwise[first]!)) first = i;
	}
	return [0, 1, 2, 3].map((i) => clockwise[(first + i) % 4]!) as unknown as Quadrilateral;
}

/** The outline that takes in the whole picture. */
export function wholePicture(width: number, height: number): Quadrilateral {
	return [
		[0, 0],
		[width, 0],
		[width, height],
		[0, height]
	];
}

/** The part of a polygon inside a convex clockwise one (Sutherland and Hodgman 1974). */
export function clipPolygon(subject: readonly Point[], clip: readonly Point[]): Point[] {
	let output = [...subject];
	for (let i = 0; i < clip.length && output.length > 0; i++) {
		const a = clip[i]!;
		const b = clip[(i + 1) % clip.length]!;
		const side = (p: Point) => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
		const input = output;
		output = [];
		for (let j = 0; j < input.length; j++) {
			const p = input[j]!;
			const q = input[(j + 1) % input.length]!;
			const sp = side(p);
			const sq = side(q);
			if (sp >= 0) output.push(p);
			if (sp >= 0 !== sq >= 0) {
				const t = sp / (sp - sq);
				output.push([p[0] + t * (q[0] - p[0]), p[1] + t * (q[1] - p[1])]);
			}
		}
	}
	return output;
}

/** Intersection over union of two convex clockwise polygons, 0 to 1. */
export function overlap(a: readonly Point[], b: readonly Point[]): number {
	const shared = Math.abs(signedArea(clipPolygon(a, b)));
	const union = Math.abs(signedArea(a)) + Math.abs(signedArea(b)) - shared;
	return union > 0 ? shared / union : 0;
}
