import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { crc32 } from 'node:zlib';
import { PDFDocument } from '@cantoo/pdf-lib';
import fc from 'fast-check';
import { strFromU8, strToU8, zipSync } from 'fflate';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { damage, damaged, HEIC, noise, soundFiles } from '../../../../tests/support/damaged';
import { encodePage, group4 } from './encode';
import { makePdf } from './pdfOut';
import { decodePlane } from './picture';
import { typeOf } from './sniff';
import { decodeSource, openSource } from './source';
import { SourceError } from './sourceError';
import { unpackZip } from './zipIn';

const folder = mkdtempSync(join(tmpdir(), 'membrana-codec-'));
const file = (name: string, bytes: Uint8Array | string) => {
	const path = join(folder, name);
	writeFileSync(path, bytes);
	return path;
};
/** A plane with one black bar near the top. */
function barPlane(width: number, height: number) {
	const data = new Uint8Array(width * height).fill(255);
	data.fill(0, width * 20, width * 60);
	return { width, height, data };
}

/** A BMP of 24 bits a pixel, its rows from the bottom up. @param pixels red, green, blue */
function bmp(width: number, height: number, pixels: Uint8Array): Buffer {
	const row = Math.ceil((3 * width) / 4) * 4;
	const out = Buffer.alloc(54 + row * height);
	out.write('BM');
	out.writeUInt32LE(out.length, 2);
	out.writeUInt32LE(54, 10);
	out.writeUInt32LE(40, 14);
	out.writeInt32LE(width, 18);
	out.writeInt32LE(height, 22);
	out.writeUInt16LE(1, 26);
	out.writeUInt16LE(24, 28);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const p = 3 * (y * width + x);
			const q = 54 + (height - 1 - y) * row + 3 * x;
			out.set([pixels[p + 2]!, pixels[p + 1]!, pixels[p]!], q);
		}
	}
	return out;
}

async function refusal(path: string): Promise<string> {
	try {
		const contents = await openSource(path);
		await decodeSource(path, contents.type, 0);
	} catch (error) {
		expect(error).toBeInstanceOf(SourceError);
		return (error as Error).message;
	}
	throw new Error('It was taken.');
}

