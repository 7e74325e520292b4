import { blankPicture, type Picture } from '../../src/lib/core/raster/picture';
import { gaussianBlur } from '../../src/lib/core/raster/boxBlur';
import { homography } from '../../src/lib/core/sheet/homography';
import { orderCorners, type Point, type Quadrilateral } from '../../src/lib/core/sheet/geometry';
import { desk, type DeskKind } from './desk';
import { Random } from './random';

export interface PhotographSpec {
	readonly seed: number;
	/** Size of the photograph in pixels, upright. */
	readonly size: readonly [width: number, height: number];
	readonly desk: DeskKind;
	/** Clockwise quarter turns of the sheet as it lies in the picture: 0, 90, 180 or 270. */
	readonly lies?: 0 | 90 | 180 | 270;
	/** Height of the sheet as a fraction of the picture's. */
	readonly fill?: number;
	/** Small rotation, degrees. */
	readonly slant?: number;
	/** How far the camera is tilted from straight above, degrees. */
	readonly tilt?: number;
	/** Moves the sheet, as fractions of the picture. */
	readonly shift?: readonly [number, number];
	/** A shadow with an edge this hard (1 is a knife's edge), or none. */
	readonly shadow?: number;
	/** 0 to 1: how dim the picture is towards one side. */
	readonly falloff?: number;
	/** Warm lamp light, 0 to 1. */
	readonly warmth?: number;
	/** A lamp mirrored on the paper, 0 to 1. */
	readonly glare?: number;
	/** Standard deviation in pixels. */
	readonly blur?: number;
	readonly noise?: number;
	/** Another sheet under this one, sticking out. */
	readonly underneath?: boolean;
	/** A finger over the lower edge. */
	readonly finger?: boolean;
}

export interface Photograph {
	readonly picture: Picture;
	/** Corners of the sheet in pixels, clockwise from the one nearest the top left. */
	readonly corners: Quadrilateral;
	/** Clockwise degrees that bring the flattened sheet upright. */
	readonly turn: 0 | 90 | 180 | 270;
}

/** Photographs a flat page lying on a desk: a pinhole camera, lamp light, shadow, blur and noise. */
export function photograph(page: Picture, spec: PhotographSpec): Photograph {
	const random = new Random(spec.seed);
	const [width, height] = spec.size;
	const sheet = cornersOnDesk(page, spec, random);
	const out = desk(spec.desk, width, height, spec.seed + 1) as Picture & { data: Uint8Array };
	const view = blankPicture(width, height);
	view.data.set(out.data);

	if (spec.underneath) {
		const shifted = nudge(sheet, random, 0.035 * Math.max(width, height));
		dropShadow(view, shifted, 0.012 * width);
		paintSheet(view, plainSheet(page), shifted);
	}
	dropShadow(view, sheet, 0.008 * width);
	paintSheet(view, page, sheet);
	if (spec.finger) paintFinger(view, sheet, random);
	light(view, spec, random);
	if (spec.blur) blur(view, spec.blur);
	addNoise(view.data, spec.noise ?? 2, random);
	const corners = orderCorners(sheet);
	// The page's own top left corner is sheet[0]; count how many places the ordering moved it.
	const moved = corners.findIndex((c) => c === sheet[0]);
	return { picture: view, corners, turn: (((4 - moved) % 4) * 90) as 0 | 90 | 180 | 270 };
}

/** Corners of the page in the picture, beginning with the page's own top left one. */
function cornersOnDesk(page: Picture, spec: PhotographSpec, random: Random): Quadrilateral {
	const [width, height] = spec.size;
	const lies = spec.lies ?? 0;
	const sideways = lies === 90 || lies === 270;
	// As large as `fill` of the picture's height, and never wider than nearly all of its width.
	const seenRatio = sideways ? page.height / page.width : page.width / page.height;
	const seenHeight = Math.min((spec.fill ?? 0.86) * height, (0.92 * width) / seenRatio);
	const h = sideways ? seenHeight * seenRatio : seenHeight;
	const w = sideways ? seenHeight : seenHeight * seenRatio;
	const angle = ((lies + (spec.slant ?? 0)) * Math.PI) / 180;
	const tilt = ((spec.tilt ?? 0) * Math.PI) / 180;
	const towards = random.between(0, 2 * Math.PI);
	const focal = 1.1 * Math.max(width, height);
	const [sx, sy] = spec.shift ?? [0, 0];
	const flat: Point[] = [
		[-w / 2, -h / 2],
		[w / 2, -h / 2],
		[w / 2, h / 2],
		[-w / 2, h / 2]
	];
	return flat.map(([x, y]): Point => {
		const rx = x * Math.cos(angle) - y * Math.sin(angle);
		const ry = x * Math.sin(angle) + y * Math.cos(angle);
		// Tilt about an axis in the plane: depth grows along the direction `towards`.
		const along = rx * Math.cos(towards) + ry * Math.sin(towards);
		const across = -rx * Math.sin(towards) + ry * Math.cos(towards);
		const a = along * Math.cos(tilt);
		const z = focal + along * Math.sin(tilt);
		const px = (focal * (a * Math.cos(towards) - across * Math.sin(towards))) / z;
		const py = (focal * (a * Math.sin(towards) + across * Math.cos(towards))) / z;
		return [px + width * (0.5 + sx), py + height * (0.5 + sy)];
	}) as unknown as Quadrilateral;
}

