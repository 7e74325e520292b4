import sharp, { type Sharp } from 'sharp';
import type { Picture, Plane } from '../../core/raster/picture';
import type { FinishedPage } from '../../core/tone/finish';

/** A page's image as it goes into the file. */
export interface PageImage {
	readonly format: 'jpeg' | 'g4';
	readonly width: number;
	readonly height: number;
	readonly channels: 1 | 3;
	readonly bytes: Buffer;
}

const QUALITY = { colour: 72, greyscale: 70 } as const;

function raw(image: Picture | Plane): Sharp {
	const channels = 'channels' in image ? image.channels : 1;
	return sharp(image.data, { raw: { width: image.width, height: image.height, channels } });
}

/** Encodes a finished page for the file: CCITT Group 4 in black and white, JPEG otherwise. */
export async function encodePage(page: FinishedPage): Promise<PageImage> {
	switch (page.holds) {
		case 'colours': {
			const { width, height } = page.picture;
			const bytes = await raw(page.picture).jpeg({ quality: QUALITY.colour }).toBuffer();
			return { format: 'jpeg', width, height, channels: 3, bytes };
		}
		case 'greys': {
			const { width, height } = page.plane;
			const bytes = await raw(page.plane)
				.toColourspace('b-w')
				.jpeg({ quality: QUALITY.greyscale })
				.toBuffer();
			return { format: 'jpeg', width, height, channels: 1, bytes };
		}
		case 'ink': {
			const { width, height } = page.plane;
			return { format: 'g4', width, height, channels: 1, bytes: await group4(page.plane) };
		}
	}
}

/**
 * CCITT Group 4 (ITU-T T.6) of a plane of 0 and 255, as one strip: libtiff writes it, its TIFF wrapper is
 * taken off. libtiff codes samples of 1 as black runs whatever the colour space says, so white paper is
 * coded as black: in a PDF the strip wants BlackIs1 true.
 */
export async function group4(plane: Plane): Promise<Buffer> {
	// A strip is as tall as the "tile": a multiple of 16 that takes in the whole page keeps it in one.
	const tileHeight = Math.ceil(plane.height / 16) * 16;
	const tiff = await raw(plane)
		.toColourspace('b-w')
		.tiff({ compression: 'ccittfax4', bitdepth: 1, tileHeight, tileWidth: 256 })
		.toBuffer();
	const little = tiff.toString('latin1', 0, 2) === 'II';
	const u16 = (at: number) => (little ? tiff.readUInt16LE(at) : tiff.readUInt16BE(at));
	const u32 = (at: number) => (little ? tiff.readUInt32LE(at) : tiff.readUInt32BE(at));
	const directory = u32(4);
	const tags = new Map<number, { count: number; at: number; short: boolean }>();
	for (let i = 0; i < u16(directory); i++) {
		const entry = directory + 2 + i * 12;
		tags.set(u16(entry), { short: u16(entry + 2) === 3, count: u32(entry + 4), at: entry + 8 });
	}
	const value = (tag: number) => {
		const entry = tags.get(tag);
		if (!entry || entry.count !== 1) throw new Error(`The encoder wrote TIFF tag ${tag} in an unknown way.`);
		return entry.short ? u16(entry.at) : u32(entry.at);
	};
	const [offset, length] = [value(273), value(279)];
	return tiff.subarray(offset, offset + length);
}

/** A JPEG whose longer side is at most `longest` pixels. */
export function encodePreview(image: Picture | Plane, longest: number, quality = 78): Promise<Buffer> {
	return raw(image)
		.resize({ width: longest, height: longest, fit: 'inside', withoutEnlargement: true })
		.jpeg({ quality })
		.toBuffer();
}

/** A picture of ours as a JPEG whose longer side is at most `longest` pixels. */
export function toPreview(bytes: Buffer, longest: number): Promise<Buffer> {
	return sharp(bytes)
		.resize({ width: longest, height: longest, fit: 'inside', withoutEnlargement: true })
		.jpeg({ quality: 82 })
		.toBuffer();
}

/** A 1-bit PNG of a black-and-white plane, for browsers. */
export function encodePng(plane: Plane): Promise<Buffer> {
	return raw(plane).png({ palette: true, colours: 2, dither: 0, compressionLevel: 6 }).toBuffer();
}