describe('sources that can be used', () => {
	it('JPEG with its EXIF orientation, PNG with transparency, grey and CMYK', async () => {
		const turned = file(
			'turned.jpg',
			await noise(300, 200).withMetadata({ orientation: 6 }).jpeg().toBuffer()
		);
		const picture = await decodeSource(turned, (await openSource(turned)).type, 0);
		expect([picture.width, picture.height]).toEqual([200, 300]);

		const clear = {
			create: { width: 80, height: 80, channels: 4 as const, background: { r: 0, g: 0, b: 0, alpha: 0 } }
		};
		const png = await decodeSource(file('clear.png', await sharp(clear).png().toBuffer()), 'png', 0);
		expect([png.channels, png.data[0]]).toEqual([3, 255]);

		for (const space of ['b-w', 'cmyk']) {
			const bytes = await noise(90, 70).toColourspace(space).jpeg().toBuffer();
			const { data, channels } = await decodeSource(file(`${space}.jpg`, bytes), 'jpeg', 0);
			expect(data.length).toBe(90 * 70 * channels);
			// What is computed on it copies by `slice`, which of a Buffer is a view.
			expect(Buffer.isBuffer(data)).toBe(false);
			expect(Buffer.isBuffer((await decodePlane(bytes)).data)).toBe(false);
		}
	});

	it('GIF, AVIF and BMP, and a TIFF with 64-bit offsets', async () => {
		const red = sharp({ create: { width: 120, height: 90, channels: 3, background: '#e00000' } });
		const pixels = await red.clone().removeAlpha().raw().toBuffer();
		const pictures = {
			'red.gif': await red.clone().gif().toBuffer(),
			'red.avif': await red.clone().avif({ quality: 90 }).toBuffer(),
			'red.bmp': bmp(120, 90, pixels),
			'red.btf': await red.clone().tiff({ bigtiff: true }).toBuffer()
		};
		for (const [name, bytes] of Object.entries(pictures)) {
			const path = file(name, bytes);
			const contents = await openSource(path);
			expect([name, contents.pictures]).toEqual([name, 1]);
			const { width, height, data } = await decodeSource(path, contents.type, 0);
			expect([name, width, height]).toEqual([name, 120, 90]);
			expect(data[0]).toBeGreaterThan(200);
			expect(data[1]).toBeLessThan(30);
			expect(data[2]).toBeLessThan(30);
		}
	});

	it('a TIFF of several pages, each with its own picture', async () => {
		const pages = [
			await noise(120, 90).png().toBuffer(),
			await sharp({ create: { width: 120, height: 90, channels: 3, background: '#00f' } })
				.png()
				.toBuffer()
		];
		const bytes = await sharp(pages, { join: { animated: true } })
			.tiff({ compression: 'lzw' })
			.toBuffer();
		const path = file('two.tif', bytes);
		expect(await openSource(path)).toMatchObject({ type: 'tiff', pictures: 2 });
		const second = await decodeSource(path, 'tiff', 1);
		expect([second.width, second.height, ...second.data.subarray(0, 3)]).toEqual([120, 90, 0, 0, 255]);
	});

	it('HEIC', async () => {
		const path = file('phone.heic', HEIC);
		expect(await openSource(path)).toMatchObject({ type: 'heic', pictures: 1 });
		const { width, height, channels, data } = await decodeSource(path, 'heic', 0);
		expect([width, height]).toEqual([600, 800]);
		// Paper in the middle, wood at the rim.
		const light = (x: number, y: number) => data[(y * width + x) * channels + 2]!;
		expect(light(300, 500)).toBeGreaterThan(2 * light(10, 10));
	});

	it('a ZIP, file by file in the order of their names, without the litter of other programs', async () => {
		const zip = zipSync({
			'pages/scan 10.jpg': strToU8('ten'),
			'pages/scan 9.jpg': strToU8('nine'),
			'__MACOSX/pages/._scan 9.jpg': strToU8('litter'),
			'../../escape.jpg': strToU8('out')
		});
		const path = file('all.zip', zip);
		expect(await openSource(path)).toEqual({ type: 'zip', pictures: 0, takenAt: null });
		const into = join(folder, 'unpacked');
		const files = await unpackZip(path, into);
		expect(files.map((f) => f.name)).toEqual(['escape.jpg', 'scan 9.jpg', 'scan 10.jpg']);
		expect(files.every((f) => f.path.startsWith(join(into, '/')))).toBe(true);
		expect(files.map((f) => strFromU8(readFileSync(f.path)))).toEqual(['out', 'nine', 'ten']);
	});

	it('a PDF, page by page, whatever its name', async () => {
		const image = await encodePage({ holds: 'ink', plane: barPlane(400, 560) });
		const bytes = await makePdf({
			title: 't',
			author: 'a',
			language: 'en',
			created: new Date(0),
			pages: [1, 2].map(() => ({ image, dotsPerInch: 100 })),
			bookmarks: []
		});
		const path = file('scan.jpg', bytes);
		expect(await openSource(path)).toMatchObject({ type: 'pdf', pictures: 2 });
		const page = await decodeSource(path, 'pdf', 1);
		expect([page.width, page.height]).toEqual([400, 560]);
		const grey = (y: number) => page.data[(y * page.width + 200) * page.channels]!;
		expect(grey(40)).toBe(0);
		expect(grey(300)).toBe(255);
	});
});

