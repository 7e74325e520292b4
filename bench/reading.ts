import { withLabelsSettled } from '../src/lib/core/mapping/settleLabels';
import { proposeSeams } from '../src/lib/core/mapping/proposeSeams';
import { cluesOf } from '../src/lib/core/order/pageClues';
import { proposeOrder } from '../src/lib/core/order/proposeOrder';
import { readNumber } from '../src/lib/core/reading/pageNumber';
import { keptPacket, type KeptPage } from './keptPacket';
import type { SamplePacket } from './packets';
import { known } from './readPacket';
import { reliability, type Judged } from './reliability';
import { Tally } from './tally';
import type { Writers } from './writers';

const NEAR = 0.03;
/** From this confidence on a wrong seam is told of by itself. */
const SURE = 0.5;

/** What is counted for all packets, and for those of each hand by themselves. */
class Figures {
	readonly labels = { hit: 0, wrong: 0, lost: 0 };
	readonly numbers = new Tally();
	readonly settled = new Tally();
	readonly names = new Tally();
	readonly numbered = new Tally();
	readonly unnumbered = new Tally();
	readonly seams = new Tally();

	get f1(): string {
		const { hit, wrong, lost } = this.labels;
		return ((2 * hit) / Math.max(1, 2 * hit + wrong + lost)).toFixed(3);
	}

	/** All of it in a line. */
	toString(): string {
		const { numbers, settled, names, numbered, unnumbered, seams } = this;
		const of = ({ right, all }: Tally) => `${right}/${all}`;
		return (
			`labels F1 ${this.f1}, numbers ${of(numbers)} (settled ${of(settled)}), names ${of(names)}, ` +
			`orders ${of(numbered)} with numbers and ${of(unnumbered)} without, seams ${of(seams)}`
		);
	}
}

/**
 * Reads generated packets from their photographs, whole, and compares what is proposed with the truth: labels, numbers,
 * names, order, what is set aside, seams; of all, and hand by hand. Packets are read once and kept, so that this is quick
 * the second time.
 */
