import { createCanvas, type SKRSContext2D } from '@napi-rs/canvas';
import { gaussianBlur } from '../../src/lib/core/raster/boxBlur';
import { toFloat } from '../../src/lib/core/raster/floatPlane';
import { luma } from '../../src/lib/core/raster/luma';
import type { Picture } from '../../src/lib/core/raster/picture';
import { PAPER_SIZES, type PaperName } from '../../src/lib/core/sheet/paperSize';
import type { Hand } from './hands';
import { writeByLetter, type Manner } from './penman';
import { Random } from './random';

/** One thing on a page, from the top down. */
export type Block =
	| ({ readonly kind: 'label' } & WrittenLabel)
	/** Two labels with their work side by side. */
	| { readonly kind: 'beside'; readonly columns: readonly [Column, Column] }
	/** A word between tildes is crossed out; not in a writer's own manner. */
	| {
			readonly kind: 'text';
			readonly lines: readonly string[];
			/** How far in its lines begin, in millimetres. */
			readonly indent?: number;
	  }
	/** A fraction; without a denominator, a root. Two lines high. */
	| {
			readonly kind: 'formula';
			readonly before: string;
			readonly over: string;
			readonly under: string | null;
			readonly behind: string;
	  }
	| { readonly kind: 'table'; readonly rows: readonly (readonly string[])[] }
	| { readonly kind: 'graph'; readonly title: string; readonly axes: readonly [up: string, along: string] }
	| { readonly kind: 'space'; readonly lines: number };

export interface WrittenLabel {
	readonly text: string;
	/** What it stands for, where that is asked for as truth. */
	readonly question?: string;
	/** In the margin, at the start of the next line of text, or in a line of its own. */
	readonly at?: 'margin' | 'line' | 'own';
	/** How far in it begins where it does not stand in the margin, in millimetres. */
	readonly indent?: number;
	readonly mark?: 'underlined' | 'circled' | 'boxed';
	/** What was written first, and crossed out, before it. */
	readonly corrected?: string;
}
export interface Column extends WrittenLabel {
	readonly lines: readonly string[];
}

/** One more line of the header, under name and number; `at` is where it begins, as a part of the page's width. */
export interface HeaderLine {
	readonly text: string;
	readonly at: number;
}

/** Where things stand on a page, in millimetres. */
export interface Layout {
	/** Where lines of writing begin. */
	readonly left: number;
	/** From one line to the next. */
	readonly pitch: number;
	/** Of letters, beside those that stand in the lines of a usual page. */
	readonly size: number;
	/** The base line of the header's first line, from the top. */
	readonly header: number;
	/** Lines left free under the header. */
	readonly gap: number;
	/** Where the page's number begins, from the left and to its base line from the top. */
	readonly number: readonly [number, number];
}

export interface PageSpec {
	readonly seed: number;
	readonly hand: Hand;
	readonly paper: PaperName;
	readonly ruling: 'ruled' | 'squared' | 'plain';
	/** Ink colour, 0 to 255 each. Pencil is a light grey. */
	readonly ink: readonly [number, number, number];
	/** How the writer departs from the font; without, every letter is the font's. */
	readonly manner?: Manner;
	/** How far from the sheet's edge labels in the margin begin, in millimetres. */
	readonly labelFrom?: number;
	/** Size of labels beside the text's. */
	readonly labelSize?: number;
	/** By which lines rise or fall, in radians. */
	readonly slope?: number;
	/** 0 to 1; a hard pencil pressed lightly is about 0.35. */
	readonly pressure?: number;
	readonly name?: string;
	readonly nameAt?: 'left' | 'middle' | 'right';
	readonly pageNumber?: string;
	readonly pageNumberAt?: 'top-left' | 'top' | 'top-right' | 'bottom' | 'bottom-right';
	readonly header?: readonly HeaderLine[];
	/** Without, as on paper with a margin. */
	readonly layout?: Layout;
	readonly blocks: readonly Block[];
	/** Pixels a millimetre. */
	readonly scale?: number;
	/** Writing of another page that shows through from the back. */
	readonly showThrough?: Picture;
}

