import { createCanvas, GlobalFonts, type SKRSContext2D } from '@napi-rs/canvas';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Samples } from '../../core/bundle/hideInk';
import type { Drawn } from '../../core/marks/onPage';
import type { Picture } from '../../core/raster/picture';
import { FONT_FILES, SUBSETS } from './pdfFonts';
import { rawPixels } from './rawPixels';

/** A page's picture with what a person added to it, in colour. */
export function withMarks(page: Picture, drawn: readonly Drawn[]): Picture & { data: Uint8Array } {
	const { width, height, channels, data } = page;
	const canvas = createCanvas(width, height);
	const context = canvas.getContext('2d');
	const pixels = context.createImageData(width, height);
	for (let p = 0, q = 0; p < data.length; p += channels, q += 4) {
		pixels.data[q] = data[p]!;
		pixels.data[q + 1] = data[p + 1]!;
		pixels.data[q + 2] = data[p + 2]!;
		pixels.data[q + 3] = 255;
	}
	context.putImageData(pixels, 0, 0);
	for (const one of drawn) draw(context, one);
	const done = context.getImageData(0, 0, width, height).data;
	const out = new Uint8Array(width * height * 3);
	for (let p = 0, q = 0; p < out.length; p += 3, q += 4) {
		out[p] = done[q]!;
		out[p + 1] = done[q + 1]!;
		out[p + 2] = done[q + 2]!;
	}
	return { width, height, channels: 3, data: out };
}

/** Grey samples as a picture in colour. */
export function inColours({ width, height, channels, data }: Samples): Picture {
	if (channels === 3) return { width, height, channels, data };
	const out = new Uint8Array(3 * data.length);
	for (let i = 0; i < data.length; i++) out.fill(data[i]!, 3 * i, 3 * i + 3);
	return { width, height, channels: 3, data: out };
}

/** The same of a picture in a file, as a file of the same kind. */
export async function withMarksOn(bytes: Buffer, drawn: readonly Drawn[], quality: number): Promise<Buffer> {
	const { width, height, channels, data } = await rawPixels(sharp(bytes).toColourspace('srgb').removeAlpha());
	const { format } = await sharp(bytes).metadata();
	const marked = withMarks(inColours({ width, height, channels: channels === 3 ? 3 : 1, data }), drawn);
	const image = sharp(marked.data, { raw: { width, height, channels: 3 } });
	return (format === 'png' ? image.png() : image.jpeg({ quality })).toBuffer();
}

function draw(context: SKRSContext2D, one: Drawn): void {
	context.save();
	context.fillStyle = `rgb(${one.rgb.join(', ')})`;
	if (one.kind === 'area') {
		if (one.seeThrough) context.globalCompositeOperation = 'multiply';
		context.beginPath();
		for (const [x, y] of one.outline) context.lineTo(x, y);
		context.closePath();
		context.fill();
	} else {
		context.font = `${one.size}px ${families()}`;
		for (const [i, line] of one.lines.entries()) context.fillText(line, one.x, one.y + i * one.pitch);
	}
	context.restore();
}

let registered: string | null = null;

/** The application's own fonts, by the names under which the canvas knows them. */
function families(): string {
	if (registered) return registered;
	const files = readdirSync(FONT_FILES);
	const names = SUBSETS.flatMap((subset) => {
		const file = files.find((f) => f === `ibm-plex-sans-${subset}-400-normal.woff2`);
		if (!file) return [];
		GlobalFonts.registerFromPath(join(FONT_FILES, file), `added ${subset}`);
		return [`"added ${subset}"`];
	});
	registered = names.join(', ');
	return registered;
}