export async function benchReading(
	count: number,
	firstSeed: number,
	writers: Writers,
	print: (line: string) => void
): Promise<void> {
	const all = new Figures();
	const byHand = new Map<string, Figures>();
	const tally = {
		duplicates: new Tally(),
		blanks: new Tally(),
		foreign: new Tally(),
		missing: new Tally()
	};
	/** Every seam that was proposed; every page but the first, right where it goes on from the one before it. */
	const proposals: { seams: Judged[]; places: Judged[] } = { seams: [], places: [] };
	let wronglyAside = 0;
	for (let i = 0; i < count; i++) {
		const seed = firstSeed + i;
		const { packet, pages } = await keptPacket(seed, writers);
		const { family } = pages.find((p) => p.shot.role === 'page')!.shot.spec.hand;
		if (!byHand.has(family)) byHand.set(family, new Figures());
		const figures = [all, byHand.get(family)!];
		for (const { shot, reading, name } of pages) {
			const read = readNumber(reading.numbers)?.number ?? null;
			const written = shot.spec.pageNumber?.match(/\d+/)?.[0];
			if (written) for (const f of figures) f.numbers.count(read === Number(written));
			if (shot.named) {
				const person = name?.person;
				const isRight = person ? `${person.given} ${person.family}` === shot.named : false;
				for (const f of figures) f.names.count(isRight);
			}
		}
		judgeOrder(packet, pages, figures);
		judgeSeams(packet, pages, figures);
	}
	const { labels } = all;
	print(`${count} packets from seed ${firstSeed}`);
	for (const [hand, figures] of byHand) print(`  ${hand.padEnd(28)} ${figures}`);
	print(`question labels: F1 ${all.f1} (${labels.hit} right, ${labels.wrong} wrong, ${labels.lost} lost)`);
	for (const line of reliability(proposals.seams)) print(`  ${line}`);
	print(`page numbers: ${all.numbers} of each page by itself, ${all.settled} settled between pages`);
	print(`names: ${all.names}`);
	print(`order exactly right: ${all.numbered} with page numbers, ${all.unnumbered} without`);
	for (const line of reliability(proposals.places)) print(`  pages behind the right one, ${line}`);
	print(`duplicates: ${tally.duplicates}, blanks: ${tally.blanks}, of another person: ${tally.foreign}`);
	print(`pages wrongly set aside: ${wronglyAside}`);
	print(`missing pages named: ${tally.missing}`);
	print(`seams within 3 % of a page: ${all.seams}`);

	function judgeOrder(packet: SamplePacket, pages: readonly KeptPage[], figures: readonly Figures[]): void {
		const records = settled(packet, pages);
		const order = proposeOrder(
			pages.map((p) => cluesOf(p.page, records[p.page.id]!)),
			packet.sheet.questions
		);
		const byId = new Map(pages.map((p) => [p.page.id, p.shot]));
		for (const { page, number } of order.strip) {
			const written = byId.get(page)!.number;
			if (written !== null) for (const f of figures) f.settled.count(number?.number === written);
		}
		// Of a sheet with nothing but a header on it only a person can say that it is blank: it may stay anywhere.
		const strip = order.strip.filter((s) => byId.get(s.page)!.role !== 'blank');
		const got = strip.map((s) => byId.get(s.page)!.position ?? 0);
		const truth = [...new Set(pages.flatMap((p) => p.shot.position ?? []))].sort((a, b) => a - b);
		strip.slice(1).forEach(({ confidence }, i) => {
			const expected = truth[truth.indexOf(got[i + 1]!) - 1];
			proposals.places.push({ confidence, right: got[i] === expected });
		});
		const right = String(got) === String(truth);
		for (const f of figures) (packet.numbered ? f.numbered : f.unnumbered).count(right);
		if (!right) print(`  seed ${packet.seed}: order ${got.join(' ')}`);
		const aside = new Set(order.setAside.map((s) => s.page));
		for (const { page, shot } of pages) {
			if (shot.role === 'blank') tally.blanks.count(aside.has(page.id));
			if (shot.role === 'foreign') tally.foreign.count(aside.has(page.id));
			if (shot.role === 'duplicate') {
				tally.duplicates.count(got.filter((p) => p === shot.position).length === 1);
			}
		}
		wronglyAside += truth.filter((position) => !got.includes(position)).length;
		if (packet.numbered) tally.missing.count(String(order.missing) === String(packet.missing));
	}

	/** On the true sequence, so that a wrong order does not count twice. */
	function judgeSeams(packet: SamplePacket, pages: readonly KeptPage[], figures: readonly Figures[]): void {
		const strip = pages
			.filter((p) => p.shot.role === 'page')
			.sort((a, b) => a.shot.position! - b.shot.position!);
		const records = settled(packet, strip);
		const proposed = proposeSeams(
			packet.sheet.questions,
			strip.map((p) => ({ page: p.page.id, reading: records[p.page.id]!.reading }))
		).flatMap((seam) => seam.questions.map((question) => ({ ...seam, question })));
		const found = new Set<string>();
		for (const { page, shot } of strip) {
			for (const { question, y } of shot.labels) {
				const same = proposed.filter((s) => s.page === page.id && s.question === question);
				const seam = same.find((s) => Math.abs(s.y - y) <= NEAR);
				for (const f of figures) {
					f.seams.count(seam !== undefined);
					f.labels[seam ? 'hit' : 'lost']++;
				}
				if (seam) {
					proposals.seams.push({ confidence: seam.confidence, right: true });
					found.add(`${page.id} ${question}`);
				}
			}
		}
		for (const seam of proposed) {
			if (found.has(`${seam.page} ${seam.question}`)) continue;
			for (const f of figures) f.labels.wrong++;
			proposals.seams.push({ confidence: seam.confidence, right: false });
			if (seam.confidence < SURE) continue;
			const { position } = strip.find((p) => p.page.id === seam.page)!.shot;
			const where = `page ${position} at ${seam.y.toFixed(2)}`;
			print(`  seed ${packet.seed}: ${seam.question} on ${where}, wrong with ${seam.confidence.toFixed(2)}`);
		}
	}
}

/** What is known of pages, with labels as their writer writes them. */
function settled(packet: SamplePacket, pages: readonly KeptPage[]) {
	const strip = pages.map((p) => p.page.id);
	const records = Object.fromEntries(pages.map((p) => [p.page.id, known(p, packet)]));
	return withLabelsSettled(records, { strip, seams: [] });
}
