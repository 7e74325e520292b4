import type { Picture } from '../../core/raster/picture';
import type { Quadrilateral } from '../../core/sheet/geometry';
import { detectLines } from './detect';
import { recognise } from './recognise';

/** One line of writing on a page. */
export interface ReadLine {
	/** In pixels of the page, clockwise from where its first letter's top left is. */
	readonly box: Quadrilateral;
	readonly text: string;
	/** Mean probability of the characters, 0 to 1. */
	readonly confidence: number;
}

/**
 * Reads an upright page, line by line from the top down.
 *
 * @param page as it is shown, at about 200 dots an inch
 */
export async function readPage(page: Picture): Promise<ReadLine[]> {
	const lines: ReadLine[] = [];
	for (const box of await detectLines(page)) {
		const { text, confidence } = await recognise(page, box);
		if (text !== '') lines.push({ box, text, confidence });
	}
	return lines;
}
