import type { Change } from '../../core/packet/change';
import type { Packet } from '../../core/packet/packet';
import { turnOf } from '../../core/page/effective';
import type { PictureFacts } from '../../core/page/preparePage';
import { firstHalf } from '../../core/sheet/fold';

/**
 * Makes two pages of a picture in which a fold was found, in the order in which they are read. A page that a person
 * has worked on is left as it is.
 */
export function splitSpread(
	packet: Packet,
	source: string,
	sourcePage: number,
	facts: PictureFacts
): Change | null {
	const pages = Object.values(packet.pages).filter((p) => p.source === source && p.sourcePage === sourcePage);
	const [page] = pages;
	const untouched = pages.length === 1 && page!.half === undefined && page!.corners === null;
	if (!facts.spread || !untouched || !packet.strip.includes(page!.id)) return null;
	const first = firstHalf(facts.spread.stacked, turnOf(page!, facts));
	return { kind: 'split', page: page!.id, first, second: secondId(page!.id) };
}

/** Pages of one picture have ids that belong together. */
function secondId(id: string): string {
	return `${id}b`;
}
