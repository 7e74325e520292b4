import type { Change } from '../packet/change';
import type { Packet, TrayReason } from '../packet/packet';
import type { OrderProposal } from './proposeOrder';

/** One page that the proposal would put elsewhere. */
export type ProposedMove =
	| {
			readonly page: string;
			/** Place on the strip, from 1, once all of the proposal is taken. */
			readonly to: number;
			readonly reason: string;
			readonly confidence: number;
	  }
	| {
			readonly page: string;
			readonly to: 'tray';
			readonly aside: TrayReason;
			/** Of a page that is there twice, the one that is kept. */
			readonly of: string | null;
			readonly reason: string;
	  };

/** By this key a whole proposed order is put away; another order is another proposal. */
export function orderKey({ strip, setAside }: OrderProposal): string {
	let hash = 5381;
	for (const page of [...strip, ...setAside]) {
		for (const character of page.page) hash = (Math.imul(hash, 33) ^ character.charCodeAt(0)) >>> 0;
		hash = Math.imul(hash, 31) >>> 0;
	}
	return `order ${strip.length} ${setAside.length} ${hash.toString(36)}`;
}

/** The fewest pages whose moving turns the strip into what is proposed, and those to be set aside. */
export function proposedMoves({ strip }: Pick<Packet, 'strip'>, proposal: OrderProposal): ProposedMove[] {
	const aside = new Map(proposal.setAside.map((s) => [s.page, s]));
	const target = proposal.strip.filter((s) => strip.includes(s.page));
	const place = new Map(target.map((s, i) => [s.page, i]));
	const stay = longestRising(strip.filter((page) => place.has(page)).map((page) => place.get(page)!));
	return [
		...target.flatMap(({ page, reason, confidence }, i): ProposedMove[] =>
			stay.has(i) ? [] : [{ page, to: i + 1, reason, confidence }]
		),
		...strip.flatMap((page): ProposedMove[] => {
			const one = aside.get(page);
			return one ? [{ page, to: 'tray', aside: one.reason, of: one.of, reason: one.why }] : [];
		})
	];
}

/** The change that takes the whole proposal; null when the strip is as proposed already. */
export function acceptOrder(packet: Packet, proposal: OrderProposal): Change | null {
	if (proposedMoves(packet, proposal).length === 0) return null;
	const there = new Set(packet.strip);
	const changes: Change[] = proposal.setAside
		.filter((s) => there.has(s.page))
		.map(({ page, reason }, i) => ({
			kind: 'place',
			page,
			to: { on: 'tray', index: packet.tray.length + i, reason }
		}));
	const kept = proposal.strip.filter((s) => there.has(s.page));
	kept.forEach(({ page }, index) => changes.push({ kind: 'place', page, to: { on: 'strip', index } }));
	return { kind: 'together', changes };
}

/** The change that makes one move of a proposal: behind the page that comes before it there. */
export function acceptMove(packet: Packet, proposal: OrderProposal, move: ProposedMove): Change {
	if (move.to === 'tray') {
		const index = packet.tray.length;
		return { kind: 'place', page: move.page, to: { on: 'tray', index, reason: move.aside } };
	}
	const others = packet.strip.filter((page) => page !== move.page);
	const before = proposal.strip.slice(0, move.to - 1).map((s) => s.page);
	const after = before.reduce((last, page) => Math.max(last, others.indexOf(page)), -1);
	return { kind: 'place', page: move.page, to: { on: 'strip', index: after + 1 } };
}

/** The members of a longest rising subsequence (Schensted 1961). */
function longestRising(values: readonly number[]): Set<number> {
	const length: number[] = [];
	const before: number[] = [];
	let best = -1;
	values.forEach((value, i) => {
		length[i] = 1;
		before[i] = -1;
		for (let k = 0; k < i; k++) {
			if (values[k]! < value && length[k]! + 1 > length[i]!) {
				length[i] = length[k]! + 1;
				before[i] = k;
			}
		}
		if (best < 0 || length[i]! > length[best]!) best = i;
	});
	const kept = new Set<number>();
	for (let i = best; i >= 0; i = before[i]!) kept.add(values[i]!);
	return kept;
}
