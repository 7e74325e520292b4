import { apply } from '$lib/core/packet/change';
import type { Packet } from '$lib/core/packet/packet';
import type { PacketNews, PacketView, SourceView } from '$lib/server/view/packetView';

/**
 * A view with what is new put in. News may overlap with what is known, and come out of turn: older news change nothing.
 * Null where a change between is missing.
 */
export function withNews(view: PacketView, news: PacketNews): PacketView | null {
	if (news.version < view.version || news.news < view.news) return view;
	const packet = moved(view.packet, view.version, news);
	if (!packet) return null;
	const { version, deliveries, troubles, phone, now, returns, moreTime, undo, assignment, sources, pages } =
		news;
	return {
		...view,
		version,
		news: news.news,
		deliveries,
		troubles,
		phone,
		now,
		returns,
		moreTime,
		...undo,
		packet,
		assignment: assignment ?? view.assignment,
		sources: sources.length > 0 ? merged(view.sources, sources) : view.sources,
		pages: Object.keys(pages).length > 0 ? { ...view.pages, ...pages } : view.pages
	};
}

/** The packet after what was done to it since a version; null where it does not follow. */
function moved(packet: Packet, version: number, { version: until, changes }: PacketNews): Packet | null {
	let at = version;
	let now = packet;
	for (const one of changes) {
		if (one.version <= at) continue;
		if (one.version !== at + 1) return null;
		try {
			now = apply(now, one.change).packet;
		} catch {
			return null;
		}
		at = one.version;
	}
	return at === until ? now : null;
}

/** Sources in the sequence in which they were given. */
function merged(known: readonly SourceView[], fresh: readonly SourceView[]): SourceView[] {
	const all = new Map([...known, ...fresh].map((s) => [s.id, s]));
	return [...all.values()].sort((a, b) => a.batch - b.batch || a.place - b.place);
}
