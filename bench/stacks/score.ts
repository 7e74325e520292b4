import { inPileOrder } from '../../src/lib/core/stack/feeding';
import type { StackProposal } from '../../src/lib/core/stack/proposeCuts';
import { Tally } from '../tally';
import type { TrueStack } from './pileUp';

/** From this confidence on a wrong answer counts as one that was sure. */
const SURE = 0.5;

/** What was right of a proposal. */
export class StackFigures {
	hit = 0;
	wrong = 0;
	lost = 0;
	/** Cuts that were wrong and sure. */
	wrongAndSure = 0;
	/** Packets with a name whose person was found; packets whose person was named surely, and rightly. */
	readonly persons = new Tally();
	wrongPersons = 0;
	/** Packets without a name for which somebody was named surely. */
	guessed = 0;
	readonly strays = new Tally();
	readonly others = new Tally();
	/** Packets that hold just their pages. */
	readonly whole = new Tally();
	readonly feedings = new Tally();
	readonly notes: string[] = [];

	get f1(): number {
		return (2 * this.hit) / Math.max(1, 2 * this.hit + this.wrong + this.lost);
	}

	/** @param index of each page in the stack by its id */
	add(stack: TrueStack, proposal: StackProposal, index: (page: string) => number): void {
		const note = (text: string) => this.notes.push(`${stack.seed}: ${text}`);
		const { feeding } = stack;
		this.feedings.count(proposal.feeding === feeding);
		if (proposal.feeding !== feeding) note(`fed ${feeding}, taken for ${proposal.feeding}`);
		const order = inPileOrder(feeding, stack.pages.length);
		const truth = new Set<number>();
		let owner: string | null = null;
		for (const i of order) {
			const page = stack.pages[i]!;
			if (page.role !== 'page' && page.role !== 'twice') continue;
			if (owner !== null && page.owner !== owner) truth.add(i);
			owner = page.owner;
		}
		for (const cut of proposal.cuts) {
			const at = index(cut.page);
			// Where a page of another assignment begins and ends is nobody's packet.
			if (stack.pages[at]!.role === 'other') continue;
			if (truth.delete(at)) this.hit++;
			else {
				this.wrong++;
				if (cut.confidence >= SURE) this.wrongAndSure++;
				note(`no cut at ${at} (${stack.pages[at]!.role}), ${cut.confidence}, ${cut.because.join('; ')}`);
			}
		}
		this.lost += truth.size;
		for (const at of truth) note(`lost cut at ${at} (named ${stack.pages[at]!.named})`);

		const owners = proposal.packets.map((packet) =>
			mostOf(packet.pages.map((p) => stack.pages[index(p)]!.owner))
		);
		const inPacket = new Map(
			proposal.packets.flatMap((p, k) => p.pages.map((id) => [index(id), k] as const))
		);
		proposal.packets.forEach(({ person, pages }, k) => {
			const own = stack.pages.filter((p) => p.owner === owners[k] && p.role !== 'blank');
			const isNamed = own.some((p) => p.named);
			if (!person || person.confidence < SURE || person.id === owners[k]) return;
			if (isNamed) this.wrongPersons++;
			else this.guessed++;
			note(
				`${owners[k]} taken for ${person.id}, ${person.confidence}, ${person.because.join('; ')}, ${pages.length} pages`
			);
		});
		for (const id of new Set(stack.pages.flatMap((p) => p.owner ?? []))) {
			const pages = stack.pages.flatMap((p, i) => (p.owner === id && p.role !== 'blank' ? [i] : []));
			if (pages.length === 0) continue;
			const home = mostOf(pages.map((i) => inPacket.get(i) ?? null));
			const person = home === null ? null : proposal.packets[home]!.person;
			const named = pages.some((i) => stack.pages[i]!.named);
			if (named) this.persons.count(person?.id === id);
			if (named && person?.id !== id)
				note(`${id} not found (${person?.id ?? 'nobody'}, ${pages.length} pages)`);
			// An empty side that is kept with them does no harm.
			const pagesOfHome = home === null ? [] : proposal.packets[home]!.pages.map(index);
			const held = pagesOfHome.filter((i) => stack.pages[i]!.role !== 'blank');
			this.whole.count(held.length === pages.length && pages.every((i) => held.includes(i)));
		}
		stack.pages.forEach((page, i) => {
			if (page.role !== 'stray' && page.role !== 'other') return;
			const packet = inPacket.get(i);
			const alone = packet !== undefined && proposal.packets[packet]!.pages.every((p) => index(p) === i);
			const found =
				packet === undefined ||
				(page.owner !== null && owners[packet] === page.owner) ||
				(alone && page.owner === null);
			(page.role === 'stray' ? this.strays : this.others).count(found);
			if (!found) note(`${page.role} at ${i} not found (named ${page.named})`);
		});
	}

	lines(): string[] {
		return [
			`cuts F1 ${this.f1.toFixed(3)} (${this.hit} right, ${this.wrong} wrong, ${this.lost} lost, ${this.wrongAndSure} wrong and sure), ` +
				`packets whole ${this.whole}, persons ${this.persons}, wrong and sure ${this.wrongPersons}, without a name and sure ${this.guessed}, ` +
				`strays ${this.strays}, of another assignment ${this.others}, feeding ${this.feedings}`
		];
	}
}

function mostOf<T>(values: readonly T[]): T | null {
	const counts = new Map<T, number>();
	for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
	return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
}
