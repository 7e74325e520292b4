import sharp from 'sharp';
import { hideInk, type Samples } from '../../core/bundle/hideInk';
import { trimmed } from '../../core/bundle/trimmed';
import type { Drawn } from '../../core/marks/onPage';
import { luma } from '../../core/raster/luma';
import type { Picture, Plane } from '../../core/raster/picture';
import type { TextLine } from '../../core/reading/pageReading';
import { group4, type PageImage } from './encode';
import { inColours, withMarks } from './marksOnImage';
import { pdfPageLines, pdfPagePicture } from './pdfIn';
import { rawPixels } from './rawPixels';

/** A page that something is cut out of: of a PDF, or a prepared page's image. */
export type PageToCut =
	| { readonly kind: 'pdf'; readonly path: string; readonly index: number }
	| {
			readonly kind: 'image';
			readonly path: string;
			readonly dotsPerInch: number;
			readonly text: readonly TextLine[];
			/** Added by a person, in pixels of the page. */
			readonly added?: readonly Drawn[];
	  };

export interface CutOutInput {
	readonly page: PageToCut;
	/** Fractions of the page's height. */
	readonly top: number;
	readonly bottom: number;
	/** What lies around it is shown in grey. */
	readonly around: boolean;
	/** Taken off the page for good, as fractions of it. */
	readonly hide: readonly TextLine['box'][];
}

export interface MadeCutOut {
	readonly image: PageImage;
	readonly dotsPerInch: number;
	/** What is written on it; boxes as fractions of the cut-out. */
	readonly text: readonly TextLine[];
	/** Rows that are shown, as fractions of the page. */
	readonly top: number;
	readonly bottom: number;
}

/** A page read once, whose cut-outs are then made. */
export interface OpenPage {
	readonly samples: Samples;
	readonly grey: Plane;
	readonly twoTone: boolean;
	readonly dotsPerInch: number;
	readonly text: readonly TextLine[];
}

/** Millimetres of paper left above and below what is written, and shown in grey around it. */
const ROOM = 4;
const AROUND = 22;
/** Part of the ink that is left of what is shown in grey. */
const FADED = 0.38;
const QUALITY = 82;
/** Channels of grey pixels differ by less, once they were compressed. */
const GREY = 6;

/** Decodes a page and takes names off it. @throws SourceError */
export async function openPage(page: PageToCut, hide: readonly TextLine['box'][]): Promise<OpenPage> {
	const read = await load(page);
	hideInk(read.samples, hide);
	const text = read.text.filter(({ box }) => !hide.some((place) => touches(place, box)));
	return { ...read, grey: greyOf(read.samples), text };
}

/** Cuts one part out of a page, in its full width. */
export async function cutOut(
	page: OpenPage,
	{ top, bottom, around }: Pick<CutOutInput, 'top' | 'bottom' | 'around'>
): Promise<MadeCutOut> {
	const { samples, grey, dotsPerInch } = page;
	const { width, height, channels } = samples;
	const rows = (millimetres: number) => Math.round((millimetres * dotsPerInch) / 25.4);
	const [first, last] = [
		Math.round(top * height),
		Math.max(Math.round(top * height) + 1, Math.round(bottom * height))
	];
	const [from, to] = around
		? trimmed(grey, Math.max(0, first - rows(AROUND)), Math.min(height, last + rows(AROUND)), rows(ROOM))
		: trimmed(grey, first, last, rows(ROOM));
	const data = samples.data.slice(from * width * channels, to * width * channels);
	const isFaded = (y: number) => y < first || y >= last;
	let faded = false;
	for (let y = from; y < to; y++) {
		if (!isFaded(y)) continue;
		faded = true;
		for (let x = 0; x < width; x++) {
			const value = 255 - FADED * (255 - grey.data[y * width + x]!);
			data.fill(value, ((y - from) * width + x) * channels, ((y - from) * width + x + 1) * channels);
		}
	}
	const part: Samples = { width, height: to - from, channels, data };
	return {
		image: await encode(part, page.twoTone && !faded),
		dotsPerInch,
		text: page.text.flatMap((line) => within(line, from / height, to / height)),
		top: from / height,
		bottom: to / height
	};
}

async function load(page: PageToCut): Promise<Omit<OpenPage, 'grey'>> {
	if (page.kind === 'pdf') {
		const picture = await pdfPagePicture(page.path, page.index);
		const { width, lines } = await pdfPageLines(page.path, page.index);
		return { ...samplesOf(picture), dotsPerInch: (picture.width * 72) / width, text: lines };
	}
	const { width, height, channels, data } = await rawPixels(
		sharp(page.path).toColourspace('srgb').removeAlpha()
	);
	const read =
		channels === 1
			? plain({ width, height, channels, data })
			: samplesOf({ width, height, channels: 3, data });
	const { added = [], dotsPerInch, text } = page;
	if (added.length === 0) return { ...read, dotsPerInch, text };
	return { ...samplesOf(withMarks(inColours(read.samples), added)), dotsPerInch, text };
}

/** One channel where a picture is grey, three where it has colours. */
function samplesOf({ width, height, channels, data }: Picture): Pick<OpenPage, 'samples' | 'twoTone'> {
	let grey = true;
	for (let p = 0; grey && p < data.length; p += channels) {
		grey = Math.abs(data[p]! - data[p + 1]!) < GREY && Math.abs(data[p + 1]! - data[p + 2]!) < GREY;
	}
	const kept = grey ? 1 : 3;
	const out = new Uint8Array(width * height * kept);
	for (let i = 0, p = 0; p < data.length; p += channels) {
		for (let c = 0; c < kept; c++) out[i++] = data[p + c]!;
	}
	return plain({ width, height, channels: kept, data: out });
}

function plain(samples: Samples): Pick<OpenPage, 'samples' | 'twoTone'> {
	const twoTone = samples.channels === 1 && samples.data.every((value) => value === 0 || value === 255);
	return { samples, twoTone };
}

function greyOf({ width, height, channels, data }: Samples): Plane {
	return channels === 1 ? { width, height, data } : luma({ width, height, channels, data });
}

async function encode({ width, height, channels, data }: Samples, twoTone: boolean): Promise<PageImage> {
	if (twoTone) {
		return { format: 'g4', width, height, channels: 1, bytes: await group4({ width, height, data }) };
	}
	const raw = sharp(data, { raw: { width, height, channels } });
	const bytes = await (channels === 1 ? raw.toColourspace('b-w') : raw).jpeg({ quality: QUALITY }).toBuffer();
	return { format: 'jpeg', width, height, channels, bytes };
}

function touches(a: TextLine['box'], b: TextLine['box']): boolean {
	const across = Math.min(a[2], b[2]) - Math.max(a[0], b[0]);
	const down = Math.min(a[3], b[3]) - Math.max(a[1], b[1]);
	return across > 0 && down > 0.3 * Math.min(a[3] - a[1], b[3] - b[1]);
}

function within(
	{ box: [x0, y0, x1, y1], text, confidence }: TextLine,
	top: number,
	bottom: number
): TextLine[] {
	const middle = (y0 + y1) / 2;
	if (middle < top || middle >= bottom) return [];
	const at = (y: number) => Math.min(1, Math.max(0, (y - top) / (bottom - top)));
	return [{ box: [x0, at(y0), x1, at(y1)], text, confidence }];
}
