import sharp, { type Metadata } from 'sharp';
import type { Picture, Plane } from '../../core/raster/picture';
import { LIMITS } from './limits';
import { checkPictureSize } from './pictureSize';
import { quantisationOf } from './quantisation';
import { rawPixels, type RawPixels } from './rawPixels';
import { SourceError } from './sourceError';
import { takenAt } from './takenAt';

// Work is spread over the pool's threads already: one libvips thread each keeps memory level.
sharp.concurrency(1);
sharp.cache(false);

export interface PictureHeader {
	readonly width: number;
	readonly height: number;
	/** When it was taken, ISO 8601 without zone, as the camera wrote it. */
	readonly takenAt: string | null;
	/** Pictures in the file; a TIFF may hold more than one, and a film. */
	readonly pages: number;
}

/** Size and time of a JPEG, PNG, WebP or TIFF, as displayed. @throws SourceError when it cannot be used */
export async function readHeader(path: string): Promise<PictureHeader> {
	let metadata: Metadata;
	try {
		metadata = await sharp(path, { limitInputPixels: false }).metadata();
	} catch {
		throw new SourceError('This picture is damaged: not even its size can be read. Copy it again.');
	}
	const { width, height, orientation = 1, pages = 1, format } = metadata;
	if (pages > LIMITS.pages && format === 'tiff') {
		throw new SourceError(
			`This file holds ${pages} pictures; at most ${LIMITS.pages} can be taken in at once. Save the ones you need.`
		);
	}
	checkPictureSize(width, height);
	const turned = orientation >= 5;
	return {
		width: turned ? height : width,
		height: turned ? width : height,
		takenAt: takenAt(metadata.exif),
		pages
	};
}

/** When a picture was taken; also of those whose container can be read here, though not their pixels (HEIC). */
export async function readTakenAt(path: string): Promise<string | null> {
	const metadata = await sharp(path, { limitInputPixels: false })
		.metadata()
		.catch(() => null);
	return takenAt(metadata?.exif);
}

/** Decodes a JPEG, PNG, WebP or a page of a TIFF with its orientation applied, on white. @throws SourceError */
export async function decodePicture(path: string, page = 0): Promise<Picture> {
	try {
		const picture = toThreeChannels(
			await rawPixels(
				sharp(path, { limitInputPixels: LIMITS.pixels, failOn: 'truncated', page })
					.rotate()
					.flatten({ background: '#ffffff' })
					.toColourspace('srgb')
			)
		);
		const quantisation = await quantisationOf(path);
		return quantisation === null ? picture : { ...picture, quantisation };
	} catch {
		throw new SourceError(
			'This picture is damaged or breaks off before its end. Copy it again from where it was taken.'
		);
	}
}

/** Decodes a picture of ours in grey. */
export async function decodePlane(path: string | Buffer): Promise<Plane> {
	const { width, height, channels, data } = await rawPixels(sharp(path).toColourspace('b-w'));
	if (channels === 1) return { width, height, data };
	return { width, height, data: Uint8Array.from({ length: width * height }, (_, i) => data[i * channels]!) };
}

function toThreeChannels({ data, width, height, channels }: RawPixels): Picture {
	if (channels === 3) return { width, height, channels: 3, data };
	const out = new Uint8Array(width * height * 3);
	for (let i = 0, p = 0; i < out.length; i += 3, p += channels) {
		out[i] = data[p]!;
		out[i + 1] = data[p + (channels > 2 ? 1 : 0)]!;
		out[i + 2] = data[p + (channels > 2 ? 2 : 0)]!;
	}
	return { width, height, channels: 3, data: out };
}
