import type { Picture } from '../../src/lib/core/raster/picture';
import type { Point } from '../../src/lib/core/sheet/geometry';
import { desk, type DeskKind } from './desk';
import { addNoise, blur, light } from './light';
import { Random } from './random';

/** How a sheet is bent: into a book's fold, up at its ends, in a wave, or not at all. */
export const CURLS = ['fold', 'ends up', 'wave', 'flat'] as const;
export type Curl = (typeof CURLS)[number];

export interface CurledSpec {
	readonly seed: number;
	readonly curl: Curl;
	/** How strongly, 0 to 1. */
	readonly strength: number;
	/** All of the sheet with the desk around it, or so near that the page fills the picture. */
	readonly framing: 'on a desk' | 'near';
	readonly desk: DeskKind;
	readonly size: readonly [width: number, height: number];
}

export interface CurledPhotograph {
	readonly picture: Picture;
	/** Where a place on the page, in fractions of its width and height, lies in the picture. */
	readonly seenAt: (place: Point) => Point;
}

/** Millimetres of the sheet. */
const [WIDE, HIGH] = [210, 297];
/** Cells of the mesh that the sheet is drawn by. */
const [ACROSS, DOWN] = [60, 40];

/**
 * Photographs a bent sheet of A4: its places are set on a surface in space, whose length along the bend is kept, and each
 * cell of a mesh is seen through a pinhole and lit by how it faces the lamp. The bend may run a few degrees aslant.
 */
export function photographCurled(page: Picture, spec: CurledSpec): CurledPhotograph {
	const random = new Random(spec.seed);
	const [width, height] = spec.size;
	const surface = surfaceOf(spec, random);
	const seen = camera(spec, random);
	const view = desk(spec.desk, width, height, spec.seed + 1) as Picture & { data: Uint8Array };
	const seenAt = ([x, y]: Point): Point => seen(surface((x - 0.5) * WIDE, (y - 0.5) * HIGH));
	const lampFrom = random.between(-0.5, 0.5);
	for (let row = 0; row < DOWN; row++) {
		for (let column = 0; column < ACROSS; column++) {
			const places = [
				[column, row],
				[column + 1, row],
				[column + 1, row + 1],
				[column, row + 1]
			].map(([c, r]): Point => [c! / ACROSS, r! / DOWN]);
			const [a, b] = [places[0]!, places[1]!].map(([x, y]) => surface((x - 0.5) * WIDE, (y - 0.5) * HIGH));
			const steep = (b![2] - a![2]) / Math.hypot(b![0] - a![0], b![1] - a![1]);
			const shade = Math.max(0.35, (1 - lampFrom * steep) / Math.sqrt(1 + steep * steep));
			const corners = places.map(seenAt);
			triangle(
				view,
				page,
				[places[0]!, places[1]!, places[2]!],
				[corners[0]!, corners[1]!, corners[2]!],
				shade
			);
			triangle(
				view,
				page,
				[places[0]!, places[2]!, places[3]!],
				[corners[0]!, corners[2]!, corners[3]!],
				shade
			);
		}
	}
	light(view, { ...spec, falloff: random.between(0.05, 0.35), warmth: random.between(0, 0.8) }, random);
	blur(view, random.between(0.4, 1));
	addNoise(view.data, random.between(1, 3.5), random);
	return { picture: view, seenAt };
}

type Place = readonly [x: number, y: number, z: number];

/** Where a place on the flat page, in millimetres from its middle, lies in space; z towards the camera. */
function surfaceOf({ curl, strength }: CurledSpec, random: Random): (x: number, y: number) => Place {
	const aslant = (random.between(-4, 4) * Math.PI) / 180;
	const side = random.chance(0.5) ? 1 : -1;
	const height = strength * random.between(0.7, 1.3);
	const [phase, waves] = [random.between(0, 6), random.between(0.7, 1.3)];
	const rise = (u: number): number => {
		// From 0 at the outer side to 1 at the fold.
		const towards = 0.5 + (side * u) / WIDE;
		if (curl === 'fold') return 38 * height * (0.5 * Math.sin(Math.PI * towards) - towards ** 5);
		if (curl === 'ends up') return 26 * height * (0.6 * (2 * towards - 1) ** 2 + 0.8 * towards ** 3);
		if (curl === 'wave') return 9 * height * Math.sin((2 * Math.PI * waves * u) / WIDE + phase);
		return 0;
	};
	// Length along the bend is kept: how far along the ground so many millimetres of paper reach.
	const STEP = 0.5;
	const ends = WIDE;
	const ground = [0];
	const back = [0];
	for (const [list, way] of [
		[ground, 1],
		[back, -1]
	] as const) {
		let at = 0;
		while (list.length * STEP < ends) {
			const slope = (rise(at + way * 0.1) - rise(at - way * 0.1)) / 0.2;
			at += (way * STEP) / Math.sqrt(1 + slope * slope);
			list.push(at);
		}
	}
	const reach = (u: number) => {
		const list = u >= 0 ? ground : back;
		const i = Math.min(list.length - 2, Math.floor(Math.abs(u) / STEP));
		const rest = Math.abs(u) / STEP - i;
		return list[i]! + (list[i + 1]! - list[i]!) * rest;
	};
	const [c, s] = [Math.cos(aslant), Math.sin(aslant)];
	return (x, y) => {
		const [u, v] = [x * c + y * s, -x * s + y * c];
		const along = reach(u);
		return [along * c - v * s, along * s + v * c, rise(along)];
	};
}

