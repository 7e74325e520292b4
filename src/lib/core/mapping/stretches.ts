import type { TextLine } from '../reading/pageReading';
import type { Packet, Seam } from '../packet/packet';

/** A part of one page, from `top` to `bottom` as fractions of its height. */
export interface Piece {
	readonly page: string;
	/** From 1. */
	readonly position: number;
	readonly top: number;
	readonly bottom: number;
}

/** The work between two seams, running on over page borders. */
export interface Stretch {
	/** The seam it begins at; null for what comes before the first seam. */
	readonly seam: Seam | null;
	readonly questions: readonly string[];
	readonly pieces: readonly Piece[];
}

/** Slivers thinner than this come from two seams set on top of each other. */
const LEAST = 1e-6;

/** Reads the stretches off the strip, in reading order. Seams on pages set aside do not count. */
export function stretchesOf(packet: Pick<Packet, 'strip' | 'seams'>): Stretch[] {
	const stretches: Stretch[] = [];
	let seam: Seam | null = null;
	let pieces: Piece[] = [];
	const close = () => {
		if (pieces.length > 0) stretches.push({ seam, questions: seam?.questions ?? [], pieces });
		pieces = [];
	};
	packet.strip.forEach((page, i) => {
		let top = 0;
		const here = packet.seams.filter((s) => s.page === page).sort((a, b) => a.y - b.y);
		for (const next of here) {
			if (next.y - top > LEAST) pieces.push({ page, position: i + 1, top, bottom: next.y });
			close();
			seam = next;
			top = next.y;
		}
		if (1 - top > LEAST) pieces.push({ page, position: i + 1, top, bottom: 1 });
	});
	close();
	return stretches;
}

/** Name and page number stand above this, as a fraction of the page's height. */
const HEADER = 0.075;
/** A piece at the head of a page that is higher than this holds more than a header. */
const HIGHEST_HEADER = 0.14;

/**
 * Stretches without the pieces that hold nothing but the header of a page, on which the next question then begins.
 *
 * @param linesOf the lines read off a page; null while it has not been read
 */
export function withoutHeaders(
	stretches: readonly Stretch[],
	linesOf: (page: string) => readonly TextLine[] | null
): Stretch[] {
	const isHeader = ({ page, top, bottom }: Piece) => {
		const lines = top === 0 && bottom < HIGHEST_HEADER ? linesOf(page) : null;
		return lines?.every(({ box }) => box[1] < HEADER || (box[1] + box[3]) / 2 > bottom) ?? false;
	};
	return stretches.flatMap((stretch) => {
		const pieces = stretch.pieces.filter((piece) => !isHeader(piece));
		return pieces.length > 0 ? [{ ...stretch, pieces }] : [];
	});
}

/** For each question, every piece that answers it, in reading order. */
export function piecesByQuestion(stretches: readonly Stretch[]): Map<string, Piece[]> {
	const map = new Map<string, Piece[]>();
	for (const stretch of stretches) {
		for (const question of stretch.questions) {
			map.set(question, [...(map.get(question) ?? []), ...stretch.pieces]);
		}
	}
	return map;
}
