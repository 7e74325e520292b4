import { withKernels, type Kernels } from '../kernels/kernels';
import { boxBlur } from '../raster/boxBlur';
import { closing, dilate, erode } from '../raster/greyMorphology';
import { resizeFloat } from '../raster/floatPlane';
import { percentile } from '../raster/percentile';
import type { FloatPlane, Picture } from '../raster/picture';
import { filledFromAround } from './filledFromAround';

/** The light on the bare paper, at low resolution: what a blank sheet would show, 0 to 255. */
export interface Illumination {
	readonly red: FloatPlane;
	readonly green: FloatPlane;
	readonly blue: FloatPlane;
}

/** Blocks along the longer side: about 2 mm of an A4 page. */
const BLOCKS = 144;
/** Dark patches up to this many blocks on both sides are ink, larger ones shadow. */
const INK_RADIUS = 3;
/** Light that differs by this factor between neighbouring blocks is the edge of a hard shadow. */
const HARD_EDGE = 1.13;
/** There, blocks are this many times smaller, and so is the largest patch that counts as ink. */
const FINER = 3;
const FINE_INK_RADIUS = 3;
/** A block with less than this share of the light around it is filled: shadows let more through. */
const SOLID = 0.3;
/** Paper is looked for this far around it, in blocks. */
const SOLID_REACH = 18;
/** How far around an edge its light is taken finely, in blocks: the coarse light is smoothed over one on both sides. */
const AROUND = 2;
/** The paper of a block is as bright as its pixels between these two parts of them. */
const DARKEST_PAPER = 0.6;
const BRIGHTEST_PAPER = 0.97;

/**
 * Estimates the lighting of a flattened page. In each block the paper is the brighter part of the
 * pixels; blocks filled with ink are bridged by a closing; the result is smoothed just enough to
 * hide the blocks. Along the edges of hard shadows that would leave a band, so there the light is
 * taken again in smaller blocks.
 */
export function estimateIllumination(page: Picture): Illumination {
	const coarse = lightInBlocks(page, Math.max(page.width, page.height) / BLOCKS, INK_RADIUS);
	const light = planes(coarse, (plane) => boxBlur(plane, 1));
	const edge = hardEdges(coarse.green);
	if (!edge) return light;
	const block = Math.max(page.width, page.height) / (FINER * BLOCKS);
	if (block < 4) return light;
	const reach = Math.ceil((2 * FINE_INK_RADIUS + 1) / FINER) + 1;
	// What is too small to fill a large block is closed over in the small ones. Fine light is needed as far around as closing and blurring reach.
	const fine = planes(
		lightInBlocks(page, block, FINE_INK_RADIUS, dilate(edge, reach), coarse.hasSolid),
		(plane) => boxBlur(plane, 1)
	);
	const { width, height } = fine.green;
	const share = resizeFloat(edge, width, height);
	return {
		red: mixed(light.red, fine.red, share),
		green: mixed(light.green, fine.green, share),
		blue: mixed(light.blue, fine.blue, share)
	};
}

function planes({ red, green, blue }: Illumination, change: (plane: FloatPlane) => FloatPlane): Illumination {
	return { red: change(red), green: change(green), blue: change(blue) };
}

/** Where the light changes at once, and around there: 0 to 1, smooth; null when it does so nowhere. */
function hardEdges({ width, height, data }: FloatPlane): FloatPlane | null {
	const marks = new Float32Array(data.length);
	let found = false;
	for (let y = 1; y < height; y++) {
		for (let x = 1; x < width; x++) {
			const here = data[y * width + x]!;
			for (const other of [data[y * width + x - 1]!, data[(y - 1) * width + x]!]) {
				if (Math.max(here, other) < HARD_EDGE * Math.max(1, Math.min(here, other))) continue;
				found = true;
				for (let v = Math.max(0, y - AROUND); v <= Math.min(height - 1, y + AROUND); v++) {
					marks.fill(1, v * width + Math.max(0, x - AROUND), v * width + Math.min(width, x + AROUND + 1));
				}
			}
		}
	}
	if (!found) return null;
	const smooth = boxBlur({ width, height, data: marks }, 1);
	// Running sums leave traces where there is nothing.
	for (let i = 0; i < smooth.data.length; i++) if (smooth.data[i]! < 0.01) smooth.data[i] = 0;
	return smooth;
}

/** The fine plane where `share` is 1, the coarse one where it is 0, both at the fine size. */
function mixed(coarse: FloatPlane, fine: FloatPlane, share: FloatPlane): FloatPlane {
	const { width, height } = fine;
	const data = resizeFloat(coarse, width, height).data;
	for (let i = 0; i < data.length; i++) {
		const part = share.data[i]!;
		if (part > 0) data[i] = part * fine.data[i]! + (1 - part) * data[i]!;
	}
	return { width, height, data };
}

/**
 * @param where light is wanted, at any size: only blocks on which it is over 0 are measured, the others are 0
 * @param mayBeSolid whether filled shapes are looked for
 */
