import type { Quadrilateral } from '../sheet/geometry';
import type { LinePosterior } from './linePosterior';

/** One line of writing as the reader gives it. */
export interface ReadLine {
	/** In pixels of the page, clockwise from where its first letter's top left is. */
	readonly box: Quadrilateral;
	/** A line of writing, a short mark beside the lines, or something that was framed. */
	readonly kind: 'line' | 'mark' | 'framed';
	readonly text: string;
	/** Mean probability of the characters, 0 to 1. */
	readonly confidence: number;
	/** What stood to choose from; once for each of several cuts, and for each reader that looked. */
	readonly posteriors: readonly LinePosterior[];
	/** Free paper behind what stands together there, in pixels. */
	readonly after?: number;
}

/** What is still to be read of a page whose lines have been found. */
export interface LinesToRead {
	/** Where they lie, in pixels of the page. */
	readonly boxes: readonly Quadrilateral[];
	/** Whether frames are drawn on the page, which are taken away before it is read. */
	readonly framed: boolean;
}