function nudge(corners: Quadrilateral, random: Random, by: number): Quadrilateral {
	const dx = random.between(-by, by);
	const dy = random.between(-by, by);
	const turn = random.between(-0.05, 0.05);
	const cx = corners.reduce((s, c) => s + c[0], 0) / 4;
	const cy = corners.reduce((s, c) => s + c[1], 0) / 4;
	return corners.map(([x, y]): Point => [
		cx + (x - cx) * Math.cos(turn) - (y - cy) * Math.sin(turn) + dx,
		cy + (x - cx) * Math.sin(turn) + (y - cy) * Math.cos(turn) + dy
	]) as unknown as Quadrilateral;
}

function plainSheet(page: Picture): Picture {
	return blankPicture(page.width >> 2, page.height >> 2, [242, 240, 234]);
}

/** Darkens the desk close to the sheet's edges, where paper lying flat keeps the light off. */
function dropShadow(view: Picture, corners: Quadrilateral, reach: number): void {
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

function eachPixelNear(
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
function distanceInside(corners: Quadrilateral): (x: number, y: number) => number {
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

function paintSheet(view: Picture, page: Picture, corners: Quadrilateral): void {
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

function paintFinger(view: Picture, corners: Quadrilateral, random: Random): void {
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

/** Multiplies in the lamp: fall-off, warmth, a cast shadow, and adds a mirrored lamp. */
function light(view: Picture, spec: PhotographSpec, random: Random): void {
	const data = view.data as Uint8Array;
	const { width, height } = view;
	const direction = random.between(0, 2 * Math.PI);
	const dx = Math.cos(direction);
	const dy = Math.sin(direction);
	const falloff = spec.falloff ?? 0.15;
	const warmth = spec.warmth ?? 0.25;
	const gains = [1, 1 - 0.1 * warmth, 1 - 0.32 * warmth];
	const edgeAt = random.between(-0.1, 0.25);
	const bend = random.between(0.04, 0.1);
	const phase = random.between(0, 6);
	const softness = spec.shadow === undefined ? 1 : 0.1 * (1 - spec.shadow) + 0.002;
	const gx = random.between(0.35, 0.65);
	const gy = random.between(0.3, 0.7);
	for (let y = 0, p = 0; y < height; y++) {
		for (let x = 0; x < width; x++, p += 3) {
			const u = x / width - 0.5;
			const v = y / height - 0.5;
			let k = 1 - falloff * (0.5 + u * dx + v * dy);
			if (spec.shadow !== undefined) {
				const along = u * dx + v * dy;
				const across = -u * dy + v * dx;
				const d = along - edgeAt - bend * Math.sin(phase + 7 * across);
				const s = Math.min(1, Math.max(0, d / softness + 0.5));
				k *= 1 - 0.48 * s * s * (3 - 2 * s);
			}
			const shine = spec.glare
				? 190 * spec.glare * Math.exp(-(((u + 0.5 - gx) / 0.09) ** 2 + ((v + 0.5 - gy) / 0.06) ** 2))
				: 0;
			for (let c = 0; c < 3; c++) data[p + c] = Math.min(255, data[p + c]! * k * gains[c]! + shine);
		}
	}
}

/** Sensor noise from a table, entered anew at random every so often: a call a sample is too slow. */
function addNoise(data: Uint8Array, deviation: number, random: Random): void {
	const table = Float32Array.from({ length: 8192 }, () => random.normal() * deviation);
	let at = 0;
	for (let i = 0; i < data.length; i++) {
		if (i % 997 === 0) at = random.whole(0, 8191);
		const value = data[i]! + table[(at + i) & 8191]!;
		data[i] = value < 0 ? 0 : value > 255 ? 255 : value;
	}
}

function blur(view: Picture, sigma: number): void {
	const data = view.data as Uint8Array;
	const plane = new Float32Array(view.width * view.height);
	for (let k = 0; k < 3; k++) {
		for (let i = 0; i < plane.length; i++) plane[i] = data[i * 3 + k]!;
		const soft = gaussianBlur({ width: view.width, height: view.height, data: plane }, sigma).data;
		for (let i = 0; i < plane.length; i++) data[i * 3 + k] = soft[i]!;
	}
}
