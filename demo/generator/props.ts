import type { Picture } from '../../src/lib/core/raster/picture';
import type { Point, Quadrilateral } from '../../src/lib/core/sheet/geometry';
import { distanceInside, dropShadow, eachPixelNear } from './paint';
import type { Random } from './random';

// What lies on, over and beside a sheet.

/** A finger over the lower edge. */
export function paintFinger(view: Picture, corners: Quadrilateral, random: Random): void {
	const data = view.data as Uint8Array;
	const lowest = [...corners].sort((a, b) => b[1] - a[1]).slice(0, 2);
	const t = random.between(0.25, 0.75);
	const x0 = lowest[0]![0] * t + lowest[1]![0] * (1 - t);
	const y0 = lowest[0]![1] * t + lowest[1]![1] * (1 - t);
	const radius = 0.03 * view.width;
	const length = 0.06 * view.height;
	for (let y = Math.max(0, Math.floor(y0 - length)); y < view.height; y++) {
		for (let x = Math.max(0, Math.floor(x0 - radius)); x < Math.min(view.width, x0 + radius); x++) {
			const dx = (x - x0) / radius;
			const dy = Math.min(0, (y - (y0 - length + radius)) / radius);
			if (dx * dx + dy * dy > 1) continue;
			const k = 1 - 0.35 * dx * dx;
			const p = (y * view.width + x) * 3;
			data[p] = 214 * k;
			data[p + 1] = 164 * k;
			data[p + 2] = 138 * k;
		}
	}
}

/** A pen lying across one side of the sheet, well inside its length. */
export function paintPen(view: Picture, corners: Quadrilateral, random: Random): void {
	const side = random.whole(0, 3);
	const a = corners[side]!;
	const b = corners[(side + 1) % 4]!;
	const t = random.between(0.25, 0.75);
	const length = 0.22 * view.height;
	const along = Math.atan2(b[1] - a[1], b[0] - a[0]) + random.between(0.7, 2.4);
	const [dx, dy] = [Math.cos(along), Math.sin(along)];
	const middle: Point = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
	const radius = 0.0085 * view.width;
	const colour = random.pick([
		[30, 32, 40],
		[34, 60, 140],
		[150, 40, 34],
		[200, 200, 205]
	] as const);
	const box: Quadrilateral = [
		[middle[0] - length, middle[1] - length],
		[middle[0] + length, middle[1] - length],
		[middle[0] + length, middle[1] + length],
		[middle[0] - length, middle[1] + length]
	];
	const data = view.data as Uint8Array;
	eachPixelNear(view, box, 0, (x, y, p) => {
		const u = (x - middle[0]) * dx + (y - middle[1]) * dy;
		const v = (y - middle[1]) * dx - (x - middle[0]) * dy;
		if (Math.abs(u) > length / 2) return;
		if (Math.abs(v) < radius) {
			const shine = 1 + 0.5 * Math.exp(-(((v / radius + 0.35) * 5) ** 2));
			for (let k = 0; k < 3; k++) data[p + k] = Math.min(255, colour[k]! * shine);
		} else if (v > 0 && v < 2.4 * radius) {
			// Its shadow on the paper.
			for (let k = 0; k < 3; k++) data[p + k] = data[p + k]! * (0.7 + 0.3 * ((v / radius - 1) / 1.4));
		}
	});
}

