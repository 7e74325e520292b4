import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import type { TextLine } from '../../core/reading/pageReading';
import { makeBundlePdf } from './bundlePdf';
import { cutOut, openPage, type PageToCut } from './cutOut';
import { countPdfPages, drawPdfPage, pdfPageLines } from './pdfIn';

const folder = mkdtempSync(join(tmpdir(), 'membrana-bundle-pdf-'));
const [WIDTH, HEIGHT] = [827, 1169];
const line = (text: string, y: number): TextLine => ({ text, box: [0.1, y, 0.5, y + 0.02], confidence: 1 });
const TEXT = [line('Ilka Brandsma', 0.03), line('the first answer', 0.3), line('the second answer', 0.6)];
let page: PageToCut;

/** A page of A4 at 100 dots an inch with a bar of ink where each line is. */
beforeAll(async () => {
	const data = Buffer.alloc(WIDTH * HEIGHT, 255);
	for (const { box } of TEXT) {
		for (let y = Math.round(box[1] * HEIGHT); y < Math.round(box[3] * HEIGHT); y++) {
			// Strokes, as of writing.
			for (let x = Math.round(box[0] * WIDTH); x < box[2] * WIDTH; x++)
				if (x % 9 < 3) data[y * WIDTH + x] = 20;
		}
	}
	const path = join(folder, 'page.png');
	writeFileSync(
		path,
		await sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 1 } })
			.png()
			.toBuffer()
	);
	page = { kind: 'image', path, dotsPerInch: 100, text: TEXT };
});

const part = (top: number, bottom: number, around = false) => ({ top, bottom, around });
/** How dark the darkest pixel of some rows is. */
function darkest(
	data: Uint8Array | Uint8ClampedArray,
	channels: number,
	width: number,
	from: number,
	to: number
): number {
	let least = 255;
	for (let p = from * width * channels; p < to * width * channels; p += channels)
		least = Math.min(least, data[p]!);
	return least;
}

describe('a cut-out', () => {
	it('is the part with ink, in full width, with its words where they stand on it', async () => {
		const made = await cutOut(await openPage(page, []), part(0.25, 0.55));
		expect([made.image.width, made.dotsPerInch]).toEqual([WIDTH, 100]);
		expect(made.image.height).toBeLessThan(0.1 * HEIGHT);
		expect(made.text.map((l) => l.text)).toEqual(['the first answer']);
		const [, y0, , y1] = made.text[0]!.box;
		expect((y0 + y1) / 2).toBeGreaterThan(0.4);
		expect((y0 + y1) / 2).toBeLessThan(0.6);
	});

	it('shows what lies around it in grey, not as dark as the answer', async () => {
		const made = await cutOut(await openPage(page, []), part(0.29, 0.5, true));
		const plain = await sharp(made.image.bytes).raw().toBuffer();
		expect(darkest(plain, 1, WIDTH, 0, made.image.height)).toBeLessThan(60);
		const seam = await cutOut(await openPage(page, []), part(0.35, 0.5, true));
		const grey = await sharp(seam.image.bytes).raw().toBuffer();
		// The first answer lies above the seam.
		expect(darkest(grey, 1, WIDTH, 0, seam.image.height)).toBeGreaterThan(120);
	});

	it('has no name in its picture or its words, once that was taken off', async () => {
		const made = await cutOut(await openPage(page, [TEXT[0]!.box]), part(0, 0.5));
		expect(made.text.map((l) => l.text)).toEqual(['the first answer']);
		const { samples } = await openPage(page, [TEXT[0]!.box]);
		const rows = (y: number) => Math.round(y * HEIGHT);
		// The frame around the place is there, and no ink within it.
		expect(darkest(samples.data, 1, WIDTH, rows(0.035), rows(0.045))).toBeGreaterThan(100);
		expect(darkest(samples.data, 1, WIDTH, rows(0.3), rows(0.32))).toBeLessThan(60);
	});
});

describe('a bundle as a PDF', () => {
	it('has each answer under a heading that is seen, and its words laid over it', async () => {
		const opened = await openPage(page, [TEXT[0]!.box]);
		const answer = async (heading: string) => ({
			heading,
			cutOuts: [{ ...(await cutOut(opened, part(0, 1))), position: 1 }]
		});
		const { pdf, begins } = await makeBundlePdf({
			question: 'Question 3',
			title: 'Worksheet 3',
			answers: [await answer('K7QX'), await answer('M2PD')],
			without: ['R4WB'],
			apart: false,
			created: new Date('2031-03-14T12:00:00Z')
		});
		expect(begins).toEqual([1, 2]);
		const path = join(folder, 'bundle.pdf');
		writeFileSync(path, pdf);
		expect(await countPdfPages(path)).toBe(3);
		const drawn = await drawPdfPage(path, 0, 72);
		expect(darkest(drawn.data, drawn.channels, drawn.width, 8, 26)).toBeLessThan(120);
		const words = (await pdfPageLines(path, 0)).lines.map((l) => l.text);
		expect(words).toEqual(expect.arrayContaining(['K7QX', 'the first answer', 'the second answer']));
		expect(words.join(' ')).not.toContain('Brandsma');
		expect((await pdfPageLines(path, 2)).lines.map((l) => l.text).join(' ')).toContain('R4WB');
	});
});
