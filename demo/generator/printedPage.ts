import { readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { createCanvas, GlobalFonts, type SKRSContext2D } from '@napi-rs/canvas';
import type { Picture } from '../../src/lib/core/raster/picture';
import { fromCanvas } from './fromCanvas';
import { hands } from './hands';
import { Random } from './random';
import { GREYS, scene } from './scene';

/** What fills a printed page. */
export const PRINTED = [
	'text',
	'columns',
	'framed',
	'table',
	'chart',
	'squares',
	'staves',
	'worksheet',
	'plate',
	'map'
] as const;
export type PrintedKind = (typeof PRINTED)[number];

export interface PrintedSpec {
	readonly seed: number;
	readonly kind: PrintedKind;
	/** In pixels. */
	readonly size: readonly [width: number, height: number];
	readonly paper?: readonly [number, number, number];
	/** Lines of text on the page, more or less. */
	readonly lines?: number;
}

const WORDS =
	'meadow sluice hollow timber orchard lantern gravel harbour measured slowly between eastern banks where older willows lean over shallow water and children count barges passing under narrow wooden bridges'.split(
		' '
	);

let registered = false;
/** Families that print is set in; registers them on first use. */
export function printFonts(): readonly string[] {
	if (!registered) {
		const require = createRequire(import.meta.url);
		for (const name of ['ibm-plex-sans', 'ibm-plex-mono']) {
			const folder = join(dirname(require.resolve(`@fontsource/${name}/package.json`)), 'files');
			for (const weight of [400, 600]) {
				const file = readdirSync(folder).find((f) => f === `${name}-latin-${weight}-normal.woff2`);
				if (file) GlobalFonts.registerFromPath(join(folder, file), `print-${name}-${weight}`);
			}
		}
		registered = true;
	}
	return ['print-ibm-plex-sans-400', 'print-ibm-plex-mono-400', 'print-ibm-plex-sans-600'];
}

/** What the drawing of a page goes by. */
interface Sheet {
	readonly c: SKRSContext2D;
	readonly random: Random;
	readonly width: number;
	readonly height: number;
	/** Height of a line of text. */
	readonly pitch: number;
	readonly font: string;
	readonly ink: string;
}

type Box = readonly [x0: number, y0: number, x1: number, y1: number];

/** A printed page, flat and evenly lit, that reaches to the picture's edges. */
export function printedPage({ seed, kind, size, paper = [250, 249, 245], lines = 46 }: PrintedSpec): Picture {
	const random = new Random(seed);
	const [width, height] = size;
	const canvas = createCanvas(width, height);
	const c = canvas.getContext('2d');
	c.fillStyle = `rgb(${paper.join(',')})`;
	c.fillRect(0, 0, width, height);
	const pitch = height / lines;
	const sheet: Sheet = {
		c,
		random,
		width,
		height,
		pitch,
		font: random.pick(printFonts()),
		ink: random.pick(['#141414', '#262320', '#1c2233'])
	};
	const margin = random.between(0.06, 0.12) * width;
	DRAW[kind](sheet, [margin, margin, width - margin, height - margin]);
	return fromCanvas(c, width, height);
}

const DRAW: Readonly<Record<PrintedKind, (sheet: Sheet, box: Box) => void>> = {
	text: (sheet, box) => paragraphs(sheet, box),
	columns: (sheet, box) => columns(sheet, box),
	framed: (sheet, box) => {
		const { pitch, random } = sheet;
		frame(sheet, box, random.between(0.08, 0.3) * pitch);
		if (random.chance(0.5)) frame(sheet, inset(box, 0.4 * pitch), 0.08 * pitch);
		paragraphs(sheet, inset(box, 1.5 * pitch));
	},
	table: (sheet, box) => {
		const { pitch } = sheet;
		const middle = box[1] + sheet.random.between(0.1, 0.5) * (box[3] - box[1]);
		paragraphs(sheet, [box[0], box[1], box[2], middle - pitch]);
		table(sheet, [box[0], middle, box[2], box[3]]);
	},
	chart: (sheet, box) => {
		const middle = box[1] + sheet.random.between(0.3, 0.6) * (box[3] - box[1]);
		bars(sheet, [box[0], box[1], box[2], middle]);
		columns(sheet, [box[0], middle + sheet.pitch, box[2], box[3]]);
	},
	squares: ({ c, random, width, height, pitch }) => {
		const step = pitch * random.between(0.5, 2.2);
		c.strokeStyle = random.pick(['#7b93b5', '#3b3b3b', '#9a9a9a']);
		c.lineWidth = Math.max(1, 0.06 * pitch);
		c.beginPath();
		for (let x = random.next() * step; x < width; x += step) rule(c, x, 0, x, height);
		for (let y = random.next() * step; y < height; y += step) rule(c, 0, y, width, y);
		c.stroke();
	},
	staves: (sheet, box) => {
		const { c, random, pitch } = sheet;
		for (let y = box[1]; y + 5 * pitch < box[3]; y += random.between(5.5, 7) * pitch) {
			c.strokeStyle = sheet.ink;
			c.lineWidth = Math.max(1, 0.06 * pitch);
			c.beginPath();
			for (let k = 0; k < 5; k++) rule(c, box[0], y + 0.6 * k * pitch, box[2], y + 0.6 * k * pitch);
			for (let k = 0; k <= 4; k++) {
				const x = box[0] + (k / 4) * (box[2] - box[0]);
				rule(c, x, y, x, y + 2.4 * pitch);
			}
			c.stroke();
			c.fillStyle = sheet.ink;
			for (let x = box[0] + pitch; x < box[2] - pitch; x += random.between(0.8, 2.4) * pitch) {
				const at = y + random.between(-0.3, 2.7) * pitch;
				c.beginPath();
				c.ellipse(x, at, 0.36 * pitch, 0.27 * pitch, -0.4, 0, 7);
				c.fill();
				c.fillRect(x + 0.3 * pitch, at - 1.8 * pitch, 0.09 * pitch, 1.8 * pitch);
			}
		}
	},
	worksheet: (sheet, box) => {
		const { random, pitch, c } = sheet;
		let y = box[1];
		while (y < box[3] - 6 * pitch) {
			paragraphs(sheet, [box[0], y, box[2], y + 2.2 * pitch]);
			const below = y + random.between(5, 10) * pitch;
			if (random.chance(0.6)) frame(sheet, [box[0], y + 2.4 * pitch, box[2], below], 0.08 * pitch);
			c.font = `${1.25 * pitch}px ${random.pick(hands()).family}`;
			c.fillStyle = random.pick(['#1d2a6b', '#222', '#555']);
			for (let at = y + 3.7 * pitch; at < Math.min(below, box[3]); at += 1.5 * pitch) {
				c.fillText(sentence(random, 5), box[0] + pitch, at, 0.9 * (box[2] - box[0]));
			}
			y = below + pitch;
		}
	},
	plate: (sheet, box) => {
		const { random, pitch, c } = sheet;
		const high = random.between(0.45, 0.85) * (box[3] - box[1]);
		picture(sheet, [box[0], box[1], box[2], box[1] + high]);
		c.strokeStyle = sheet.ink;
		if (random.chance(0.5)) frame(sheet, [box[0], box[1], box[2], box[1] + high], 0.1 * pitch);
		paragraphs(sheet, [box[0], box[1] + high + pitch, box[2], box[3]]);
	},
	map: (sheet) => {
		const { c, random, width, height, pitch } = sheet;
		c.fillStyle = '#bcd9e8';
		c.fillRect(0, 0, width, height);
		for (let k = 0; k < 14; k++) {
			c.fillStyle = random.pick(['#e9d79a', '#d9a86c', '#c7d8a0', '#e3b7a0']);
			c.beginPath();
			const [x, y] = [random.next() * width, random.next() * height];
			const reach = random.between(0.08, 0.3) * width;
			for (let a = 0; a < 12; a++) {
				const r = reach * random.between(0.6, 1.2);
				c.lineTo(x + r * Math.cos((a * Math.PI) / 6), y + r * Math.sin((a * Math.PI) / 6));
			}
			c.closePath();
			c.fill();
			c.strokeStyle = '#7a5a4a';
			c.lineWidth = 0.06 * pitch;
			c.stroke();
		}
		const key: Box = [0, height * random.between(0.6, 0.75), width * random.between(0.25, 0.4), height];
		c.fillStyle = '#fbfaf6';
		c.fillRect(key[0], key[1], key[2] - key[0], key[3] - key[1]);
		frame(sheet, key, 0.08 * pitch);
		paragraphs(sheet, inset(key, pitch));
	}
};

function sentence(random: Random, words: number): string {
	return Array.from({ length: words }, () => random.pick(WORDS)).join(' ');
}

function rule(c: SKRSContext2D, x0: number, y0: number, x1: number, y1: number): void {
	c.moveTo(x0, y0);
	c.lineTo(x1, y1);
}

function inset([x0, y0, x1, y1]: Box, by: number): Box {
	return [x0 + by, y0 + by, x1 - by, y1 - by];
}

function frame({ c, ink }: Sheet, [x0, y0, x1, y1]: Box, thickness: number): void {
	c.strokeStyle = ink;
	c.lineWidth = Math.max(1, thickness);
	c.strokeRect(x0, y0, x1 - x0, y1 - y0);
}

/** Justified text with short last lines. */
function paragraphs(sheet: Sheet, [x0, y0, x1, y1]: Box): void {
	const { c, random, pitch, font, ink } = sheet;
	c.fillStyle = ink;
	c.font = `${0.78 * pitch}px ${font}`;
	let left = random.whole(2, 9);
	for (let y = y0 + 0.8 * pitch; y < y1; y += pitch) {
		const isLast = left-- === 0;
		const words: string[] = [];
		let width = 0;
		const goal = (x1 - x0) * (isLast ? random.between(0.2, 0.8) : 1);
		while (width < goal) {
			const word = random.pick(WORDS);
			width += c.measureText(word).width + 0.3 * pitch;
			if (width < goal || words.length === 0) words.push(word);
		}
		const used = words.reduce((sum, w) => sum + c.measureText(w).width, 0);
		const gap = isLast ? 0.3 * pitch : (x1 - x0 - used) / Math.max(1, words.length - 1);
		let x = x0;
		for (const word of words) {
			c.fillText(word, x, y, x1 - x0);
			x += c.measureText(word).width + gap;
		}
		if (isLast) {
			y += random.chance(0.5) ? pitch : 0;
			left = random.whole(2, 9);
		}
	}
}

function columns(sheet: Sheet, [x0, y0, x1, y1]: Box): void {
	const { c, random, pitch, ink } = sheet;
	const count = random.whole(2, 4);
	const wide = (x1 - x0) / count;
	const lines = random.chance(0.4);
	for (let k = 0; k < count; k++) {
		const from = x0 + k * wide;
		const box: Box = [from + 0.5 * pitch, y0, from + wide - 0.5 * pitch, y1];
		if (random.chance(0.3)) picture(sheet, [box[0], y0, box[2], y0 + 0.3 * (y1 - y0)]);
		paragraphs(sheet, random.chance(0.3) ? [box[0], y0 + 0.32 * (y1 - y0), box[2], y1] : box);
		if (!lines || k === 0) continue;
		c.strokeStyle = ink;
		c.lineWidth = Math.max(1, 0.06 * pitch);
		c.beginPath();
		rule(c, from, y0, from, y1);
		c.stroke();
	}
}

function table(sheet: Sheet, [x0, y0, x1, y1]: Box): void {
	const { c, random, pitch, ink } = sheet;
	const rows = Math.max(2, Math.floor((y1 - y0) / (pitch * random.between(1.2, 3))));
	const across = random.whole(2, 6);
	const [high, wide] = [(y1 - y0) / rows, (x1 - x0) / across];
	const fill = random.pick(['#d9d9d9', '#b9c4d2', '#3a3a3a', null]);
	if (fill) {
		c.fillStyle = fill;
		c.fillRect(x0, y0, x1 - x0, high);
		if (random.chance(0.4)) for (let r = 2; r < rows; r += 2) c.fillRect(x0, y0 + r * high, x1 - x0, high);
	}
	c.strokeStyle = ink;
	c.lineWidth = Math.max(1, 0.08 * pitch);
	c.beginPath();
	for (let r = 0; r <= rows; r++) rule(c, x0, y0 + r * high, x1, y0 + r * high);
	for (let k = 0; k <= across; k++) rule(c, x0 + k * wide, y0, x0 + k * wide, y1);
	c.stroke();
	c.font = `${0.7 * pitch}px ${sheet.font}`;
	c.fillStyle = ink;
	for (let r = 0; r < rows; r++) {
		for (let k = 0; k < across; k++) {
			const text = random.chance(0.5) ? String(random.whole(1, 9999)) : random.pick(WORDS);
			c.fillText(text, x0 + k * wide + 0.3 * pitch, y0 + r * high + 0.9 * pitch, wide - 0.4 * pitch);
		}
	}
}

/** A chart with solid bars. */
function bars(sheet: Sheet, [x0, y0, x1, y1]: Box): void {
	const { c, random, pitch, ink } = sheet;
	const count = random.whole(4, 9);
	const wide = (x1 - x0) / count;
	c.fillStyle = random.pick([ink, '#555', '#2a4a7a']);
	for (let k = 0; k < count; k++) {
		const top = y0 + random.between(0.05, 0.8) * (y1 - y0);
		c.fillRect(x0 + (k + 0.2) * wide, top, 0.6 * wide, y1 - top);
	}
	c.strokeStyle = ink;
	c.lineWidth = Math.max(1, 0.08 * pitch);
	c.beginPath();
	rule(c, x0, y0, x0, y1);
	rule(c, x0, y1, x1, y1);
	c.stroke();
	if (random.chance(0.5)) frame(sheet, inset([x0, y0, x1, y1], -0.6 * pitch), 0.1 * pitch);
}

/** A half-tone picture: a scene in greys. */
function picture({ c, random }: Sheet, [x0, y0, x1, y1]: Box): void {
	c.save();
	c.beginPath();
	c.rect(x0, y0, x1 - x0, y1 - y0);
	c.clip();
	c.translate(x0, y0);
	scene(c, random, x1 - x0, y1 - y0, GREYS);
	c.restore();
}
