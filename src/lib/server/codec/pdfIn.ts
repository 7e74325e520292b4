import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { PDFDocument, PDFName, PDFNumber, PDFRawStream } from '@cantoo/pdf-lib';
import { createCanvas } from '@napi-rs/canvas';
import * as pdfjs from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { Picture } from '../../core/raster/picture';
import type { TextLine } from '../../core/reading/pageReading';
import { LIMITS } from './limits';
import { scanOf } from './pdfScan';
import { BASELINE, SIZE } from './pdfText';
import { SourceError } from './sourceError';

/** Dots an inch at which pages are drawn. */
const RESOLUTION = 200;

const home = dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
const folder = (name: string) => join(home, name) + '/';

/** Bytes of the pieces in which a file is read; those beside each other are read at once. */
const RANGE = 2 ** 14;

/** Reads of a file what is asked for: a pile of a class's pages is large, and each process of work opens it for each page. */
class FileRanges extends pdfjs.PDFDataRangeTransport {
	constructor(
		readonly file: number,
		bytes: number
	) {
		super(bytes, null);
	}

	override requestDataRange(begin: number, end: number): void {
		const bytes = new Uint8Array(end - begin);
		readSync(this.file, bytes, 0, bytes.length, begin);
		this.onDataRange(begin, bytes);
	}
}

/**
 * Opens a PDF for as long as something is done with it.
 *
 * @throws SourceError when it is locked or damaged
 */
export async function withPdf<T>(
	path: string,
	work: (document: pdfjs.PDFDocumentProxy) => Promise<T>
): Promise<T> {
	const file = openSync(path, 'r');
	const task = pdfjs.getDocument({
		range: new FileRanges(file, fstatSync(file).size),
		rangeChunkSize: RANGE,
		disableAutoFetch: true,
		disableStream: true,
		standardFontDataUrl: folder('standard_fonts'),
		cMapUrl: folder('cmaps'),
		wasmUrl: folder('wasm'),
		iccUrl: folder('iccs'),
		isEvalSupported: false,
		// What slips past the look at its pictures' sizes is left out before it is decoded.
		maxImageSize: LIMITS.pixels,
		disableFontFace: true,
		verbosity: pdfjs.VerbosityLevel.ERRORS
	});
	try {
		const document = await task.promise.catch((error: Error) => {
			throw new SourceError(
				error.name === 'PasswordException'
					? 'This PDF is locked with a password. Save a copy without it and bring that in.'
					: 'This PDF is damaged and cannot be opened. Export or copy it again.'
			);
		});
		return await work(document);
	} finally {
		await task.destroy();
		closeSync(file);
	}
}

/** A page (from 0). @throws SourceError where there is none */
export async function pageOf(document: pdfjs.PDFDocumentProxy, index: number): Promise<pdfjs.PDFPageProxy> {
	if (index >= document.numPages) throw new SourceError(`This PDF has no page ${index + 1}.`);
	return document.getPage(index + 1);
}

/** How many pages a PDF has. @throws SourceError when it cannot be used */
export async function countPdfPages(path: string): Promise<number> {
	const count = await withPdf(path, (document) => Promise.resolve(document.numPages));
	const pixels = await largestPicture(path);
	if (pixels > LIMITS.pixels) {
		throw new SourceError(
			`In this PDF is a picture of ${Math.round(pixels / 1e6)} million pixels; at most ${LIMITS.pixels / 1e6} million can be handled. Scan it at a lower resolution.`
		);
	}
	if (count > LIMITS.pages) {
		throw new SourceError(
			`This PDF has ${count} pages; at most ${LIMITS.pages} can be taken in at once. Save the pages you need as a file of their own.`
		);
	}
	return count;
}

