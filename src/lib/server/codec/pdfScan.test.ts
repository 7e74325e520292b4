import { mkdtempSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { degrees, PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { encodePage } from './encode';
import { makePdf } from './pdfOut';
import { decodeSource } from './source';

const folder = mkdtempSync(join(tmpdir(), 'membrana-scan-'));
const WIDTH = 620;
const HEIGHT = 877;
/** Bright at the top, with a dark patch at the top left, so that every way of lying can be told. */
const scan = Uint8Array.from({ length: WIDTH * HEIGHT * 3 }, (_, i) => {
	const x = Math.floor(i / 3) % WIDTH;
	const y = Math.floor(i / 3 / WIDTH);
	return x < 150 && y < 150 ? 30 + (i % 3) * 20 : 240 - Math.floor((90 * y) / HEIGHT);
});
const raw = { width: WIDTH, height: HEIGHT, channels: 3 } as const;

/** A PDF with the scan on its one page. */
async function pdf(
	draw: (document: PDFDocument, image: Awaited<ReturnType<PDFDocument['embedPng']>>) => Promise<void> | void
) {
	const document = await PDFDocument.create();
	await draw(document, await document.embedPng(await sharp(scan, { raw }).png().toBuffer()));
	const path = join(folder, `${Math.random()}.pdf`);
	writeFileSync(path, await document.save());
	return decodeSource(path, 'pdf', 0);
}

function channelsOf({ data, width, height, channels }: Awaited<ReturnType<typeof pdf>>) {
	return sharp(data, { raw: { width, height, channels } }).removeAlpha().raw().toBuffer();
}

describe('a full-page scan', () => {
	it.each([0, 90, 180, 270])('comes out pixel for pixel from a page turned by %i degrees', async (turn) => {
		const page = await pdf((document, image) => {
			const sheet = document.addPage([595, 842]);
			sheet.drawImage(image, { x: 0, y: 0, width: 595, height: 842 });
			sheet.setRotation(degrees(turn));
		});
		const turned = await sharp(scan, { raw }).rotate(turn).raw().toBuffer({ resolveWithObject: true });
		expect([page.width, page.height]).toEqual([turned.info.width, turned.info.height]);
		expect((await channelsOf(page)).equals(turned.data)).toBe(true);
	});

	it('comes out as it is shown where it was drawn mirrored or on its side', async () => {
		const mirrored = await pdf((document, image) => {
			const sheet = document.addPage([595, 842]);
			sheet.drawImage(image, { x: 595, y: 0, width: -595, height: 842 });
		});
		const flopped = await sharp(scan, { raw }).flop().raw().toBuffer();
		expect((await channelsOf(mirrored)).equals(flopped)).toBe(true);
		const lying = await pdf((document, image) => {
			const sheet = document.addPage([842, 595]);
			sheet.drawImage(image, { x: 842, y: 0, width: 595, height: 842, rotate: degrees(90) });
		});
		// Counter-clockwise in a PDF.
		const turned = await sharp(scan, { raw }).rotate(270).raw().toBuffer();
		expect([lying.width, lying.height]).toEqual([HEIGHT, WIDTH]);
		expect((await channelsOf(lying)).equals(turned)).toBe(true);
	});

	it('in black and white too, with its own resolution', async () => {
		const data = new Uint8Array(400 * 560).fill(255).fill(0, 400 * 20, 400 * 60);
		const image = await encodePage({ holds: 'ink', plane: { width: 400, height: 560, data } });
		const path = join(folder, 'fax.pdf');
		const pages = [{ image, dotsPerInch: 100 }];
		writeFileSync(
			path,
			await makePdf({ title: 't', author: 'a', language: 'en', created: new Date(0), pages, bookmarks: [] })
		);
		const page = await decodeSource(path, 'pdf', 0);
		expect([page.width, page.height]).toEqual([400, 560]);
		const at = (y: number) => page.data[(y * 400 + 200) * page.channels];
		expect([at(19), at(20), at(59), at(60)]).toEqual([255, 0, 0, 255]);
	});

	it('is not taken for the page where words are seen on it, or where it leaves a border', async () => {
		const worded = await pdf(async (document, image) => {
			const sheet = document.addPage([595, 842]);
			sheet.drawImage(image, { x: 0, y: 0, width: 595, height: 842 });
			sheet.drawText('Ilka Brandsma', { font: await document.embedFont(StandardFonts.Helvetica), y: 400 });
		});
		const bordered = await pdf((document, image) => {
			document.addPage([595, 842]).drawImage(image, { x: 40, y: 40, width: 515, height: 762 });
		});
		for (const page of [worded, bordered]) expect([page.width, page.height]).toEqual([1653, 2339]);
	});
});

describe('a pile of many pages', () => {
	it('is read only as far as one page needs', async () => {
		const document = await PDFDocument.create();
		const noise = Uint8Array.from(scan, (v, i) => v ^ (Math.imul(i, 0x9e3779b1) >>> 25));
		const jpeg = await sharp(noise, { raw }).jpeg({ quality: 95 }).toBuffer();
		for (let i = 0; i < 24; i++) {
			// A file of its own each time: what stands behind a JPEG's end is not looked at.
			const image = await document.embedJpg(Buffer.concat([jpeg, Buffer.from([i])]));
			document.addPage([595, 842]).drawImage(image, { x: 0, y: 0, width: 595, height: 842 });
		}
		const path = join(folder, 'pile.pdf');
		writeFileSync(path, await document.save());
		await decodeSource(path, 'pdf', 3);
		const before = bytesRead();
		expect((await decodeSource(path, 'pdf', 17)).width).toBe(WIDTH);
		expect(bytesRead() - before).toBeLessThan(statSync(path).size / 3);
	});
});

/** That this process has read so far, of whatever file (proc(5)). */
function bytesRead(): number {
	return Number(/rchar: (\d+)/.exec(readFileSync('/proc/self/io', 'utf8'))![1]);
}
