import type { Change } from '../packet/change';
import type { Packet } from '../packet/packet';
import { heapsOf, type Heap } from './heaps';

// What a person does to a stack, as changes of it. Null where it cannot be done.

type Stack = Pick<Packet, 'strip' | 'tray' | 'cuts'>;

function at(stack: Stack, page: string): { heaps: Heap[]; index: number; heap: Heap; place: number } | null {
	const heaps = heapsOf(stack);
	const index = heaps.findIndex((h) => h.pages.includes(page));
	const heap = heaps[index];
	return heap ? { heaps, index, heap, place: heap.pages.indexOf(page) } : null;
}

const isMade = (heap: Heap | undefined) => heap?.cut?.packet != null;
const together = (changes: readonly Change[]): Change =>
	changes.length === 1 ? changes[0]! : { kind: 'together', changes };

/** Another packet begins with a page. */
export function cutBefore(stack: Stack, page: string): Change | null {
	const found = at(stack, page);
	if (!found || found.place === 0 || isMade(found.heap)) return null;
	return { kind: 'setCut', page, person: null };
}

/** The packet that a page is in goes on from the one before it. */
export function joinToBefore(stack: Stack, page: string): Change | null {
	const found = at(stack, page);
	if (!found || found.index === 0 || !found.heap.cut) return null;
	const before = found.heaps[found.index - 1]!;
	if (isMade(found.heap) || isMade(before)) return null;
	const { person } = found.heap.cut;
	const changes: Change[] = [{ kind: 'removeCut', page: found.heap.cut.page }];
	// Whose it is stands with either of them.
	if (person && !before.cut?.person) changes.push({ kind: 'setCut', page: before.pages[0]!, person });
	return together(changes);
}

/** Whose the packet is that a page is in. */
export function give(stack: Stack, page: string, person: string | null): Change | null {
	const found = at(stack, page);
	if (!found || isMade(found.heap)) return null;
	return { kind: 'setCut', page: found.heap.pages[0]!, person };
}

/** Takes everything of a person out of a stack, also what was made into a packet. Not for a person to undo. */
export function withoutPerson(stack: Stack, person: string): Change | null {
	const theirs = heapsOf(stack).filter((heap) => heap.cut?.person === person);
	if (theirs.length === 0) return null;
	return together(
		theirs.flatMap(({ cut, pages }): Change[] => [
			{ kind: 'putCut', cut: { ...cut!, packet: null } },
			{ kind: 'removeCut', page: cut!.page },
			{ kind: 'removePages', pages }
		])
	);
}

/** Takes a page out of its packet, which then begins with its next page. */
function lifted({ heap, place }: { heap: Heap; place: number }): Change[] {
	if (place > 0 || !heap.cut) return [];
	const next = heap.pages[1];
	const removed: Change = { kind: 'removeCut', page: heap.cut.page };
	return next ? [removed, { kind: 'setCut', page: next, person: heap.cut.person }] : [removed];
}

/** Sets a page aside: it lies in no packet. */
export function setAside(stack: Stack, page: string): Change | null {
	const found = at(stack, page);
	if (!found || isMade(found.heap)) return null;
	return together([
		...lifted(found),
		{ kind: 'place', page, to: { on: 'tray', index: stack.tray.length, reason: 'extra' } }
	]);
}

/** Puts a page at the end of the packet that another page is in; from among those set aside as well. */
export function moveTo(stack: Stack, page: string, target: string): Change | null {
	const to = at(stack, target);
	const from = at(stack, page);
	if (!to || isMade(to.heap) || isMade(from?.heap) || to.heap.pages.includes(page)) return null;
	const last = to.heap.pages.at(-1)!;
	const strip = stack.strip.filter((p) => p !== page);
	return together([
		...(from ? lifted(from) : []),
		{ kind: 'place', page, to: { on: 'strip', index: strip.indexOf(last) + 1 } }
	]);
}

/** Puts a page that was set aside into a packet of its own, behind all others. */
export function asPacket(stack: Stack, page: string): Change | null {
	if (!stack.tray.some((t) => t.page === page)) return null;
	return together([
		{ kind: 'place', page, to: { on: 'strip', index: stack.strip.length } },
		{ kind: 'setCut', page, person: null }
	]);
}

/** Moves a page by one place, over the border of its packet where it stands at one. */
export function nudge(stack: Stack, page: string, by: 1 | -1): Change | null {
	const found = at(stack, page);
	if (!found || isMade(found.heap)) return null;
	const { heap, heaps, index, place } = found;
	const other = heaps[index + by];
	const atBorder = by < 0 ? place === 0 : place === heap.pages.length - 1;
	if (atBorder) {
		if (!other || isMade(other)) return null;
		if (by < 0) return together(lifted(found));
		const { cut } = other;
		return together([
			...lifted(found),
			{ kind: 'removeCut', page: cut!.page },
			{ kind: 'setCut', page, person: cut!.person }
		]);
	}
	const index0 = stack.strip.indexOf(page);
	const first = heap.pages[0]!;
	const second = heap.pages[1]!;
	const swapsFirst = heap.cut && (place === 0 || (by < 0 && place === 1));
	return together([
		...(swapsFirst
			? [
					{ kind: 'removeCut', page: first } as const,
					{ kind: 'setCut', page: place === 0 ? second : page, person: heap.cut!.person } as const
				]
			: []),
		{ kind: 'place', page, to: { on: 'strip', index: index0 + by } }
	]);
}
