import { blankPicture, type Picture } from '../../src/lib/core/raster/picture';
import { project, homography } from '../../src/lib/core/sheet/homography';
import {
	orderCorners,
	wholePicture,
	type Point,
	type Quadrilateral
} from '../../src/lib/core/sheet/geometry';
import { desk, type DeskKind } from './desk';
import { addNoise, blur, light } from './light';
import { dropShadow, paintSheet } from './paint';
import { paintClutter, paintFinger, paintPen, spoilCorner } from './props';
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
	/** A pen lying across one side. */
	readonly pen?: boolean;
	/** A corner folded over or torn off. */
	readonly corner?: 'dog-ear' | 'torn';
	/** Other things on the desk, close to the sheet and partly under it. */
	readonly clutter?: boolean;
	/** An open notebook: the page given is its left one, and this its right one, of the same size. */
	readonly opposite?: Picture;
}

export interface Photograph {
	readonly picture: Picture;
	/** Corners of the sheet in pixels, clockwise from the one nearest the top left. */
	readonly corners: Quadrilateral;
	/** Of an open notebook: the corners of its left and right page, in the same way. */
	readonly halves?: readonly [Quadrilateral, Quadrilateral];
	/** Clockwise degrees that bring the flattened sheet upright. */
	readonly turn: 0 | 90 | 180 | 270;
}

/** Photographs a flat page lying on a desk: a pinhole camera, lamp light, shadow, blur and noise. */
export function photograph(page: Picture, spec: PhotographSpec): Photograph {
	const random = new Random(spec.seed);
	const [width, height] = spec.size;
	const shape = spec.opposite ? { width: 2 * page.width, height: page.height } : page;
	const sheet = cornersOnDesk(shape, spec, random);
	const out = desk(spec.desk, width, height, spec.seed + 1) as Picture & { data: Uint8Array };
	const view = blankPicture(width, height);
	view.data.set(out.data);
	// Props that came later draw from numbers of their own, so that older pictures stay as they were.
	const props = new Random(spec.seed + 5003);

	if (spec.clutter) {
		paintClutter(view, props);
		out.data.set(view.data);
	}
	if (spec.underneath) {
		const shifted = nudge(sheet, random, 0.035 * Math.max(width, height));
		dropShadow(view, shifted, 0.012 * width);
		paintSheet(view, plainSheet(page), shifted);
		out.data.set(view.data);
	}
	dropShadow(view, sheet, 0.008 * width);
	let halves: [Quadrilateral, Quadrilateral] | null = null;
	if (spec.opposite) halves = paintNotebook(view, page, spec.opposite, sheet, props);
	else paintSheet(view, page, sheet);
	if (spec.corner) spoilCorner(view, out, sheet, spec.corner, props);
	if (spec.pen) paintPen(view, sheet, props);
	if (spec.finger) paintFinger(view, sheet, random);
	light(view, spec, random);
	if (spec.blur) blur(view, spec.blur);
	addNoise(view.data, spec.noise ?? 2, random);
	const corners = orderCorners(sheet);
	// The page's own top left corner is sheet[0]; count how many places the ordering moved it.
	const moved = corners.findIndex((c) => c === sheet[0]);
	return {
		picture: view,
		corners,
		halves: halves ? [orderCorners(halves[0]), orderCorners(halves[1])] : undefined,
		turn: (((4 - moved) % 4) * 90) as 0 | 90 | 180 | 270
	};
}

/**
 * Paints two pages that meet at a fold: it lies a little nearer or farther than the outer sides, and the pages
 * bend into it, so that it is dark, more on one side than on the other.
 */
function paintNotebook(
	view: Picture,
	left: Picture,
	right: Picture,
	sheet: Quadrilateral,
	random: Random
): [Quadrilateral, Quadrilateral] {
	// Where perspective puts the middle: the fold runs through the crossing of the diagonals.
	const toPicture = homography(wholePicture(1, 1), sheet);
	const lift = random.between(-0.012, 0.012);
	const top = project(toPicture, [0.5, -lift]);
	const bottom = project(toPicture, [0.5, 1 + lift]);
	const [a, b, c, d] = sheet;
	const halves: [Quadrilateral, Quadrilateral] = [
		[a, top, bottom, d],
		[top, b, c, bottom]
	];
	const width = random.between(0.015, 0.05);
	const depths = [random.between(0.08, 0.4), random.between(0.08, 0.4)];
	// The two pages lean to different sides, so the lamp lights them differently.
	const lean = random.between(-0.06, 0.06);
	[left, right].forEach((page, half) => {
		const shaded = { ...page, data: Uint8Array.from(page.data) };
		for (let y = 0, p = 0; y < page.height; y++) {
			for (let x = 0; x < page.width; x++, p += page.channels) {
				const away = (half === 0 ? page.width - 1 - x : x) / page.width;
				const k = (1 - depths[half]! * Math.exp(-away / width)) * (half === 0 ? 1 - lean : 1 + lean);
				for (let c = 0; c < 3; c++) shaded.data[p + c] = Math.min(255, page.data[p + c]! * k);
			}
		}
		paintSheet(view, shaded, halves[half]!);
	});
	return halves;
}

/** Corners of the page in the picture, beginning with the page's own top left one. */
function cornersOnDesk(
	page: Pick<Picture, 'width' | 'height'>,
	spec: PhotographSpec,
	random: Random
): Quadrilateral {
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
