import type { Sharp } from 'sharp';

export interface RawPixels {
	readonly width: number;
	readonly height: number;
	readonly channels: number;
	/** Row-major, channels beside each other. A plain array: `slice` of a Buffer is no copy, but a view of it. */
	readonly data: Uint8Array;
}

/** The pixels of a picture, 0 to 255. */
export async function rawPixels(picture: Sharp): Promise<RawPixels> {
	const { data, info } = await picture.raw({ depth: 'uchar' }).toBuffer({ resolveWithObject: true });
	const { width, height, channels } = info;
	return { width, height, channels, data: new Uint8Array(data.buffer, data.byteOffset, data.byteLength) };
}
