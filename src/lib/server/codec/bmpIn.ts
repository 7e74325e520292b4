import { open, readFile } from 'node:fs/promises';
import { decode } from 'bmp-ts';
import { blankPicture, type Picture } from '../../core/raster/picture';
import { checkPictureSize } from './pictureSize';
import { SourceError } from './sourceError';

const DAMAGED = 'This BMP picture is damaged, or of a kind that cannot be read. Save it as PNG.';
/** The oldest header that holds the size in 32 bits, and where it stands. */
const HEADER = { bytes: 54, kind: 14, width: 18, height: 22, bits: 28 } as const;

/** Size of a BMP out of its header. @throws SourceError when it cannot be used */
export async function checkBmp(path: string): Promise<void> {
	const file = await open(path);
	try {
		const head = Buffer.alloc(HEADER.bytes);
		const { bytesRead } = await file.read(head, 0, HEADER.bytes, 0);
		if (bytesRead < HEADER.bytes || head.readUInt32LE(HEADER.kind) < 40) throw new SourceError(DAMAGED);
		// Rows stand from the bottom up; a height below 0 says that they do not.
		const [width, height] = [head.readInt32LE(HEADER.width), Math.abs(head.readInt32LE(HEADER.height))];
		if (width <= 0 || height === 0) throw new SourceError(DAMAGED);
		checkPictureSize(width, height);
		const bits = head.readUInt16LE(HEADER.bits);
		const { size } = await file.stat();
		const isPacked = head.readUInt32LE(30) !== 0;
		if (!isPacked && size < (width * height * bits) / 8) throw new SourceError(DAMAGED);
	} finally {
		await file.close();
	}
}

/** Decodes a BMP. @throws SourceError */
export async function decodeBmp(path: string): Promise<Picture> {
	await checkBmp(path);
	try {
		const { width, height, data } = decode(await readFile(path), { toRGBA: true });
		const picture = blankPicture(width, Math.abs(height));
		for (let p = 0, q = 0; p < picture.data.length; p += 3, q += 4) {
			picture.data[p] = data[q]!;
			picture.data[p + 1] = data[q + 1]!;
			picture.data[p + 2] = data[q + 2]!;
		}
		return picture;
	} catch {
		throw new SourceError(DAMAGED);
	}
}