function lightInBlocks(
	page: Picture,
	side: number,
	inkRadius: number,
	where?: FloatPlane,
	mayBeSolid = true
): Illumination & { readonly hasSolid: boolean } {
	const { width, height } = page;
	const block = Math.max(4, Math.round(side));
	const columns = Math.ceil(width / block);
	const rows = Math.ceil(height / block);
	// Some 36 samples of each block tell its paper as well as all of them.
	const wanted = new Uint8Array(columns * rows).fill(1);
	if (where) {
		for (let i = 0; i < wanted.length; i++) {
			const x = Math.floor(((i % columns) * where.width) / columns);
			const y = Math.floor((Math.floor(i / columns) * where.height) / rows);
			wanted[i] = where.data[y * where.width + x]! > 0 ? 1 : 0;
		}
	}
	const grid = { block, step: Math.max(1, Math.floor(block / 6)), columns, rows, wanted };
	const sums = withKernels(
		(kernels) => paperFast(kernels, page, grid),
		() => paperPlain(page, grid)
	);
	const planes = [0, 1, 2].map((c) => ({
		width: columns,
		height: rows,
		data: sums.slice(c * columns * rows, (c + 1) * columns * rows)
	}));
	const reach = Math.round((SOLID_REACH * Math.max(columns, rows)) / BLOCKS);
	const clear = mayBeSolid ? withoutSolid(planes, wanted, reach) : planes;
	const [red, green, blue] = clear.map((plane) => closingInside(plane, inkRadius));
	return { red: red!, green: green!, blue: blue!, hasSolid: clear !== planes };
}

/**
 * The light with what is filled solid taken out of it: a bar of a chart is darker than any shadow would be beside the
 * paper around it. There the light is taken from around.
 *
 * @param planes red, green and blue
 * @param reach how far around the paper is looked for, in blocks
 */
function withoutSolid(
	planes: readonly FloatPlane[],
	wanted: Uint8Array,
	reach: number
): readonly FloatPlane[] {
	const green = planes[1]!;
	const { width, height, data } = green;
	const paper = dilate(green, reach).data;
	const known = new Float32Array(data.length);
	let solid = 0;
	for (let i = 0; i < data.length; i++) {
		if (!wanted[i]) continue;
		const isSolid = data[i]! < SOLID * paper[i]!;
		known[i] = isSolid ? 0 : 1;
		solid += Number(isSolid);
	}
	if (solid === 0) return planes;
	// Blocks at its rim are partly filled.
	const clear = erode({ width, height, data: known }, 1).data;
	const share = clear.map((v, i) => (known[i]! > 0 ? v : 0));
	return planes.map((plane) => filledFromAround(plane, share, wanted));
}

/**
 * Closing that leaves what touches the rim: the page ends there, and a narrow dark stretch along its rim is the part of
 * a shadow that falls on it, not ink. The rim goes on outside, farther than the closing reaches.
 */
function closingInside({ width, height, data }: FloatPlane, radius: number): FloatPlane {
	const margin = 2 * radius;
	const wide = { width: width + 2 * margin, height: height + 2 * margin };
	const padded = new Float32Array(wide.width * wide.height);
	for (let y = 0; y < wide.height; y++) {
		const row = Math.min(Math.max(y - margin, 0), height - 1) * width;
		const to = y * wide.width;
		padded.fill(data[row]!, to, to + margin);
		padded.set(data.subarray(row, row + width), to + margin);
		padded.fill(data[row + width - 1]!, to + margin + width, to + wide.width);
	}
	const closed = closing({ ...wide, data: padded }, radius).data;
	const out = new Float32Array(width * height);
	for (let y = 0; y < height; y++) {
		const from = (y + margin) * wide.width + margin;
		out.set(closed.subarray(from, from + width), y * width);
	}
	return { width, height, data: out };
}

interface Grid {
	/** Side of a block, and how far apart its samples are, in pixels. */
	readonly block: number;
	readonly step: number;
	readonly columns: number;
	readonly rows: number;
	/** 1 for the blocks that are measured. */
	readonly wanted: Uint8Array;
}

function paperFast(
	kernels: Kernels,
	{ width, height, channels, data }: Picture,
	{ block, step, columns, rows, wanted }: Grid
): Float32Array {
	const source = kernels.put(data);
	const which = kernels.put(wanted);
	const out = kernels.cleared(3 * columns * rows * 4);
	const histogram = kernels.room(80);
	kernels.run.lightInBlocks(
		source,
		width,
		height,
		channels,
		block,
		step,
		columns,
		rows,
		which,
		DARKEST_PAPER,
		BRIGHTEST_PAPER,
		out,
		histogram
	);
	return kernels.floats(out, 3 * columns * rows);
}

/** The paper of each block; red, green and blue one after the other. */
function paperPlain(
	{ width, height, channels, data }: Picture,
	{ block, step, columns, rows, wanted }: Grid
): Float32Array {
	const plane = columns * rows;
	const sums = new Float32Array(3 * plane);
	// Four grey levels a bin: the histogram is read twice for each of some 15,000 blocks.
	const histogram = new Uint32Array(64);
	for (let by = 0; by < rows; by++) {
		for (let bx = 0; bx < columns; bx++) {
			if (!wanted[by * columns + bx]) continue;
			const x0 = bx * block;
			const y0 = by * block;
			const x1 = Math.min(x0 + block, width);
			const y1 = Math.min(y0 + block, height);
			histogram.fill(0);
			for (let y = y0; y < y1; y += step) {
				for (let x = x0; x < x1; x += step) histogram[data[(y * width + x) * channels + 1]! >> 2]!++;
			}
			const low = percentile(histogram, DARKEST_PAPER) * 4;
			const high = percentile(histogram, BRIGHTEST_PAPER) * 4 + 3;
			let r = 0;
			let g = 0;
			let b = 0;
			let count = 0;
			for (let y = y0; y < y1; y += step) {
				for (let x = x0; x < x1; x += step) {
					const p = (y * width + x) * channels;
					if (data[p + 1]! < low || data[p + 1]! > high) continue;
					r += data[p]!;
					g += data[p + 1]!;
					b += data[p + 2]!;
					count++;
				}
			}
			const at = by * columns + bx;
			sums[at] = r / Math.max(1, count);
			sums[plane + at] = g / Math.max(1, count);
			sums[2 * plane + at] = b / Math.max(1, count);
		}
	}
	return sums;
}
