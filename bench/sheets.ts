import { findOutline } from '../src/lib/core/sheet/outline';
import { drawnPictures, KINDS, type DrawnKind } from './drawnPictures';
import { overlapWithin } from './overlapWithin';
import { reliability, type Judged } from './reliability';

/** From this overlap on an outline is right. */
const RIGHT = 0.95;

/**
 * Whether a sheet is found where there is one, pages that fill the picture are left whole, and nothing is made up where
 * there is no page; and how far the confidence can be believed.
 */
export function benchSheets(each: number, firstSeed: number, print: (line: string) => void): void {
	const all: (Judged & { kind: DrawnKind })[] = [];
	for (const { kind, picture, right } of drawnPictures(each, firstSeed)) {
		const { corners, confidence } = findOutline(picture);
		const size = [picture.width, picture.height] as const;
		const isRight = right.some((r) => overlapWithin(size, corners, r) >= RIGHT);
		all.push({ kind, confidence, right: isRight });
	}
	for (const kind of KINDS) {
		const of = all.filter((a) => a.kind === kind);
		const sure = of.filter((a) => a.confidence >= 0.5 && !a.right).length;
		print(
			kind === 'no page'
				? `${kind.padEnd(16)} sheets made up in ${sure} of ${of.length}`
				: `${kind.padEnd(16)} right ${of.filter((a) => a.right).length} of ${of.length}, wrong and sure of it ${sure}`
		);
	}
	for (const line of reliability(all)) print(line);
}
