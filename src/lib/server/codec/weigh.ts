import sharp, { type Sharp } from 'sharp';
import type { Plane } from '../../core/raster/picture';
import { inkLoss } from '../../core/size/inkLoss';
import { coarserEncodings, type Encoding, type PageWeight } from '../../core/size/pageWeights';
import { greyOf, type FinishedPage } from '../../core/tone/finish';
import type { Tone, ToneName } from '../../core/tone/tone';
import { encodePage, encodePng, group4, type PageImage } from './encode';
import { decodePlane } from './picture';

/** What colour is worth where a page loses it, in the measure of inkLoss. */
const COLOUR = 0.05;

/** A page as it was prepared: a JPEG, or a PNG in black and white. */
export interface AsPrepared {
	readonly view: string | Buffer;
	readonly tone: ToneName;
	readonly width: number;
	readonly height: number;
	readonly dotsPerInch: number;
}

/** The image of a prepared page, kept less finely. The same page and encoding give the same bytes. */
export async function encodeCoarser(page: AsPrepared, encoding: Encoding): Promise<PageImage> {
	return (await coarserImage(page, encoding)).image;
}

async function coarserImage(
	page: AsPrepared,
	encoding: Encoding
): Promise<{ image: PageImage; decoded: () => Sharp }> {
	const scale = Math.min(1, encoding.dotsPerInch / page.dotsPerInch);
	const width = Math.max(1, Math.round(page.width * scale));
	const height = Math.max(1, Math.round(page.height * scale));
	const smaller = sharp(page.view).resize({ width, height, fit: 'fill', kernel: 'lanczos3' });
	if (page.tone === 'black-and-white') {
		const plane = await smaller.greyscale().threshold(128).toColourspace('b-w').raw().toBuffer();
		const bytes = await group4({ width, height, data: plane });
		return {
			image: { format: 'g4', width, height, channels: 1, bytes },
			decoded: () => sharp(plane, { raw: { width, height, channels: 1 } })
		};
	}
	const isColour = page.tone === 'colour';
	const bytes = await (isColour ? smaller : smaller.toColourspace('b-w'))
		.jpeg({ quality: encoding.quality, mozjpeg: true })
		.toBuffer();
	return {
		image: { format: 'jpeg', width, height, channels: isColour ? 3 : 1, bytes },
		decoded: () => sharp(bytes)
	};
}

/**
 * Weighs the ways to keep a page in the file.
 *
 * @param page as prepared
 * @param bytes of its image as prepared
 * @param inTone makes the page in another tone; asked for those that are smaller
 * @param others tones that the rule sheet allows beside its own, smaller ones only
 */
export async function weighPage(
	page: AsPrepared,
	bytes: number,
	others: readonly Tone[],
	inTone: (tone: Tone) => Promise<FinishedPage>
): Promise<PageWeight[]> {
	const before = await decodePlane(page.view);
	const weights: PageWeight[] = [{ tone: null, encoding: null, bytes, loss: 0 }];
	weights.push(...(await coarser(before, page, null, 0)));
	for (const tone of others) {
		const finished = await inTone(tone);
		const image = await encodePage(finished);
		const view = finished.tone === 'black-and-white' ? await encodePng(finished.plane) : image.bytes;
		const base = page.tone === 'colour' ? COLOUR : 0;
		const loss = Math.min(1, base + inkLoss(before, greyOf(finished)));
		weights.push({ tone, encoding: null, bytes: image.bytes.length, loss });
		weights.push(...(await coarser(before, { ...page, view, tone: tone.name }, tone, base)));
	}
	return weights;
}

async function coarser(
	before: Plane,
	page: AsPrepared,
	tone: Tone | null,
	base: number
): Promise<PageWeight[]> {
	const weights: PageWeight[] = [];
	for (const encoding of coarserEncodings(page.dotsPerInch, page.tone)) {
		const { image, decoded } = await coarserImage(page, encoding);
		const { width, height } = page;
		const data = await decoded()
			.resize({ width, height, fit: 'fill', kernel: 'cubic' })
			.toColourspace('b-w')
			.raw()
			.toBuffer();
		const loss = Math.min(1, base + inkLoss(before, { width, height, data }));
		weights.push({ tone, encoding, bytes: image.bytes.length, loss });
	}
	return weights;
}
