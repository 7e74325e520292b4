import { confirmSeams, proposeSeams, UNSURE } from '../mapping/proposeSeams';
import { withLabelsSettled } from '../mapping/settleLabels';
import { acceptOrder } from '../order/acceptOrder';
import { cluesOfPages } from '../order/pageClues';
import { proposeOrder } from '../order/proposeOrder';
import { apply, type Change } from '../packet/change';
import type { Judged } from './judgement';

/**
 * The change that takes what was surely read off a packet's pages, for somebody who does not look at each: their order,
 * and where questions begin. Null where that is nothing, where pages are still to be read, or where pages would be set
 * aside: that is for a person to see.
 */
export function takeProposed({ sheet, packet, records }: Omit<Judged, 'person'>): Change | null {
	const evidence = withLabelsSettled(records, packet);
	const isRead = packet.strip.every((id) => evidence[id]?.reading || evidence[id]?.problem);
	if (packet.strip.length === 0 || !isRead) return null;
	const order = proposeOrder(cluesOfPages([...packet.strip].sort(), packet, evidence), sheet.questions);
	if (order.setAside.some((s) => packet.strip.includes(s.page))) return null;
	const moves = order.strip.every((s) => s.confidence >= UNSURE) ? acceptOrder(packet, order) : null;
	const ordered = moves ? apply(packet, moves).packet : packet;
	const seams = proposeSeams(
		sheet.questions,
		ordered.strip.map((page) => ({ page, reading: evidence[page]?.reading ?? null })),
		ordered.seams,
		ordered.declined
	).filter((s) => s.confidence >= UNSURE);
	const changes = [...(moves ? [moves] : []), ...(seams.length > 0 ? [confirmSeams(seams)] : [])].flatMap(
		(c) => (c.kind === 'together' ? c.changes : [c])
	);
	return changes.length > 0 ? { kind: 'together', changes } : null;
}
