import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { prepareZXingModule, readBarcodes, type ReaderOptions } from 'zxing-wasm/reader';
import { analysePicture, type PictureFacts } from '../../core/page/preparePage';
import { halve } from '../../core/raster/halve';
import { luma } from '../../core/raster/luma';
import type { Picture, Plane } from '../../core/raster/picture';
import { readCover, type CoverSheet } from '../../core/reading/coverSheet';

const OPTIONS: ReaderOptions = { formats: ['QRCode'], tryInvert: false, maxNumberOfSymbols: 4 };
/** Pixels on the longer side that are enough for the cells of a cover sheet (coversPdf.ts). */
const ENOUGH = 1100;

let ready: Promise<unknown> | null = null;

/** The module ships with its package; left to itself it would fetch it. */
function prepared(): Promise<unknown> {
	ready ??= readFile(createRequire(import.meta.url).resolve('zxing-wasm/reader/zxing_reader.wasm')).then(
		(bytes) =>
			prepareZXingModule({
				overrides: { wasmBinary: new Uint8Array(bytes).buffer },
				fireImmediately: true
			})
	);
	return ready;
}

/**
 * What the code of a cover sheet in a picture says; null where there is none. It is looked for in the picture as it came,
 * whichever way round it lies: evening the light takes wide black for shade.
 */
export async function coverIn(picture: Picture): Promise<CoverSheet | null> {
	let grey: Plane = luma(picture);
	while (Math.max(grey.width, grey.height) >= 2 * ENOUGH) grey = halve(grey);
	const { width, height } = grey;
	const pixels = new Uint8ClampedArray(4 * width * height).fill(255);
	for (let i = 0, p = 0; i < width * height; i++, p += 4) {
		pixels[p] = pixels[p + 1] = pixels[p + 2] = grey.data[i]!;
	}
	await prepared();
	const codes = await readBarcodes({ width, height, data: pixels, colorSpace: 'srgb' }, OPTIONS);
	for (const { text } of codes) {
		const cover = readCover(text);
		if (cover) return cover;
	}
	return null;
}

/**
 * What is found in a picture before any page is made of it.
 *
 * @param inStack cover sheets may lie among its pages; looking for one costs as much as a quarter of the rest
 */
export async function factsOf(picture: Picture, inStack: boolean): Promise<PictureFacts> {
	const cover = inStack ? await coverIn(picture) : null;
	return { ...analysePicture(picture), ...(cover ? { cover } : {}) };
}
