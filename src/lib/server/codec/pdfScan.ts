import * as pdfjs from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { Picture } from '../../core/raster/picture';
import { LIMITS } from './limits';

/** A picture that leaves no more than this share of the page's sides uncovered is the page. */
const MARGIN = 0.02;
/** Scans of less than this many dots an inch gain from being drawn larger, for those that read them. */
const LEAST_RESOLUTION = 72;

type Matrix = readonly [number, number, number, number, number, number];

/** What is drawn on a page that is only a scan: one picture, and at most words that are not to be seen. */
interface Scan {
	readonly name: string;
	readonly width: number;
	readonly height: number;
	/** From the unit square, in which pictures stand on their lower side, to the page. */
	readonly matrix: Matrix;
}

/**
 * The scan out of a page that is nothing but one picture, pixel for pixel, turned as the page is shown.
 *
 * @returns null when there is more on the page, or the picture does not fill it, or lies askew
 */
export async function scanOf(page: pdfjs.PDFPageProxy): Promise<Picture | null> {
	const scan = onlyPicture(await page.getOperatorList());
	if (!scan || scan.width * scan.height > LIMITS.pixels) return null;
	const { transform, width, height } = page.getViewport({ scale: 1 });
	const shown = multiply(transform as unknown as Matrix, scan.matrix);
	const [a, b, c, d, e, f] = shown;
	const xs = [e, e + a + c];
	const ys = [f, f + b + d];
	const upright = Math.abs(b) < 1e-3 * Math.abs(a) && Math.abs(c) < 1e-3 * Math.abs(d);
	const sideways = Math.abs(a) < 1e-3 * Math.abs(b) && Math.abs(d) < 1e-3 * Math.abs(c);
	const covers = (span: readonly number[], length: number) =>
		Math.min(...span) < MARGIN * length && Math.max(...span) > (1 - MARGIN) * length;
	if (!(upright || sideways) || !covers(xs, width) || !covers(ys, height)) return null;
	const across = sideways ? scan.height : scan.width;
	if ((across / width) * 72 < LEAST_RESOLUTION) return null;
	const image = await new Promise<PdfImage | null>((done) => page.objs.get(scan.name, done));
	const plain = image && rgb(image);
	return plain && turned(plain, shown);
}

function onlyPicture({ fnArray, argsArray }: { fnArray: number[]; argsArray: unknown[] }): Scan | null {
	const { OPS } = pdfjs;
	const saved: { matrix: Matrix; unseen: boolean }[] = [];
	let matrix: Matrix = [1, 0, 0, 1, 0, 0];
	let unseen = false;
	let found: Scan | null = null;
	for (const [i, operator] of fnArray.entries()) {
		const args = argsArray[i] as never[];
		switch (operator) {
			case OPS.save:
				saved.push({ matrix, unseen });
				break;
			case OPS.restore:
				({ matrix, unseen } = saved.pop() ?? { matrix, unseen });
				break;
			case OPS.transform:
				matrix = multiply(matrix, args as unknown as Matrix);
				break;
			case OPS.setTextRenderingMode:
				unseen = (args[0] as unknown) === 3;
				break;
			case OPS.paintImageXObject: {
				if (found) return null;
				const [name, width, height] = args as unknown as [string, number, number];
				found = { name, width, height, matrix };
				break;
			}
			case OPS.showText:
			case OPS.showSpacedText:
			case OPS.nextLineShowText:
			case OPS.nextLineSetSpacingShowText:
				if (!unseen) return null;
				break;
			default:
				if (SHOWS.has(operator)) return null;
		}
	}
	return found;
}

/** Operators that leave something else on the page. */
const SHOWS = new Set<number>([
	pdfjs.OPS.constructPath,
	pdfjs.OPS.rawFillPath,
	pdfjs.OPS.shadingFill,
	pdfjs.OPS.paintImageMaskXObject,
	pdfjs.OPS.paintImageMaskXObjectGroup,
	pdfjs.OPS.paintImageMaskXObjectRepeat,
	pdfjs.OPS.paintImageXObjectRepeat,
	pdfjs.OPS.paintInlineImageXObject,
	pdfjs.OPS.paintInlineImageXObjectGroup,
	pdfjs.OPS.paintSolidColorImageMask,
	pdfjs.OPS.paintFormXObjectBegin,
	pdfjs.OPS.beginGroup,
	pdfjs.OPS.beginAnnotation
]);

/** First the second, then the first. */
function multiply([a, b, c, d, e, f]: Matrix, [p, q, r, s, t, u]: Matrix): Matrix {
	return [a * p + c * q, b * p + d * q, a * r + c * s, b * r + d * s, a * t + c * u + e, b * t + d * u + f];
}

interface PdfImage {
	readonly width: number;
	readonly height: number;
	readonly kind: number;
	readonly data?: Uint8Array | Uint8ClampedArray;
}

/** As RGB; null in a layout that is not known. */
function rgb({ width, height, kind, data }: PdfImage): Picture | null {
	if (!data) return null;
	const { GRAYSCALE_1BPP, RGB_24BPP, RGBA_32BPP } = pdfjs.ImageKind;
	if (kind === RGB_24BPP) return { width, height, channels: 3, data };
	if (kind === RGBA_32BPP) return { width, height, channels: 4, data };
	if (kind !== GRAYSCALE_1BPP) return null;
	const out = new Uint8Array(width * height * 3);
	const stride = (width + 7) >> 3;
	for (let y = 0, p = 0; y < height; y++) {
		for (let x = 0; x < width; x++, p += 3) {
			const white = (data[y * stride + (x >> 3)]! >> (7 - (x & 7))) & 1;
			out[p] = out[p + 1] = out[p + 2] = white * 255;
		}
	}
	return { width, height, channels: 3, data: out };
}

/**
 * Turns and mirrors a picture by quarter turns.
 *
 * @param shown from the unit square, in which the picture's first row is at 1, to the page with y pointing down
 */
function turned({ width, height, channels, data }: Picture, [a, b, c, d]: Matrix): Picture {
	if (a > 0 && d < 0 && a > Math.abs(b)) return { width, height, channels, data };
	const sideways = Math.abs(b) > Math.abs(a);
	const [w, h] = sideways ? [height, width] : [width, height];
	const out = new Uint8Array(w * h * channels);
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			// Along the picture's rows the page moves by (a, b); down its columns by -(c, d).
			const px = sideways ? (c < 0 ? y : w - 1 - y) : a > 0 ? x : w - 1 - x;
			const py = sideways ? (b > 0 ? x : h - 1 - x) : d < 0 ? y : h - 1 - y;
			const from = (y * width + x) * channels;
			const to = (py * w + px) * channels;
			for (let k = 0; k < channels; k++) out[to + k] = data[from + k]!;
		}
	}
	return { width: w, height: h, channels, data: out };
}
