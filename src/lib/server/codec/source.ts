import { stat } from 'node:fs/promises';
import type { Picture } from '../../core/raster/picture';
import { LIMITS } from './limits';
import { decodePicture, readHeader, readTakenAt } from './picture';
import { sniff, type SourceType } from './sniff';
import { SourceError } from './sourceError';

/** What a source holds, known without decoding it. */
export interface SourceContents {
	readonly type: SourceType;
	readonly pictures: number;
	readonly takenAt: string | null;
}

/** Looks into a source. @throws SourceError when it cannot be used */
export async function openSource(path: string): Promise<SourceContents> {
	const { size } = await stat(path);
	if (size > LIMITS.bytes) {
		throw new SourceError(`This file is larger than ${LIMITS.bytes / 1e6} MB. Split it, or make it smaller.`);
	}
	const type = await sniff(path);
	if (type === 'pdf') {
		// Loaded when first needed: most packets hold no PDF, and it is large.
		const { countPdfPages } = await import('./pdfIn');
		return { type, pictures: await countPdfPages(path), takenAt: null };
	}
	// A ZIP holds files, not pictures: those are taken in one by one.
	if (type === 'zip') return { type, pictures: 0, takenAt: null };
	if (type === 'heic') {
		await (await import('./heicIn')).checkHeic(path);
		return { type, pictures: 1, takenAt: await readTakenAt(path) };
	}
	if (type === 'bmp') {
		await (await import('./bmpIn')).checkBmp(path);
		return { type, pictures: 1, takenAt: null };
	}
	const { takenAt, pages } = await readHeader(path);
	if (type === 'gif' && pages > 1) {
		throw new SourceError(
			'GIF pictures with several frames are films, and no pages. Save the frame you need as PNG.'
		);
	}
	return { type, pictures: type === 'tiff' ? pages : 1, takenAt };
}

/** Decodes one picture of a source, as displayed. @throws SourceError */
export async function decodeSource(path: string, type: SourceType, index: number): Promise<Picture> {
	switch (type) {
		case 'pdf':
			return (await import('./pdfIn')).pdfPagePicture(path, index);
		case 'bmp':
			return (await import('./bmpIn')).decodeBmp(path);
		case 'heic':
			return (await import('./heicIn')).decodeHeicPicture(path);
		case 'zip':
			throw new SourceError('A ZIP is no picture.');
		default:
			return decodePicture(path, type === 'tiff' ? index : 0);
	}
}
