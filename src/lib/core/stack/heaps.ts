import type { Change } from '../packet/change';
import type { Cut, Packet } from '../packet/packet';
import type { ProposedPacket, StackProposal } from './proposeCuts';

/** One person's pages in a stack. */
export interface Heap {
	/** Null for pages before the first cut. */
	readonly cut: Cut | null;
	/** In the order in which they lie; what is set aside is not among them. */
	readonly pages: readonly string[];
}

/** From this on, nobody needs to look. */
export const SURE = 0.9;

/** Under this a person is only a guess: nobody is taken to have a packet by it, and no file bears their name. */
export const NAMED = 0.5;

/** Whether it is known whose a packet is, and not just guessed. */
export function isNamed(cut: Cut | null): cut is Cut & { readonly person: string } {
	return cut !== null && cut.person !== null && cut.personSure >= NAMED;
}

/** Nothing of a packet needs a person's eye. */
export function isSure({ cut }: Heap): boolean {
	return cut !== null && cut.person !== null && cut.sure >= SURE && cut.personSure >= SURE;
}

/** The packets of a stack as it is cut. */
export function heapsOf({ strip, cuts = [] }: Pick<Packet, 'strip' | 'cuts'>): Heap[] {
	const at = new Map(cuts.map((c) => [c.page, c]));
	const heaps: { cut: Cut | null; pages: string[] }[] = [];
	for (const page of strip) {
		const cut = at.get(page);
		if (cut || heaps.length === 0) heaps.push({ cut: cut ?? null, pages: [page] });
		else heaps.at(-1)!.pages.push(page);
	}
	return heaps;
}

/** People who have more than one packet, and those who have none. */
export function whoIs(heaps: readonly Heap[], people: readonly { readonly id: string }[]) {
	const counts = new Map<string, number>();
	for (const { cut } of heaps) {
		if (isNamed(cut)) counts.set(cut.person, (counts.get(cut.person) ?? 0) + 1);
	}
	return {
		missing: people.filter((p) => !counts.has(p.id)).map((p) => p.id),
		twice: [...counts].filter(([, n]) => n > 1).map(([id]) => id)
	};
}

/** Pages for which no cuts have been proposed yet. */
export function unlooked({ strip, looked = [] }: Pick<Packet, 'strip' | 'looked'>): string[] {
	const seen = new Set(looked);
	return strip.filter((page) => !seen.has(page));
}

/**
 * The change that cuts the pages of a proposal: in the order in which they lie, each packet's together, behind all that
 * was there before; pages of nobody are set aside. What a person did to other pages stays.
 */
export function cutAsProposed(packet: Packet, proposal: StackProposal): Change {
	const changes: Change[] = [];
	const before = packet.strip.filter((page) => !proposal.order.includes(page));
	const order = proposal.packets.flatMap((p) => p.pages);
	const aside = proposal.setAside.filter((s) => packet.strip.includes(s.page));
	for (const { page, reason } of aside) {
		changes.push({
			kind: 'place',
			page,
			to: { on: 'tray', index: packet.tray.length, reason: reason === 'stray' ? 'extra' : reason }
		});
	}
	const now = packet.strip.filter((page) => !aside.some((a) => a.page === page));
	const wanted = [...before, ...order];
	wanted.forEach((page, index) => {
		if (now[index] === page) return;
		now.splice(now.indexOf(page), 1);
		now.splice(index, 0, page);
		changes.push({ kind: 'place', page, to: { on: 'strip', index } });
	});
	for (const one of proposal.packets) changes.push({ kind: 'putCut', cut: cutOf(one, proposal) });
	const looked = [...new Set([...(packet.looked ?? []), ...proposal.order])];
	changes.push({ kind: 'setLooked', pages: looked });
	return { kind: 'together', changes };
}

function cutOf({ pages, person, confidence }: ProposedPacket, { cuts }: StackProposal): Cut {
	const first = pages[0]!;
	const cut = cuts.find((c) => c.page === first) ?? cuts.find((c) => pages.includes(c.page));
	return {
		page: first,
		person: person?.id ?? null,
		sure: Math.min(confidence, cut?.confidence ?? 1),
		personSure: person?.confidence ?? 0,
		because: cut?.because ?? [],
		personBecause: person?.because ?? [],
		packet: null
	};
}
