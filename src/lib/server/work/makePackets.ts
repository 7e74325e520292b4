import type { Page } from '../../core/packet/packet';
import { heapsOf, type Heap } from '../../core/stack/heaps';
import { packetChanged } from '../events/packetEvents';
import type { Services } from '../services/services';
import { copySources } from '../store/stackSources';
import { command, openPacket, packetById, type PacketRow } from '../store/packets';

/**
 * Makes packets of what a stack was cut into: each person's pages come into their packet as if they had brought them in.
 * Begun again after it was cut short, it does nothing twice.
 *
 * @param first pages with which the packets begin
 * @param personId the teacher who said so
 * @returns how many were made
 */
export async function makePackets(
	services: Services,
	stack: PacketRow,
	first: readonly string[],
	people: ReadonlySet<string>,
	personId: string
): Promise<number> {
	let made = 0;
	for (const page of first) {
		const heap = heapsOf(stack.state).find((h) => h.cut?.page === page);
		const person = heap?.cut?.person;
		if (!heap?.cut || !person || !people.has(person) || heap.cut.packet !== null) continue;
		const packetId = await openPacket(services.db, stack.assignmentId, person);
		await bringPages(services, stack, heap, packetId, personId);
		const { cut } = heap;
		await command(services.db, stack.id, personId, null, {
			kind: 'edit',
			change: ({ cuts }) => {
				const now = cuts?.find((c) => c.page === page);
				return now && now.person === cut.person && now.packet === null
					? { kind: 'putCut', cut: { ...now, sure: 1, personSure: 1, packet: packetId } }
					: null;
			}
		});
		packetChanged(stack.id);
		packetChanged(packetId);
		void services.pages.ensure(packetId).catch(console.error);
		made++;
	}
	return made;
}

async function bringPages(
	{ db }: Services,
	{ state }: PacketRow,
	{ pages }: Heap,
	packetId: string,
	personId: string
): Promise<void> {
	const own = pages.map((id) => state.pages[id]!);
	const copies = await copySources(db, own, packetId, personId);
	const wanted = own.map((page): Page => {
		const { sourcePage, corners, turn, tone } = page;
		const source = copies.get(page.source)!;
		const half = page.half === undefined ? '' : `-${page.half}`;
		const shape = { corners, turn, tone, ...(page.half === undefined ? {} : { half: page.half }) };
		return { id: `${source.slice(0, 13)}-${sourcePage}${half}`, source, sourcePage, ...shape };
	});
	await command(db, packetId, personId, null, {
		kind: 'machine',
		change: (packet) => {
			const missing = wanted.filter((page) => !packet.pages[page.id]);
			return missing.length > 0 ? { kind: 'addPages', pages: missing, at: packet.strip.length } : null;
		}
	});
	const after = await packetById(db, packetId);
	if (!wanted.every((page) => after?.state.pages[page.id])) throw new Error('The pages did not come in.');
}
