import type { ReadLine } from '../../core/reading/readLine';
import type { Picture } from '../../core/raster/picture';
import type { Quadrilateral } from '../../core/sheet/geometry';
import { recognise } from './recognise';

/** Reads the lines of writing of a page with the general reader, from the top down. */
export async function readLines(picture: Picture, boxes: readonly Quadrilateral[]): Promise<ReadLine[]> {
	const lines: ReadLine[] = [];
	for (const box of boxes) {
		const { posterior, ...line } = await recognise(picture, box);
		if (line.text !== '') lines.push({ box, kind: 'line', ...line, posteriors: [posterior] });
	}
	return lines;
}