/** Where a label begins, as fractions of the page's width and height. */
export interface PlacedLabel {
	readonly text: string;
	readonly x: number;
	readonly y: number;
	readonly question?: string;
}

/** What was written in one go, in a writer's own manner, and where each of its letters lies. */
export interface WrittenRun {
	readonly text: string;
	/** Size of the writing in pixels. */
	readonly size: number;
	/** Spaces are none; `x0`, `x1` and the base line `y` in pixels of the page. */
	readonly letters: readonly { readonly x0: number; readonly x1: number; readonly y: number }[];
}

/** A drawn page and the truth about it. */
export interface WrittenPage {
	readonly picture: Picture;
	readonly labels: readonly PlacedLabel[];
	/** All that is written; empty where it is in no manner of its own. */
	readonly runs: readonly WrittenRun[];
	/** Where the name begins, on its baseline, as fractions of the page; null without one. */
	readonly nameAt: readonly [number, number] | null;
}

const NAME_AT = { left: 0.15, middle: 0.42, right: 0.62 } as const;
const NUMBER_AT = {
	'top-left': [0.05, 'top'],
	top: [0.45, 'top'],
	'top-right': [0.8, 'top'],
	bottom: [0.47, 'bottom'],
	'bottom-right': [0.82, 'bottom']
} as const;
/** Where lines of writing begin, in millimetres; a printed margin ends so much before it, if there is room for one. */
const LEFT = 31;
const BEFORE_LEFT = 3;
const LEAST_MARGIN = 20;
/** From one line to the next, on each kind of paper. */
const PITCH = { ruled: 8.5, plain: 8.5, squared: 10 } as const;
/** Where the first line is ruled, a pitch further down. */
const TOP = 12;
const PAPER_COLOUR = [247, 245, 238] as const;

