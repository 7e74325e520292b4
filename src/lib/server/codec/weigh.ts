import sharp, { type Sharp } from 'sharp';
import type { Plane } from '../../core/raster/picture';
import { writingMask } from '../../core/legibility/writingMask';
import { enlarge } from '../../core/raster/enlarge';
import { halve } from '../../core/raster/halve';
import { besideWriting, inkLoss } from '../../core/size/inkLoss';
import { coarserEncodings, type Encoding, type PageWeight } from '../../core/size/pageWeights';
import { greyOf, type FinishedPage } from '../../core/tone/finish';
import { heldBy, type Tone, type ToneName } from '../../core/tone/tone';
import { encodePage, encodePng, group4, type PageImage } from './encode';
import { decodePlane } from './picture';
import { rawPixels } from './rawPixels';

/** Noise that is left in the paper of a page whose light was evened out, in grey levels. */
const PAPER_NOISE = 1.5;
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
	const holds = heldBy(page.tone);
	if (holds === 'ink') {
		const plane = await smaller.greyscale().threshold(128).toColourspace('b-w').raw().toBuffer();
		const bytes = await group4({ width, height, data: plane });
		return {
			image: { format: 'g4', width, height, channels: 1, bytes },
			decoded: () => sharp(plane, { raw: { width, height, channels: 1 } })
		};
	}
	const isColour = holds === 'colours';
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
	const plane = await decodePlane(page.view);
	const before = { plane, near: besideWriting(writingMask(halve(plane), PAPER_NOISE), plane) };
	const weights: PageWeight[] = [{ tone: null, encoding: null, bytes, loss: 0 }];
	weights.push(...(await coarser(before, page, null, 0, 0)));
	for (const tone of others) {
		const finished = await inTone(tone);
		const image = await encodePage(finished);
		const view = finished.holds === 'ink' ? await encodePng(finished.plane) : image.bytes;
		const base = heldBy(page.tone) === 'colours' ? COLOUR : 0;
		const loss = Math.min(1, base + inkLoss(plane, greyOf(finished), before.near));
		weights.push({ tone, encoding: null, bytes: image.bytes.length, loss });
		weights.push(...(await coarser(before, { ...page, view, tone: tone.name }, tone, base, loss)));
	}
	return weights;
}

async function coarser(
	before: { readonly plane: Plane; readonly near: Uint8Array },
	page: AsPrepared,
	tone: Tone | null,
	base: number,
	least: number
): Promise<PageWeight[]> {
	const weights: PageWeight[] = [];
	for (const encoding of coarserEncodings(page.dotsPerInch, page.tone)) {
		const { image, decoded } = await coarserImage(page, encoding);
		const { data } = await rawPixels(decoded().toColourspace('b-w'));
		// Not by sharp, which moves what it enlarges by half a pixel: a thin stroke would not lie on itself.
		const after = enlarge({ width: image.width, height: image.height, data }, page.width, page.height);
		// Black and white drawn larger is smoother than it was, and no better for it.
		const loss = Math.min(1, Math.max(least, base + inkLoss(before.plane, after, before.near)));
		weights.push({ tone, encoding, bytes: image.bytes.length, loss });
	}
	return weights;
}
