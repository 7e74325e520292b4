import type { Point, Quadrilateral } from '../sheet/geometry';

/** Ink that a person adds to a page; each has its colour in `COLOURS`. */
export const MARK_COLOURS = ['ink', 'red', 'green', 'yellow'] as const;
export type MarkColour = (typeof MARK_COLOURS)[number];

/** As red, green and blue, 0 to 255. */
export const COLOURS: Readonly<Record<MarkColour, readonly [number, number, number]>> = {
	ink: [34, 40, 96],
	red: [178, 48, 40],
	green: [44, 110, 62],
	yellow: [248, 206, 40]
};

/** A point of a stroke: where, in pixels of the picture, and how hard the pen was pressed, 0 to 1. */
export type StrokePoint = readonly [x: number, y: number, pressure: number];

interface Marked {
	readonly id: string;
}

/** A stroke of a pen, or of a broad one through which the writing is seen. */
export interface Stroke extends Marked {
	readonly kind: 'pen' | 'marker';
	readonly colour: MarkColour;
	/** Width in millimetres on the sheet. */
	readonly width: number;
	readonly points: readonly StrokePoint[];
}

/** Typed words. */
export interface Words extends Marked {
	readonly kind: 'words';
	readonly colour: MarkColour;
	/** Height of a line in millimetres on the sheet. */
	readonly size: number;
	/** Their upper left corner, in pixels of the picture. */
	readonly at: Point;
	readonly text: string;
}

/** A strip of paper laid over what nobody is to see: it is gone from everything that is made of the page. */
export interface Strip extends Marked {
	readonly kind: 'strip';
	/** In pixels of the picture. */
	readonly corners: Quadrilateral;
}

/**
 * Something that a person added to a page by hand. It lies on the picture, as the outline does, so that it stays where it
 * is when the page is squared or turned anew.
 */
export type Mark = Stroke | Words | Strip;

export const MARK_LIMITS = {
	/** On one page. */
	marks: 300,
	/** Of one stroke; a longer one is drawn as several. */
	points: 400,
	letters: 500,
	/** Millimetres on the sheet, at least and at most: heights of a typed line, widths of strokes. */
	size: [2, 30],
	width: { pen: [0.1, 5], marker: [0.1, 15] }
} as const;

/** The strips among what was added to a page; they are part of how it is prepared. */
export function stripsOf(marks: readonly Mark[] = []): Quadrilateral[] {
	return marks.flatMap((mark) => (mark.kind === 'strip' ? [mark.corners] : []));
}

/** What was added to a page without its strips, which are in its picture already. */
export function inkOf(marks: readonly Mark[] = []): (Stroke | Words)[] {
	return marks.filter((mark): mark is Stroke | Words => mark.kind !== 'strip');
}