/** Draws one handwritten page, flat and evenly lit. */
export function writtenPage(spec: PageSpec): WrittenPage {
	const random = new Random(spec.seed);
	const scale = spec.scale ?? 8;
	const [wmm, hmm] = PAPER_SIZES[spec.paper];
	const width = Math.round(wmm * scale);
	const height = Math.round(hmm * scale);
	const canvas = createCanvas(width, height);
	const c = canvas.getContext('2d');
	c.fillStyle = `rgb(${PAPER_COLOUR.join(',')})`;
	c.fillRect(0, 0, width, height);

	const { layout } = spec;
	const pitch = (layout?.pitch ?? PITCH[spec.ruling]) * scale;
	drawRuling(c, spec, width, height, scale, pitch);

	const pressure = spec.pressure ?? 1;
	const [r, g, b] = spec.ink;
	const inked = `rgba(${r},${g},${b},${pressure})`;
	c.fillStyle = c.strokeStyle = inked;
	const { manner, slope = 0 } = spec;
	const size = 6.1 * scale * spec.hand.scale * (layout?.size ?? 1);
	const runs: WrittenRun[] = [];
	const write = (text: string, x: number, y: number, factor = 1) => {
		if (manner) {
			c.save();
			const base = y + 0.25 * scale * random.normal();
			const angle = slope + 0.004 * random.normal();
			c.translate(x, base);
			c.rotate(angle);
			const letters = writeByLetter(c, text, [0, 0], size * factor, spec.hand.family, inked, manner, random);
			c.restore();
			c.fillStyle = c.strokeStyle = inked;
			runs.push({
				text,
				size: size * factor,
				letters: letters.map(({ x0, x1 }) => ({ x0: x + x0, x1: x + x1, y: base + angle * x0 }))
			});
			return x + (letters.at(-1)?.x1 ?? 0) + manner.space * size;
		}
		let at = x;
		for (const written of text.split(' ')) {
			const word = written.replaceAll('~', '');
			c.save();
			c.font = `${size * factor * (1 + 0.03 * random.normal())}px ${spec.hand.family}`;
			c.translate(at, y + 0.25 * scale * random.normal());
			c.rotate(0.008 * random.normal());
			c.fillText(word, 0, 0);
			if (word !== written) crossOut(c, c.measureText(word).width, size, random);
			at += c.measureText(word).width + size * (0.25 + 0.05 * random.next());
			c.restore();
		}
		return at;
	};

	const left = (layout?.left ?? LEFT) * scale;
	let y = TOP * scale + pitch;
	const header = layout ? layout.header * scale : y - 0.2 * pitch;
	const nameAt = spec.name ? ([NAME_AT[spec.nameAt ?? 'middle'], header / height] as const) : null;
	if (spec.name && nameAt) write(spec.name, width * nameAt[0], header);
	if (spec.pageNumber) {
		const [px, py] = NUMBER_AT[spec.pageNumberAt ?? 'top-right'];
		const [x, base] = layout
			? layout.number.map((mm) => mm * scale)
			: [width * px, py === 'top' ? header : height - 8 * scale];
		write(spec.pageNumber, x!, base!);
	}
	y += 1.2 * pitch;
	for (const { text, at } of spec.header ?? []) write(text, width * at, header + 1.2 * pitch);
	if (spec.header) y += 1.2 * pitch;
	y += (layout?.gap ?? 0) * pitch;

	const labels: PlacedLabel[] = [];
	const writeLabel = (label: WrittenLabel, from: number) => {
		const { text, question, mark, corrected } = label;
		let x = from;
		if (corrected) {
			const end = write(corrected, x, y - 0.15 * pitch, spec.labelSize ?? 1.12);
			strikeThrough(c, [x, end - (manner?.space ?? 0.25) * size], y - 0.15 * pitch, size, random);
			x = end;
		}
		labels.push({ text, x: x / width, y: (y - 0.75 * pitch) / height, ...(question ? { question } : {}) });
		const base = y - 0.15 * pitch;
		const end = write(text, x, base, spec.labelSize ?? 1.12) - (manner?.space ?? 0.25) * size;
		if (mark) markLabel(c, mark, [x, base - 0.62 * size, end, base + 0.12 * size], scale);
		return end + 0.5 * size;
	};
	let indent = left;
	for (const block of spec.blocks) {
		switch (block.kind) {
			case 'label':
				if (block.at === 'own') {
					writeLabel(block, left + (block.indent ?? 0) * scale);
					y += pitch;
				} else {
					// A label too long for the margin pushes the writing on.
					const from =
						block.at === 'line'
							? left + (block.indent ?? 0) * scale
							: Math.min(left, (spec.labelFrom ?? 9) * scale);
					indent = Math.max(left, writeLabel(block, from));
				}
				break;
			case 'beside': {
				const top = y;
				let bottom = y;
				block.columns.forEach((column, k) => {
					y = top;
					let x = writeLabel(column, left + k * 88 * scale);
					for (const line of column.lines) {
						write(line, x, y - 0.15 * pitch, 0.9);
						x = left + (k * 88 + 3) * scale;
						y += pitch;
					}
					bottom = Math.max(bottom, y);
				});
				y = bottom;
				break;
			}
			case 'text':
				for (const line of block.lines) {
					const start = left + (block.indent ?? 0) * scale;
					const from = indent === left ? start + random.between(0, 2) * scale : indent;
					write(line, from, y - 0.15 * pitch);
					indent = left;
					y += pitch;
				}
				break;
			case 'formula':
				drawFormula(c, block, left + 10 * scale, y + 0.45 * pitch, pitch, scale, write);
				y += 2 * pitch;
				break;
			case 'table':
				y = drawTable(c, block.rows, left, y - 0.8 * pitch, pitch, scale, write) + pitch;
				break;
			case 'graph':
				y = drawGraph(c, block, left, y - 0.5 * pitch, pitch, scale, random, write) + pitch;
				break;
			case 'space':
				y += block.lines * pitch;
				break;
		}
	}

	const rgba = c.getImageData(0, 0, width, height).data;
	const data = new Uint8ClampedArray(width * height * 3);
	const grain = Float32Array.from({ length: 4096 }, () => random.between(-1.5, 1.5));
	for (let i = 0, p = 0; p < rgba.length; i += 3, p += 4) {
		// Paper is never quite even.
		const v = grain[(i * 7 + (i >> 11)) & 4095]!;
		data[i] = rgba[p]! + v;
		data[i + 1] = rgba[p + 1]! + v;
		data[i + 2] = rgba[p + 2]! + v;
	}
	const picture = { width, height, channels: 3, data: new Uint8Array(data.buffer) } as const;
	if (spec.showThrough) mixShowThrough(picture.data, width, height, spec.showThrough, scale);
	return { picture, labels, runs, nameAt };
}