/** Pixels of the largest picture that a PDF speaks of, none of them decoded; 0 where it cannot be told. */
async function largestPicture(path: string): Promise<number> {
	try {
		const pdf = await PDFDocument.load(await readFile(path), {
			ignoreEncryption: true,
			updateMetadata: false
		});
		let largest = 0;
		for (const [, object] of pdf.context.enumerateIndirectObjects()) {
			if (!(object instanceof PDFRawStream)) continue;
			const { dict } = object;
			if (dict.lookup(PDFName.of('Subtype')) !== PDFName.of('Image')) continue;
			const [width, height] = ['Width', 'Height'].map((name) => dict.lookup(PDFName.of(name)));
			if (!(width instanceof PDFNumber) || !(height instanceof PDFNumber)) continue;
			largest = Math.max(largest, width.asNumber() * height.asNumber());
		}
		return largest;
	} catch {
		return 0;
	}
}

/** One page (from 0): its scan as it is, or drawn at 200 dots an inch, fewer for very large pages. @throws SourceError */
export function pdfPagePicture(path: string, index: number): Promise<Picture> {
	return withPdf(path, async (document) => {
		try {
			const page = await document.getPage(index + 1);
			return (await scanOf(page)) ?? (await draw(page, RESOLUTION));
		} catch (error) {
			if (error instanceof SourceError) throw error;
			throw new SourceError(`Page ${index + 1} of this PDF is damaged and cannot be drawn.`);
		}
	});
}

/** One page (from 0) of a PDF drawn as a reader shows it, whatever it holds. @throws SourceError */
export function drawPdfPage(path: string, index: number, dotsPerInch: number): Promise<Picture> {
	return withPdf(path, async (document) => draw(await pageOf(document, index), dotsPerInch));
}

/** The text that a page (from 0) holds, in lines; empty where it is a picture. @throws SourceError */
export function pdfPageText(path: string, index: number): Promise<string> {
	return withPdf(path, async (document) => {
		const { items } = await (await pageOf(document, index)).getTextContent();
		return items.map((item) => ('str' in item ? item.str + (item.hasEOL ? '\n' : '') : '')).join('');
	});
}

/**
 * Size of a page (from 0) in points, and the lines laid over it as we lay them (pdfText.ts).
 * @throws SourceError
 */
export function pdfPageLines(
	path: string,
	index: number
): Promise<{ width: number; height: number; lines: TextLine[] }> {
	return withPdf(path, async (document) => {
		const page = await pageOf(document, index);
		const { width, height } = page.getViewport({ scale: 1 });
		const { items } = await page.getTextContent({ disableNormalization: true });
		// The words of a line come one by one.
		const lines: { text: string; x0: number; x1: number; y: number; size: number }[] = [];
		for (const item of items) {
			if (!('str' in item) || item.str === '') continue;
			const [, , , size, x, y] = item.transform as [number, number, number, number, number, number];
			const last = lines.at(-1);
			if (last && Math.abs(last.y - y) < 0.1 && Math.abs(last.size - size) < 0.1) {
				last.text += item.str;
				last.x1 = Math.max(last.x1, x + item.width);
			} else if (item.str.trim() !== '') lines.push({ text: item.str, x0: x, x1: x + item.width, y, size });
		}
		return {
			width,
			height,
			lines: lines.map(({ text, x0, x1, y, size }) => {
				const high = size / SIZE;
				const top = 1 - (y + BASELINE * high) / height;
				return { box: [x0 / width, top, x1 / width, top + high / height], text: text.trim(), confidence: 1 };
			})
		};
	});
}

async function draw(page: pdfjs.PDFPageProxy, dotsPerInch: number): Promise<Picture> {
	const natural = page.getViewport({ scale: 1 });
	const wanted = dotsPerInch / 72;
	const scale = Math.min(wanted, Math.sqrt(40_000_000 / (natural.width * natural.height)));
	const viewport = page.getViewport({ scale });
	const width = Math.max(1, Math.round(viewport.width));
	const height = Math.max(1, Math.round(viewport.height));
	const canvas = createCanvas(width, height);
	const context = canvas.getContext('2d');
	context.fillStyle = '#ffffff';
	context.fillRect(0, 0, width, height);
	await page.render({
		canvas: null,
		canvasContext: context as unknown as CanvasRenderingContext2D,
		viewport
	}).promise;
	const rgba = context.getImageData(0, 0, width, height).data;
	return { width, height, channels: 4, data: rgba };
}
