import { readFile } from 'node:fs/promises';
import decodeHeic from 'heic-decode';
import type { Picture } from '../../core/raster/picture';
import { checkPictureSize } from './pictureSize';
import { SourceError } from './sourceError';

/** The images of a HEIC file; their pixels are decoded only when asked for. */
type HeicImages = Awaited<ReturnType<typeof decodeHeic.all>>;

const DAMAGED = 'This HEIC picture is damaged or breaks off before its end. Copy it again from the phone.';

async function withImages<T>(path: string, work: (images: HeicImages) => Promise<T>): Promise<T> {
	let images: HeicImages | null = null;
	try {
		images = await decodeHeic.all({ buffer: await readFile(path) });
		if (images.length === 0) throw new SourceError(DAMAGED);
		return await work(images);
	} catch (error) {
		throw error instanceof SourceError ? error : new SourceError(DAMAGED);
	} finally {
		images?.dispose();
	}
}

/** Checks a HEIC picture's size before anything is decoded. @throws SourceError */
export function checkHeic(path: string): Promise<void> {
	return withImages(path, (images) => Promise.resolve(checkPictureSize(images[0]!.width, images[0]!.height)));
}

/** Decodes a HEIC file's main picture, turned as displayed (libheif applies the turn). @throws SourceError */
export function decodeHeicPicture(path: string): Promise<Picture> {
	return withImages(path, async ([image]) => {
		checkPictureSize(image!.width, image!.height);
		const { width, height, data } = await image!.decode();
		return { width, height, channels: 4, data };
	});
}