describe('sources that cannot be used', () => {
	it('kinds of pictures that cannot be read, by their names', async () => {
		const frames = [await noise(60, 60).png().toBuffer(), await noise(60, 60).negate().png().toBuffer()];
		const film = await sharp(frames, { join: { animated: true } })
			.gif()
			.toBuffer();
		expect(await refusal(file('film.gif', film))).toMatch(/^GIF pictures with several frames/);
		const jp2 = Buffer.concat([Buffer.from('0000000c6a5020200d0a870a', 'hex'), Buffer.alloc(60)]);
		expect(await refusal(file('page.jp2', jp2))).toMatch(/^JPEG 2000 pictures cannot be read/);
		expect(
			await refusal(file('short.bmp', bmp(120, 90, new Uint8Array(120 * 90 * 3)).subarray(0, 4000)))
		).toMatch(/^This BMP picture is damaged/);
		const tiny = bmp(120, 40, new Uint8Array(120 * 40 * 3));
		expect(await refusal(file('tiny.bmp', tiny))).toMatch(/only 120 x 40 pixels/);
		const small = await noise(49, 200).gif().toBuffer();
		expect(await refusal(file('tiny.gif', small))).toMatch(/only 49 x 200 pixels/);
	});

	it('each says why, in a sentence', async () => {
		const jpeg = await noise(400, 300).jpeg().toBuffer();
		expect(await refusal(file('empty.jpg', ''))).toContain('empty');
		expect(await refusal(file('words.jpg', 'just words'))).toContain('not a picture');
		expect(await refusal(file('half.jpg', jpeg.subarray(0, jpeg.length >> 1)))).toContain('breaks off');
		expect(await refusal(file('head.jpg', jpeg.subarray(0, 20)))).toContain('damaged');
		expect(await refusal(file('dot.png', await noise(1, 1).png().toBuffer()))).toContain('only 1 x 1');
		expect(await refusal(file('broken.pdf', '%PDF-1.7\nnothing'))).toContain('damaged');
		expect(await refusal(file('a.heic', Buffer.from('0000001c6674797068656963', 'hex')))).toContain('HEIC');
		const unpack = (bytes: Uint8Array) =>
			unpackZip(file('a.zip', bytes), join(folder, randomUUID())).then(
				() => 'no refusal',
				(error: unknown) => (error instanceof SourceError ? error.message : String(error))
			);
		expect(await unpack(Buffer.from('504b0304', 'hex'))).toContain('damaged');
		expect(await unpack(zipSync({ 'inner.zip': zipSync({ a: Uint8Array.of(1) }) }))).toContain('another one');
		expect(await unpack(zipSync({ '[Content_Types].xml': Uint8Array.of(1) }))).toContain('office file');
		const many = Object.fromEntries(Array.from({ length: 201 }, (_, i) => [`${i}.jpg`, Uint8Array.of(1)]));
		expect(await unpack(zipSync(many))).toContain('more than 200 files');
		// A file that unpacks to far more than it takes: refused by what it says of itself, before unpacking.
		const bomb = zipSync({ 'a.png': new Uint8Array(1000) });
		const header = Buffer.from(bomb).indexOf('PK\x01\x02', 'latin1');
		new DataView(bomb.buffer, bomb.byteOffset).setUint32(header + 24, 2_000_000_000, true);
		expect(await unpack(bomb)).toContain('unpacks to more than');
	});

	it('a picture of 30,000 x 30,000 is refused before it is decoded', async () => {
		// A PNG says its size at its beginning, and the checksum of that; drawing it whole would take a minute.
		const bytes = await noise(8, 8).png().toBuffer();
		bytes.writeUInt32BE(30_000, 16);
		bytes.writeUInt32BE(30_000, 20);
		bytes.writeUInt32BE(crc32(bytes.subarray(12, 29)), 29);
		expect(await refusal(file('huge.png', bytes))).toContain('30000 x 30000');
	});

	it('a PDF of 500 pages, and one with a password', async () => {
		const long = await PDFDocument.create();
		for (let i = 0; i < 500; i++) long.addPage([200, 200]);
		expect(await refusal(file('long.pdf', await long.save()))).toContain('500 pages');
		const plain = file('plain.pdf', await (await PDFDocument.create()).save());
		const locked = join(folder, 'locked.pdf');
		execFileSync('qpdf', ['--encrypt', 'secret', 'owner', '256', '--', plain, locked]);
		expect(await refusal(locked)).toContain('password');
	});

	it('any bytes at all are refused with a sentence or taken; nothing else is thrown', () => {
		fc.assert(
			fc.property(fc.uint8Array({ maxLength: 64 }), (bytes) => {
				try {
					expect(['jpeg', 'png', 'webp', 'tiff', 'heic', 'pdf', 'zip']).toContain(typeOf(Buffer.from(bytes)));
				} catch (error) {
					expect(error).toBeInstanceOf(SourceError);
				}
			})
		);
	});

	it('damaged files of every kind end in a sentence', async () => {
		const sound = await soundFiles();
		let n = 0;
		await fc.assert(
			fc.asyncProperty(damage, async (how) => {
				const path = file(`damaged-${n++}.${how.kind}`, damaged(sound, how));
				try {
					const contents = await openSource(path);
					if (contents.type === 'zip') {
						expect(await unpackZip(path, join(folder, randomUUID()))).toHaveLength(1);
						return;
					}
					const picture = await decodeSource(path, contents.type, 0);
					expect(picture.data.length).toBe(picture.width * picture.height * picture.channels);
				} catch (error) {
					expect(error).toBeInstanceOf(SourceError);
				}
			}),
			{ numRuns: 200 }
		);
	});
});

function blankPlane(width: number, height: number) {
	return { width, height, data: new Uint8Array(width * height).fill(255) };
}