/** Takes a corner off: folded over, so that the sheet's back shows, or torn away. */
export function spoilCorner(
	view: Picture,
	desk: Picture,
	corners: Quadrilateral,
	how: 'dog-ear' | 'torn',
	random: Random
): void {
	const i = random.whole(0, 3);
	const corner = corners[i]!;
	const before = corners[(i + 3) % 4]!;
	const after = corners[(i + 1) % 4]!;
	const towards = (to: Point, by: number): Point => [
		corner[0] + by * (to[0] - corner[0]),
		corner[1] + by * (to[1] - corner[1])
	];
	const a = towards(before, random.between(0.05, 0.12));
	const b = towards(after, random.between(0.05, 0.12));
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
	const nx = -(b[1] - a[1]) / length;
	const ny = (b[0] - a[0]) / length;
	// Positive on the side of the corner that goes.
	const sign = Math.sign((corner[0] - a[0]) * nx + (corner[1] - a[1]) * ny);
	const depth = (x: number, y: number) => sign * ((x - a[0]) * nx + (y - a[1]) * ny);
	const reach = depth(corner[0], corner[1]);
	const wave = how === 'torn' ? 0.12 * reach : 0;
	const phase = random.between(0, 6);
	const data = view.data as Uint8Array;
	const inside = distanceInside(corners);
	const box: Quadrilateral = [corner, a, b, corner];
	eachPixelNear(view, box, reach * 1.5, (x, y, p) => {
		const along = ((x - a[0]) * (b[0] - a[0]) + (y - a[1]) * (b[1] - a[1])) / length;
		const d = depth(x, y) + wave * (Math.sin(phase + along * 0.09) + 0.5 * Math.sin(along * 0.31));
		if (d > 0 && inside(x, y) > -2) {
			for (let k = 0; k < 3; k++) data[p + k] = desk.data[p + k]!;
		} else if (how === 'dog-ear' && d <= 0 && d > -reach && along > 0 && along < length) {
			// Mirrored over the fold, the corner lies on the sheet, its back towards us.
			const mx = x - 2 * d * sign * nx;
			const my = y - 2 * d * sign * ny;
			const within = inside(mx, my);
			if (within > 0) {
				const shade = 0.9 - 0.12 * Math.exp((d / reach) * 9);
				for (let k = 0; k < 3; k++) data[p + k] = [246, 244, 238][k]! * shade;
			} else if (within > -0.12 * reach) for (let k = 0; k < 3; k++) data[p + k] = data[p + k]! * 0.8;
		}
	});
}

/** Books, a ruler, a cup and scraps of paper around the sheet, and partly where it will lie. */
export function paintClutter(view: Picture, random: Random): void {
	const data = view.data as Uint8Array;
	const { width, height } = view;
	const things = random.whole(4, 7);
	for (let i = 0; i < things; i++) {
		// Around the middle, where the sheet is.
		const angle = random.between(0, 2 * Math.PI);
		const far = random.between(0.36, 0.62);
		const cx = width / 2 + far * width * Math.cos(angle);
		const cy = height / 2 + far * height * Math.sin(angle);
		const colour = random.pick([
			[120, 40, 44],
			[36, 72, 96],
			[60, 92, 52],
			[225, 222, 214],
			[40, 38, 42],
			[206, 178, 92]
		] as const);
		if (random.chance(0.25)) {
			const radius = random.between(0.07, 0.12) * width;
			const round = squareAround(cx, cy, radius, radius, 0);
			eachPixelNear(view, round, 0, (x, y, p) => {
				const d = Math.hypot(x - cx, y - cy) / radius;
				if (d > 1) return;
				const rim = d > 0.86 ? 1 : 0.55;
				for (let k = 0; k < 3; k++) data[p + k] = colour[k]! * rim;
			});
			continue;
		}
		const w = random.between(0.05, 0.22) * width;
		const h = random.between(0.08, 0.25) * height;
		const thing = squareAround(cx, cy, w, h, random.between(-0.6, 0.6));
		dropShadow(view, thing, 0.012 * width);
		const inside = distanceInside(thing);
		const lines = random.chance(0.5);
		eachPixelNear(view, thing, 0, (x, y, p) => {
			const d = inside(x, y);
			if (d < 0) return;
			const print = lines && d > 0.02 * width && Math.floor(y / (0.006 * height)) % 3 === 0 ? 0.72 : 1;
			for (let k = 0; k < 3; k++) data[p + k] = colour[k]! * print;
		});
	}
}

function squareAround(cx: number, cy: number, w: number, h: number, angle: number): Quadrilateral {
	const [c, s] = [Math.cos(angle), Math.sin(angle)];
	const at = (x: number, y: number): Point => [cx + x * c - y * s, cy + x * s + y * c];
	return [at(-w, -h), at(w, -h), at(w, h), at(-w, h)];
}