/** A stroke there and back through a word that begins at the origin. */
function crossOut(c: SKRSContext2D, width: number, size: number, random: Random): void {
	c.lineWidth = 0.05 * size;
	c.beginPath();
	c.moveTo(-0.1 * size, -0.18 * size);
	c.lineTo(width + 0.1 * size, -(0.3 + 0.08 * random.next()) * size);
	c.lineTo(0.1 * size, -(0.12 + 0.06 * random.next()) * size);
	c.stroke();
}

/** A stroke through what stands between two places on a base line. */
function strikeThrough(
	c: SKRSContext2D,
	[x0, x1]: readonly [number, number],
	base: number,
	size: number,
	random: Random
): void {
	c.save();
	c.translate(x0, base);
	crossOut(c, x1 - x0, size, random);
	c.restore();
}

/** A line under a label, a ring or a box around it; `[left, top, right, bottom]` in pixels. */
function markLabel(
	c: SKRSContext2D,
	mark: NonNullable<WrittenLabel['mark']>,
	[x0, y0, x1, y1]: readonly [number, number, number, number],
	scale: number
): void {
	c.lineWidth = 0.4 * scale;
	c.beginPath();
	if (mark === 'underlined') {
		c.moveTo(x0 - 0.5 * scale, y1 + 0.4 * scale);
		c.lineTo(x1 + scale, y1 + 0.1 * scale);
	} else if (mark === 'boxed') {
		c.rect(x0 - 1.2 * scale, y0 - 0.8 * scale, x1 - x0 + 2.4 * scale, y1 - y0 + 1.8 * scale);
	} else {
		const rx = (x1 - x0) / 2 + 2 * scale;
		const ry = (y1 - y0) / 2 + 1.4 * scale;
		c.ellipse((x0 + x1) / 2, (y0 + y1) / 2, rx, ry, 0, 0.2, 2 * Math.PI + 0.3);
	}
	c.stroke();
}

function drawRuling(
	c: SKRSContext2D,
	{ ruling, layout }: PageSpec,
	width: number,
	height: number,
	scale: number,
	pitch: number
): void {
	if (ruling === 'plain') return;
	c.lineWidth = 0.25 * scale;
	c.strokeStyle = 'rgba(120,160,205,0.75)';
	c.beginPath();
	if (ruling === 'ruled') {
		for (let y = TOP * scale + pitch; y < height - 8 * scale; y += pitch) {
			c.moveTo(0, y);
			c.lineTo(width, y);
		}
	} else {
		for (let y = 4 * scale; y < height; y += pitch / 2) {
			c.moveTo(0, y);
			c.lineTo(width, y);
		}
		for (let x = 4 * scale; x < width; x += pitch / 2) {
			c.moveTo(x, 0);
			c.lineTo(x, height);
		}
	}
	c.stroke();
	const left = layout?.left ?? LEFT;
	if (ruling === 'ruled' && left >= LEAST_MARGIN) {
		c.strokeStyle = 'rgba(215,110,120,0.8)';
		c.beginPath();
		c.moveTo((left - BEFORE_LEFT) * scale, 0);
		c.lineTo((left - BEFORE_LEFT) * scale, height);
		c.stroke();
	}
}