describe('the PDF that is made', () => {
	it('passes qpdf, holds its pages, bookmarks, labels and metadata, and is black on white', async () => {
		const { width, height, data } = barPlane(827, 1169);
		const grey = await encodePage({ holds: 'greys', plane: { width, height, data } });
		const rgb = new Uint8Array(width * height * 3).fill(200);
		const colour = await encodePage({ holds: 'colours', picture: { width, height, channels: 3, data: rgb } });
		const bw = await encodePage({ holds: 'ink', plane: { width, height, data } });
		expect(bw.bytes.length).toBeLessThan(1000);
		const bytes = await makePdf({
			title: 'Gauging “the Lode”, Ångström',
			author: 'Ilka Brandsma',
			subject: 'HY-2',
			language: 'en',
			created: new Date('2026-11-24T12:00:00Z'),
			pages: [bw, grey, colour].map((image) => ({ image, dotsPerInch: 100 })),
			bookmarks: [
				{ title: 'Question 1', position: 1, top: 0 },
				{ title: 'Question 2a', position: 2, top: 0.5 }
			]
		});
		const path = file('made.pdf', bytes);
		const checked = execFileSync('qpdf', ['--check', path], { encoding: 'utf8' });
		expect(checked).toContain('No syntax or stream encoding errors');
		const info = execFileSync('pdfinfo', [path], { encoding: 'utf8' });
		expect(info).toMatch(/Pages:\s+3/);
		expect(info).toContain('A4');
		expect(info).toContain('Gauging “the Lode”, Ångström');
		expect(info).toMatch(/PDF version:\s+1\.7/i);
		const outline = JSON.parse(
			execFileSync('qpdf', ['--json', '--json-key=outlines', '--json-key=pagelabels', path], {
				encoding: 'utf8'
			})
		);
		expect(
			outline.outlines.map((o: { title: string; destpageposfrom1: number }) => [o.title, o.destpageposfrom1])
		).toEqual([
			['Question 1', 1],
			['Question 2a', 2]
		]);
		expect(outline.outlines[1].dest[3]).toBeCloseTo(421, 0);
		expect(outline.pagelabels).toHaveLength(1);

		execFileSync('pdftoppm', ['-r', '50', '-png', path, join(folder, 'seen')]);
		for (const page of [1, 2]) {
			const pgm = await sharp(join(folder, `seen-${page}.png`))
				.raw()
				.toBuffer({ resolveWithObject: true });
			const at = (y: number) =>
				pgm.data[(Math.round(y * pgm.info.height) * pgm.info.width + 200) * pgm.info.channels]!;
			expect(at(40 / 1169)).toBeLessThan(60);
			expect(at(0.5)).toBeGreaterThan(230);
		}
	});

	it('holds the text where it is written, in any script, and shows none of it', async () => {
		const image = await encodePage({ holds: 'ink', plane: blankPlane(827, 1169) });
		const text = [
			{ box: [0.1, 0.2, 0.5, 0.225] as const, text: 'the Lode at Ångström', confidence: 1 },
			{ box: [0.1, 0.25, 0.17, 0.275] as const, text: 'река 河', confidence: 1 }
		];
		// More characters than one font has codes for.
		const many = Array.from({ length: 300 }, (_, i) => String.fromCodePoint(0x4e00 + i)).join('');
		const bytes = await makePdf({
			title: 'x',
			author: 'x',
			language: 'en',
			created: new Date(0),
			pages: [
				{ image, dotsPerInch: 100, text },
				{ image, dotsPerInch: 100, text: [{ box: [0, 0.5, 1, 0.51], text: many, confidence: 1 }] },
				{ image, dotsPerInch: 100 }
			],
			bookmarks: []
		});
		const path = file('text.pdf', bytes);
		expect(execFileSync('qpdf', ['--check', path], { encoding: 'utf8' })).toContain('No syntax or stream');
		const words = (page: number) =>
			execFileSync('pdftotext', ['-f', String(page), '-l', String(page), path, '-'], { encoding: 'utf8' });
		expect(words(1)).toContain('the Lode at Ångström');
		expect(words(1)).toContain('река 河');
		expect(words(2).replace(/\s/g, '')).toBe(many);
		expect(words(3).trim()).toBe('');
		const boxes = execFileSync('pdftotext', ['-bbox', '-f', '1', '-l', '1', path, '-'], { encoding: 'utf8' });
		const word = /<word xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">Lode</.exec(boxes)!;
		const [x0, y0, x1, y1] = word.slice(1).map(Number) as [number, number, number, number];
		const [width, height] = [827 * 0.72, 1169 * 0.72];
		expect((x0 + x1) / 2 / width).toBeGreaterThan(0.15);
		expect((x0 + x1) / 2 / width).toBeLessThan(0.3);
		expect((y0 + y1) / 2 / height).toBeCloseTo(0.2125, 2);
		execFileSync('pdftoppm', [
			'-r',
			'50',
			'-gray',
			'-png',
			'-f',
			'1',
			'-l',
			'1',
			path,
			join(folder, 'plain')
		]);
		const { data } = await sharp(join(folder, 'plain-1.png')).raw().toBuffer({ resolveWithObject: true });
		expect(data.every((v) => v === 255)).toBe(true);
	});

	it('Group 4 is one strip whatever the height, and refuses bookmarks on pages that are not there', async () => {
		for (const height of [16, 257, 1000])
			expect((await group4(barPlane(100, height))).length).toBeGreaterThan(4);
		const image = await encodePage({ holds: 'ink', plane: barPlane(100, 100) });
		const contents = {
			title: '',
			author: '',
			language: 'en',
			created: new Date(),
			pages: [{ image, dotsPerInch: 100 }]
		};
		await expect(makePdf({ ...contents, bookmarks: [{ title: 'x', position: 2, top: 0 }] })).rejects.toThrow(
			RangeError
		);
	});
});
