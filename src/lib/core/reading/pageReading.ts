import type { HandMeasures } from '../hand/measureHand';
import { labelCandidates, type LabelCandidate } from './labelCandidates';
import type { LabelForms } from './labelForms';
import { pageNumberOptions, type NumberOption } from './pageNumber';
import { pageLayout } from './pageLayout';
import { packPosterior } from './packedPosterior';
import type { ReadLine } from './readLine';

/** Name and page number stand above this part of a page's height. */
export const HEADER = 0.07;

/** One line of a page's text; left, top, right and bottom as fractions of the page. */
export interface TextLine {
	readonly box: readonly [number, number, number, number];
	readonly text: string;
	/** 0 to 1. */
	readonly confidence: number;
}

/** Everything that was read off one upright page. */
export interface PageReading {
	/** Only the beginnings of lines are known so far; what a person waits for is, the rest of the text follows. */
	readonly startsOnly?: true;
	/** In reading order, from the top down. */
	readonly lines: readonly TextLine[];
	readonly labels: readonly LabelCandidate[];
	/** What the page's number may be, likeliest first. */
	readonly numbers: readonly NumberOption[];
	/** What stands at the top, for names to be looked for in. */
	readonly header?: readonly HeaderPiece[];
	/** What of the writing is its writer's. */
	readonly hand?: HandMeasures;
}

/** A piece of a page's header, as the recogniser of short writing saw it. */
export interface HeaderPiece {
	/** Left, top, right and bottom as fractions of the page. */
	readonly box: TextLine['box'];
	/** Best path. */
	readonly text: string;
	/** See `packPosterior`. */
	readonly posterior: string;
}

/** Names stand in this part of the page's height. */
const NAMES = 0.13;
/** Shorter pieces are no names. */
const LEAST_NAME = 2;

/**
 * What is written on a page.
 *
 * @param lines of running text
 * @param places where short writing was looked at
 * @param size width and height of the page in pixels
 * @param forms what labels may look like
 */
export function pageReading(
	lines: readonly ReadLine[],
	places: readonly ReadLine[],
	size: readonly [number, number],
	forms: LabelForms
): PageReading {
	return {
		lines: textOf(lines, size),
		labels: labelCandidates(places, size, forms).map((c) => ({
			...c,
			x: fraction(c.x, 1),
			y: fraction(c.y, 1),
			fromBody: Math.round(10 * c.fromBody) / 10,
			options: c.options.map((o) => ({ ...o, probability: Math.round(1e3 * o.probability) / 1e3 }))
		})),
		numbers: pageNumberOptions(places, size).map((n) => ({
			...n,
			probability: Math.round(1e3 * n.probability) / 1e3
		})),
		header: places.flatMap(({ box, kind, text, posteriors }): HeaderPiece[] => {
			const own = posteriors.filter((p) => p.caseless).at(-1);
			if (!own || kind === 'framed' || text.length < LEAST_NAME) return [];
			if ((box[0][1] + box[3][1]) / 2 >= NAMES * size[1]) return [];
			const [xs, ys] = [box.map(([x]) => x), box.map(([, y]) => y)];
			const around = [
				fraction(Math.min(...xs), size[0]),
				fraction(Math.min(...ys), size[1]),
				fraction(Math.max(...xs), size[0]),
				fraction(Math.max(...ys), size[1])
			] as const;
			return [{ box: around, text, posterior: packPosterior(own) }];
		})
	};
}

/**
 * Lines of running text in reading order.
 *
 * @param size width and height of the page in pixels
 */
export function textOf(lines: readonly ReadLine[], size: readonly [number, number]): TextLine[] {
	const { boxes } = pageLayout(lines);
	const text = lines.flatMap((line, i): TextLine[] => {
		const [x0, y0, x1, y1] = boxes[i]!;
		if (line.kind === 'framed' || line.text === '') return [];
		return [
			{
				box: [fraction(x0, size[0]), fraction(y0, size[1]), fraction(x1, size[0]), fraction(y1, size[1])],
				text: line.text,
				confidence: Math.round(100 * line.confidence) / 100
			}
		];
	});
	return inReadingOrder(text);
}

const fraction = (value: number, of: number) => Math.round(1e4 * Math.min(1, Math.max(0, value / of))) / 1e4;

/** From the top down; lines side by side from left to right. */
function inReadingOrder(lines: readonly TextLine[]): TextLine[] {
	const byTop = [...lines].sort((a, b) => a.box[1] + a.box[3] - b.box[1] - b.box[3]);
	const rows: TextLine[][] = [];
	for (const line of byTop) {
		const row = rows.at(-1);
		const middle = (line.box[1] + line.box[3]) / 2;
		if (row && middle < row[0]!.box[3] - 0.2 * (row[0]!.box[3] - row[0]!.box[1])) row.push(line);
		else rows.push([line]);
	}
	return rows.flatMap((row) => row.sort((a, b) => a.box[0] - b.box[0]));
}
