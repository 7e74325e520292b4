import type { Change } from '../../core/packet/change';
import type { Packet, Page } from '../../core/packet/packet';
import type { SourceRow } from '../store/sources';

/**
 * How a source's pages come into the packet: its first picture in the place of another, or all of them on
 * the strip, where the person wanted them and in the order the files were given.
 *
 * @param pictures how many the source holds
 * @param sources all of the packet's, in the order they were given: by batch and place, and as they came where these say nothing
 * @param replaced the page whose picture the first one takes the place of
 */
export function placeSource(
	packet: Packet,
	source: SourceRow,
	pictures: number,
	sources: readonly SourceRow[],
	replaced: string | null
): Change | null {
	const target = replaced !== null ? packet.pages[replaced] : undefined;
	const isThere = Object.values(packet.pages).some((page) => page.source === source.id);
	if (isThere) return null;
	const pages: Page[] = Array.from({ length: pictures }, (_, i) => ({
		id: `${source.id.slice(0, 13)}-${i}`,
		source: source.id,
		sourcePage: i,
		corners: null,
		turn: null,
		tone: null
	}));
	if (!target) return { kind: 'addPages', pages, at: indexFor(packet, source, sources) };
	const picture = { source: source.id, sourcePage: 0, corners: null, turn: null };
	const swap: Change = { kind: 'setPicture', page: target.id, picture };
	if (pages.length === 1) return swap;
	const at = packet.strip.indexOf(target.id) + 1 || packet.strip.length;
	return { kind: 'together', changes: [swap, { kind: 'addPages', pages: pages.slice(1), at }] };
}

function indexFor(packet: Packet, source: SourceRow, sources: readonly SourceRow[]): number {
	const ranks = new Map(sources.map((s, rank) => [s.id, rank]));
	const rank = ranks.get(source.id) ?? sources.length;
	/** Where in the order the file of a page stands; undefined where the packet has no such file. */
	const rankAt = (i: number) => {
		const page = packet.strip[i];
		return page === undefined ? undefined : ranks.get(packet.pages[page]!.source);
	};
	if (source.afterPage !== null) {
		const behind = packet.strip.indexOf(source.afterPage);
		if (source.afterPage === '' || behind >= 0) {
			let at = behind + 1;
			// Behind what was given earlier in the same go.
			for (let other = rankAt(at); other !== undefined && other < rank; other = rankAt(at)) {
				const { afterPage, batch } = sources[other]!;
				if (afterPage !== source.afterPage || batch !== source.batch) break;
				at++;
			}
			return at;
		}
	}
	// From the end, pages of later files are stepped over; what a person moved stays where it is.
	let at = packet.strip.length;
	while (at > 0 && (rankAt(at - 1) ?? -1) > rank) at--;
	return at;
}