/** A pinhole camera over the sheet, tilted, turned and aimed a little beside its middle. */
function camera({ size: [width, height], framing }: CurledSpec, random: Random): (place: Place) => Point {
	const focal = 1.1 * Math.max(width, height);
	const near = framing === 'near';
	const fill = near ? random.between(1, 1.06) : random.between(0.8, 0.9);
	const distance = Math.min((focal * HIGH) / (fill * height), (focal * WIDE) / (fill * width));
	const tilt = (random.between(near ? 0 : 2, near ? 6 : 14) * Math.PI) / 180;
	const towards = random.between(0, 2 * Math.PI);
	const slant = (random.between(near ? -2 : -5, near ? 2 : 5) * Math.PI) / 180;
	const aim = [random.between(-6, 6), random.between(-8, 8)] as const;
	const [ct, st, ca, sa] = [Math.cos(towards), Math.sin(towards), Math.cos(slant), Math.sin(slant)];
	return ([x, y, z]) => {
		const [rx, ry] = [(x - aim[0]) * ca - (y - aim[1]) * sa, (x - aim[0]) * sa + (y - aim[1]) * ca];
		const along = rx * ct + ry * st;
		const across = -rx * st + ry * ct;
		const tilted = along * Math.cos(tilt) - z * Math.sin(tilt);
		const depth = distance + along * Math.sin(tilt) - z * Math.cos(tilt);
		const k = focal / depth;
		return [width / 2 + k * (tilted * ct - across * st), height / 2 + k * (tilted * st + across * ct)];
	};
}

/** Lays a triangle of the page, given in fractions of it, over one of the picture. */
function triangle(
	view: Picture & { data: Uint8Array },
	page: Picture,
	from: readonly [Point, Point, Point],
	to: readonly [Point, Point, Point],
	shade: number
): void {
	const [[x0, y0], [x1, y1], [x2, y2]] = to;
	const area = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0);
	if (Math.abs(area) < 1e-6) return;
	const range = (values: readonly number[], end: number) =>
		[
			Math.max(0, Math.floor(Math.min(...values))),
			Math.min(end, Math.ceil(Math.max(...values)) + 1)
		] as const;
	const [left, right] = range([x0, x1, x2], view.width);
	const [top, bottom] = range([y0, y1, y2], view.height);
	for (let row = top; row < bottom; row++) {
		for (let column = left; column < right; column++) {
			const [x, y] = [column + 0.5, row + 0.5];
			const b = ((x - x0) * (y2 - y0) - (x2 - x0) * (y - y0)) / area;
			const c = ((x1 - x0) * (y - y0) - (x - x0) * (y1 - y0)) / area;
			// A hair more, so that no gap stays between cells.
			if (b < -0.01 || c < -0.01 || b + c > 1.01) continue;
			const u = from[0][0] + b * (from[1][0] - from[0][0]) + c * (from[2][0] - from[0][0]);
			const v = from[0][1] + b * (from[1][1] - from[0][1]) + c * (from[2][1] - from[0][1]);
			sample(
				page,
				u * page.width - 0.5,
				v * page.height - 0.5,
				shade,
				view.data,
				(row * view.width + column) * 3
			);
		}
	}
}

function sample(page: Picture, x: number, y: number, shade: number, out: Uint8Array, to: number): void {
	const sx = Math.min(Math.max(x, 0), page.width - 1.001);
	const sy = Math.min(Math.max(y, 0), page.height - 1.001);
	const [x0, y0] = [sx | 0, sy | 0];
	const [fx, fy] = [sx - x0, sy - y0];
	const p = (y0 * page.width + x0) * page.channels;
	const q = p + page.width * page.channels;
	for (let k = 0; k < 3; k++) {
		const upper = page.data[p + k]! * (1 - fx) + page.data[p + page.channels + k]! * fx;
		const lower = page.data[q + k]! * (1 - fx) + page.data[q + page.channels + k]! * fx;
		out[to + k] = Math.min(255, (upper * (1 - fy) + lower * fy) * shade);
	}
}
