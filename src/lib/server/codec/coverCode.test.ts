import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Picture } from '../../core/raster/picture';
import { makeCoversPdf } from './coversPdf';
import { drawPdfPage } from './pdfIn';
import { coverIn } from './coverCode';

const ASSIGNMENT = '3f0c9a52-5f0e-4a57-9d36-3d8f0a1c77b1';
const PEOPLE = [
	{ sourcedId: 's-07', given: 'Zoë', family: 'Vartiäinen' },
	{ sourcedId: 'ä/1 2', given: 'Dov', family: '' }
];
/** The sheets as pictures. */
const drawn: Buffer[] = [];
const file = join(mkdtempSync(join(tmpdir(), 'membrana-covers-')), 'covers.pdf');

beforeAll(async () => {
	const sheets = { title: 'Worksheet 3: The Weir', course: 'HY-2', assignment: ASSIGNMENT, people: PEOPLE };
	writeFileSync(file, await makeCoversPdf(sheets));
	for (const i of PEOPLE.keys()) {
		const { width, height, channels, data } = await drawPdfPage(file, i, 200);
		drawn.push(await sharp(data, { raw: { width, height, channels } }).png().toBuffer());
	}
});

/** A page of the sheets as a scan of 200 dots an inch, after something was done to it. */
async function scanned(index: number, change: (picture: Sharp) => Sharp): Promise<Picture> {
	const { data, info } = await change(sharp(drawn[index]!))
		.toColourspace('srgb')
		.removeAlpha()
		.raw()
		.toBuffer({ resolveWithObject: true });
	return { width: info.width, height: info.height, channels: 3, data: new Uint8Array(data) };
}

describe('cover sheets', () => {
	it('say on paper whose they are', () => {
		const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
		expect(text).toMatch(/Vartiäinen\s+Zoë\s+HY-2 · Worksheet 3: The Weir/);
		expect(text.split('\f').filter((page) => page.trim())).toHaveLength(PEOPLE.length);
	});

	it.each<[string, (picture: Sharp) => Sharp]>([
		['straight', (p) => p],
		['upside down', (p) => p.rotate(180)],
		['askew', (p) => p.rotate(4, { background: 'white' })],
		['faint and soft', (p) => p.linear(0.35, 160).blur(2)],
		['at half the resolution, and darkened', (p) => p.resize(827).linear(0.6, 0).resize(1654)]
	])('are read as they were scanned: %s', async (_, change) => {
		for (const [i, { sourcedId }] of PEOPLE.entries()) {
			expect(await coverIn(await scanned(i, change))).toEqual({ assignment: ASSIGNMENT, person: sourcedId });
		}
	});

	it('are no other pages, with another code or with none', async () => {
		expect(
			await coverIn(await scanned(0, (p) => p.extract({ left: 0, top: 0, width: 1654, height: 700 })))
		).toBe(null);
		const { toBuffer } = await import('qrcode');
		const code = await toBuffer('https://example.org/MEMBRANA-COVER-1', { width: 900 });
		const { data, info } = await sharp(code)
			.toColourspace('srgb')
			.removeAlpha()
			.raw()
			.toBuffer({ resolveWithObject: true });
		expect(
			await coverIn({ width: info.width, height: info.height, channels: 3, data: new Uint8Array(data) })
		).toBe(null);
	});
});