/** What stands before, a fraction or a root, and what stands behind; returns nothing, as it is two lines high. */
function drawFormula(
	c: SKRSContext2D,
	{ before, over, under, behind }: Extract<Block, { kind: 'formula' }>,
	x: number,
	base: number,
	pitch: number,
	scale: number,
	write: Write
): void {
	const from = write(before, x, base, 0.95) + scale;
	c.lineWidth = 0.4 * scale;
	if (under === null) {
		const end = write(over, from + 3 * scale, base, 0.9);
		c.beginPath();
		c.moveTo(from - scale, base - 0.2 * pitch);
		c.lineTo(from + 0.6 * scale, base + 0.1 * pitch);
		c.lineTo(from + 2 * scale, base - 0.75 * pitch);
		c.lineTo(end, base - 0.75 * pitch);
		c.stroke();
		write(behind, end + 2 * scale, base, 0.95);
		return;
	}
	const end = Math.max(
		write(over, from, base - 0.5 * pitch, 0.85),
		write(under, from + scale, base + 0.62 * pitch, 0.85)
	);
	c.beginPath();
	c.moveTo(from - 0.5 * scale, base - 0.28 * pitch);
	c.lineTo(end, base - 0.28 * pitch + 0.2 * scale);
	c.stroke();
	write(behind, end + 2 * scale, base, 0.95);
}

type Write = (text: string, x: number, y: number, factor?: number) => number;

function drawTable(
	c: SKRSContext2D,
	rows: readonly (readonly string[])[],
	x: number,
	y: number,
	pitch: number,
	scale: number,
	write: Write
): number {
	const columns = rows[0]!.length;
	const cell = (150 * scale) / columns;
	const bottom = y + rows.length * pitch;
	c.lineWidth = 0.35 * scale;
	c.beginPath();
	for (let i = 0; i <= rows.length; i++) {
		c.moveTo(x, y + i * pitch);
		c.lineTo(x + columns * cell, y + i * pitch + 0.4 * scale);
	}
	for (let i = 0; i <= columns; i++) {
		c.moveTo(x + i * cell, y);
		c.lineTo(x + i * cell + 0.3 * scale, bottom);
	}
	c.stroke();
	rows.forEach((row, i) =>
		row.forEach((text, j) => write(text, x + j * cell + 2 * scale, y + (i + 0.82) * pitch, 0.85))
	);
	return bottom + 0.4 * pitch;
}

function drawGraph(
	c: SKRSContext2D,
	{ title, axes: [up, along] }: Extract<Block, { kind: 'graph' }>,
	x: number,
	y: number,
	pitch: number,
	scale: number,
	random: Random,
	write: Write
): number {
	const w = 125 * scale;
	const h = 8 * pitch;
	const base = y + h;
	c.lineWidth = 0.45 * scale;
	c.beginPath();
	c.moveTo(x + 6 * scale, y);
	c.lineTo(x + 6 * scale, base);
	c.lineTo(x + w, base + 0.5 * scale);
	c.stroke();
	c.beginPath();
	for (let i = 0; i <= 60; i++) {
		const t = i / 60;
		const rise = Math.exp(-(((t - 0.32) / (t < 0.32 ? 0.09 : 0.24)) ** 2));
		const px = x + (8 + 112 * t) * scale;
		const py = base - (0.1 + 0.78 * rise) * h + 0.3 * scale * random.normal();
		if (i === 0) c.moveTo(px, py);
		else c.lineTo(px, py);
	}
	c.stroke();
	write(up, x + 9 * scale, y + 0.7 * pitch, 0.85);
	write(along, x + w - 14 * scale, base + 0.9 * pitch, 0.85);
	write(title, x + 58 * scale, y + 1.3 * pitch, 0.85);
	return base + 1.4 * pitch;
}

/** How far paper scatters the light that comes through it, as a deviation in millimetres, and how much of the ink is seen. */
const SCATTER = 0.25;
const SEEN_THROUGH = 0.22;

/** The other side's writing, mirrored, soft and faint, as through thin paper. */
function mixShowThrough(data: Uint8Array, width: number, height: number, back: Picture, scale: number): void {
	const { data: soft } = gaussianBlur(toFloat(luma(back)), SCATTER * scale);
	for (let y = 0; y < Math.min(height, back.height); y++) {
		for (let x = 0; x < Math.min(width, back.width); x++) {
			const ink = 1 - soft[y * back.width + (back.width - 1 - x)]! / 247;
			const q = (y * width + x) * 3;
			for (let k = 0; k < 3; k++) data[q + k] = Math.round(data[q + k]! * (1 - SEEN_THROUGH * ink));
		}
	}
}
