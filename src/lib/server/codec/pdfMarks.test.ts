import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFArray, PDFDict, PDFDocument, PDFHexString, PDFName } from '@cantoo/pdf-lib';
import { beforeAll, describe, expect, it } from 'vitest';
import { drawnOn, type Drawn } from '../../core/marks/onPage';
import { unnamed } from '../../core/bundle/unnamed';
import { blankPicture, type Picture } from '../../core/raster/picture';
import { wholePicture } from '../../core/sheet/geometry';
import { cutOut, openPage } from './cutOut';
import { encodePage, encodePng, type PageImage } from './encode';
import { withMarks, withMarksOn } from './marksOnImage';
import { drawPdfPage, pdfPageLines } from './pdfIn';
import { makePdf } from './pdfOut';
import { decodePicture } from './picture';

const [WIDTH, HEIGHT, DPI] = [827, 1169, 100];
const SHAPE = {
	corners: wholePicture(WIDTH, HEIGHT),
	turn: 0,
	width: WIDTH,
	height: HEIGHT,
	dotsPerInch: DPI
} as const;
const folder = mkdtempSync(join(tmpdir(), 'membrana-marks-'));
/** A bar of ink, so that what is drawn over it can be told from what is drawn beside it. */
const page = blankPicture(WIDTH, HEIGHT);
for (let y = 600; y < 640; y++) page.data.fill(20, 3 * (y * WIDTH + 100), 3 * (y * WIDTH + 300));
const GREY = {
	width: WIDTH,
	height: HEIGHT,
	data: Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => page.data[3 * i]!)
};
const DRAWN: Drawn[] = drawnOn(SHAPE, [
	{ id: 'a', kind: 'pen', colour: 'red', width: 2, points: [[100, 300, 0.5], [400, 300, 0.5]] }, // prettier-ignore
	{ id: 'b', kind: 'marker', colour: 'yellow', width: 8, points: [[60, 620, 0.5], [500, 620, 0.5]] }, // prettier-ignore
	{
		id: 'c',
		kind: 'words',
		colour: 'ink',
		size: 8,
		at: [100, 800],
		text: 'Übersicht final\nof Ilka Brandsma'
	}
]);
const created = new Date('2031-03-14T12:00:00Z');
let image: PageImage;

beforeAll(async () => {
	image = await encodePage({ holds: 'colours', picture: page });
});

async function pdfWith(notesApart: boolean): Promise<string> {
	const bytes = await makePdf({
		title: 'Worksheet 3',
		author: 'Ilka Brandsma',
		language: 'en',
		created,
		pages: [{ image, dotsPerInch: DPI, added: { drawn: DRAWN, dotsPerInch: DPI } }],
		bookmarks: [],
		notesApart
	});
	const path = join(folder, `${notesApart}.pdf`);
	writeFileSync(path, bytes);
	return path;
}

function colourAt({ width, channels, data }: Picture, x: number, y: number): number[] {
	return [0, 1, 2].map((c) => data[(y * width + x) * channels + c]!);
}

/** The pen is red, the marker yellow and see-through, and words stand below. */
function expectMarks(picture: Picture): void {
	const [r, g, b] = colourAt(picture, 250, 300) as [number, number, number];
	expect(r - Math.max(g, b)).toBeGreaterThan(80);
	const marked = colourAt(picture, 450, 620) as [number, number, number];
	expect(marked[0] - marked[2]).toBeGreaterThan(120);
	expect(Math.max(...colourAt(picture, 200, 620))).toBeLessThan(60);
	let ink = 0;
	for (let y = 795; y < 870; y++) for (let x = 95; x < 400; x++) if (colourAt(picture, x, y)[0]! < 120) ink++;
	expect(ink).toBeGreaterThan(150);
	expect(Math.min(...colourAt(picture, 600, 1000))).toBeGreaterThan(245);
}

describe('what was added to a page, in the file', () => {
	it('is drawn as part of it, and its words can be searched', async () => {
		const path = await pdfWith(false);
		expectMarks(await drawPdfPage(path, 0, DPI));
		const words = (await pdfPageLines(path, 0)).lines.map((l) => l.text).join(' ');
		expect(words).toContain('Übersicht final');
		const [first] = (await PDFDocument.load(readFileSync(path))).getPages();
		expect(first!.node.Annots()?.size() ?? 0).toBe(0);
	});

	it('or as notes of their own, with their appearance, whose they are and what they say', async () => {
		const path = await pdfWith(true);
		expectMarks(await drawPdfPage(path, 0, DPI));
		const [first] = (await PDFDocument.load(readFileSync(path))).getPages();
		const notes = first!.node.Annots()!;
		const kinds = Array.from({ length: notes.size() }, (_, i) => notes.lookup(i, PDFDict));
		expect(kinds.map((n) => n.get(PDFName.of('Subtype'))?.toString())).toEqual(['/Ink', '/Ink', '/FreeText']);
		expect(kinds[2]!.lookup(PDFName.of('Contents'), PDFHexString).decodeText()).toBe(
			'Übersicht final\nof Ilka Brandsma'
		);
		for (const note of kinds) {
			expect(note.lookup(PDFName.of('AP'), PDFDict).get(PDFName.of('N'))).toBeDefined();
			const rect = note.lookup(PDFName.of('Rect'), PDFArray).asRectangle();
			expect(rect.width).toBeGreaterThan(0);
			expect(rect.y + rect.height).toBeLessThan(842);
		}
	});
});

describe('what was added to a page, in a picture', () => {
	it('is drawn over it, in a file of the same kind', async () => {
		expectMarks(withMarks(page, DRAWN));
		const png = await withMarksOn(await encodePng(GREY), DRAWN, 80);
		const path = join(folder, 'page.png');
		writeFileSync(path, png);
		expectMarks(await decodePicture(path));
	});

	it('is in the cut-outs of a bundle, without the name of whoever wrote it', async () => {
		const path = join(folder, 'plain.png');
		writeFileSync(path, await encodePng(GREY));
		const hidden = unnamed(DRAWN, { given: 'Ilka', family: 'Brandsma' }, HEIGHT);
		expect(hidden.find((d) => d.kind === 'words')).toMatchObject({
			lines: ['Übersicht final', 'of ···· ········']
		});
		const opened = await openPage({ kind: 'image', path, dotsPerInch: DPI, text: [], added: hidden }, []);
		const made = await cutOut(opened, { top: 0, bottom: 1, around: false });
		expect(made.image.channels).toBe(3);
		// A stroke at the top may be a name.
		const top = drawnOn(SHAPE, [
			{ id: 'd', kind: 'pen', colour: 'ink', width: 1, points: [[100, 60, 0.5], [300, 90, 0.5]] } // prettier-ignore
		]);
		expect(unnamed(top, { given: 'Ilka', family: 'Brandsma' }, HEIGHT)).toEqual([]);
	});
});
