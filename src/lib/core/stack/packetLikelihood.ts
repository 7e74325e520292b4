import type { Answerable } from '../assignment/question';
import { sameHand } from '../hand/sameHand';
import { stepOf } from '../mapping/labelEvents';
import { isSamePage } from '../order/samePages';
import { isDivider } from './dividers';
import type { PageCount, WrittenPage } from './stackPage';

/** What all packets of a stack have in common: how names and numbers are usually written, and how many there are. */
export interface Habits {
	/** Shares of packets with a name on every page, on the first only, on none, and here and there. */
	readonly named: readonly [all: number, first: number, none: number, some: number];
	/** Share of packets whose pages carry numbers. */
	readonly numbered: number;
	/** Share of packets with a sheet before them that was laid there. */
	readonly divided: number;
	/** How likely a packet ends with any page. */
	readonly ends: number;
	/** Share of pages that are written otherwise than those before them in their packet: another pen, another haste. */
	readonly otherwise: number;
}

/** How likely a name stands on the first page and on each further one, by habit; how names are seldom misread or misplaced. */
const NAME_RATES = [
	[0.95, 0.94],
	[0.95, 0.03],
	[0.02, 0.02],
	[0.6, 0.4]
] as const;
const WRONG_NAME = 0.012;
/** Somebody whom the roster does not have. */
const STRANGER = 0.02;
const NUMBER_WRITTEN = 0.95;
const NUMBER_MADE_UP = 0.005;
const HIGHEST = 40;
/** How likely a page of a numbered packet is each number, behind each: rows are the number before it, 0 before the first. */
const FOLLOWS = Array.from({ length: HIGHEST + 1 }, (_, last) =>
	Float64Array.from({ length: HIGHEST + 1 }, (_, number) => (number === 0 ? 0 : follows(number, last)))
);
/** Of packets, so many are of the one who has the packet before: a person brings one. */
const SAME_AGAIN = 0.005;

/** What a label that does not follow costs, in natural logarithms. */
const SKIPPED = -1.2;
const SKIPPED_EACH = -0.25;
const REPEATED = -1.2;
const BACKWARDS = -3.5;
const NOT_BEGUN = -2.2;
const UNFINISHED = -1.4;
/** Shares of pages that begin with a label, and that are full, by their place in a packet. */
const LABEL_FIRST = { first: 0.9, later: 0.35 } as const;
const FULL = { last: 0.35, before: 0.85 } as const;
/** A blank side between two pages, where a packet ends and where it goes on. */
const BLANK = { between: 0.35, inside: 0.03 } as const;
/** Sheets to part packets that lie within one. */
const DIVIDER_INSIDE = { coloured: 0.001, cover: 1e-5 } as const;
/** A page that lies in another's packet, and the second side of its leaf. */
const STRAY = Math.log(0.012);
const STRAY_BACK = Math.log(0.25);
/** A page that is there twice. */
const TWICE = Math.log(0.02);
/** What it says, in natural logarithms, that a page names the packet's count or another, and that it ends with it or not. */
const COUNT = { same: Math.log(1.5), other: Math.log(0.1), reached: 0.8, missed: -1.2 } as const;
/** Pages that a hand is compared with. */
const COMPARED = 4;

/** A packet as far as it has been followed: the logarithm of how likely its pages are, and what goes on to the next. */
export interface Growing {
	/** Pages that are the packet's own, as places in the list. */
	readonly own: readonly number[];
	/** Pages among them that are somebody else's. */
	readonly strays: readonly number[];
	readonly last: number;
	/** Everything but names and numbers. */
	readonly sum: number;
	/** By habit, and by person within: the stranger last. */
	readonly names: readonly Float64Array[];
	/** With numbers, and without. */
	readonly numbered: number;
	readonly unnumbered: number;
	/** For each number, how likely it is the last page's; 0 before the first page. */
	readonly position: Float64Array;
	/** The likeliest of them. */
	readonly lastNumber: number;
	/** How many pages it has, by what is written on them. */
	readonly total: PageCount | null;
	readonly rank: number;
	readonly heading: boolean;
}

/** Judges lists of pages as one packet. */
export class PacketLikelihood {
	readonly #pages: readonly WrittenPage[];
	readonly #ranked: readonly Answerable[];
	readonly #habits: Habits;
	readonly #people: number;
	readonly #hands = new Map<number, number>();
	readonly #twins = new Map<number, boolean>();
	readonly #persons = new WeakMap<Growing, Float64Array>();

	constructor(pages: readonly WrittenPage[], ranked: readonly Answerable[], habits: Habits, people: number) {
		this.#pages = pages;
		this.#ranked = ranked;
		this.#habits = habits;
		this.#people = people;
	}

	/** What comes first in the assignment. */
	get first(): Answerable | undefined {
		return this.#ranked[0];
	}

	/** A packet that begins with a page. */
	begin(first: number): Growing {
		const empty: Growing = {
			own: [],
			strays: [],
			last: -1,
			sum: 0,
			names: NAME_RATES.map(() => new Float64Array(this.#people + 1)),
			numbered: 0,
			unnumbered: 0,
			position: Float64Array.from({ length: HIGHEST + 1 }, (_, number) => Number(number === 0)),
			lastNumber: 0,
			total: null,
			rank: -1,
			heading: false
		};
		return this.#withPage(empty, first);
	}

	/** The ways in which a packet goes on with one more page: its own, a repeated one, or a stray. */
	extend(packet: Growing, next: number): Growing[] {
		const sum = packet.sum + Math.log(1 - this.#habits.ends) + this.#inside(next);
		if (packet.own.some((k) => this.#isSame(k, next))) return [this.#withTwin({ ...packet, sum }, next)];
		const own = this.#withPage({ ...packet, sum }, next);
		// Two sides of one leaf may lie there, no more.
		const [back, front] = [packet.strays.at(-1), packet.strays.at(-2)];
		const isSecond = back === packet.last;
		if (isSecond && front === packet.last - 1) return [own];
		const cost = STRAY + (isSecond ? STRAY_BACK : 0) + this.alone(next);
		return [own, { ...packet, strays: [...packet.strays, next], last: next, sum: sum + cost }];
	}

	#withTwin(packet: Growing, index: number): Growing {
		const page = this.#pages[index]!;
		const number = Math.max(1, ...page.numbers.values());
		return {
			...packet,
			own: [...packet.own, index],
			last: index,
			sum: packet.sum + TWICE,
			names: packet.names.map((n) => this.#named(n, page, 0.5)),
			numbered: packet.numbered + Math.log(number)
		};
	}

	/** A list of pages as one packet, in their order, whether they lie beside each other or not. */
	grown(list: readonly number[]): Growing {
		const [first, ...rest] = list;
		return rest.reduce(
			(packet, next) =>
				this.#withPage({ ...packet, sum: packet.sum + Math.log(1 - this.#habits.ends) }, next),
			this.begin(first!)
		);
	}

	/** How likely a page is by itself, in a packet that nothing is known of. */
	alone(index: number): number {
		const { names, numbers } = this.#pages[index]!;
		const named = sum(names) / Math.max(1, this.#people);
		const numbered = sum(numbers.values()) / HIGHEST;
		return Math.log(0.5 + 0.5 * named) + Math.log(0.5 + 0.5 * numbered) + Math.log(0.5);
	}

	/** How likely a packet's pages are, if it goes on. */
	open(packet: Growing): number {
		return packet.sum + logSum(this.namesOf(packet)) + this.#numbers(packet);
	}

	/** How likely it is as a whole packet. */
	whole(packet: Growing): number {
		const { rank, total, lastNumber } = packet;
		const { ends } = this.#pages[packet.own.at(-1)!]!;
		if (packet.strays.at(-1) === packet.last) return -Infinity;
		let value = this.open(packet) + Math.log(this.#habits.ends);
		value += Math.log(ends.full ? FULL.last : 1 - FULL.last);
		if (rank >= 0 && rank < this.#ranked.length - 1) value += UNFINISHED;
		if (total) value += ifSo(total.chance, lastNumber === total.of ? COUNT.reached : COUNT.missed);
		return value;
	}

	/**
	 * For each person, and for a stranger last, the logarithm of how likely the packet's names are with the person's
	 * share of all packets.
	 */
	namesOf({ names }: Growing): Float64Array {
		const share = Math.log((1 - STRANGER) / this.#people);
		return Float64Array.from({ length: this.#people + 1 }, (_, p) => {
			const habits = names.map((n, h) => n[p]! + Math.log(this.#habits.named[h]!));
			return logSum(habits) + (p === this.#people ? Math.log(STRANGER) : share);
		});
	}

	/**
	 * How much likelier one packet lies behind another than if whose they are had nothing to do with each other, as a
	 * logarithm: hardly ever are both one person's.
	 */
	behind(before: Growing, next: Growing): number {
		const [a, b] = [this.#personsOf(before), this.#personsOf(next)];
		let same = 0;
		for (let p = 0; p < this.#people; p++) same += a[p]! * b[p]!;
		return Math.log(1 - same + same * Math.min(1, SAME_AGAIN * this.#people));
	}

	#personsOf(packet: Growing): Float64Array {
		let persons = this.#persons.get(packet);
		if (!persons) {
			const names = this.namesOf(packet);
			const all = logSum(names);
			this.#persons.set(packet, (persons = names.map((name) => Math.exp(name - all))));
		}
		return persons;
	}

	/** For each habit of naming, the logarithm of how likely the packet is with it. */
	habitsOf({ names }: Growing): number[] {
		return names.map((n, h) => logSum(n) - Math.log(this.#people + 1) + Math.log(this.#habits.named[h]!));
	}

	/** How much likelier the packet's pages carry numbers than not, as the logarithm of odds. */
	numberedOdds({ numbered, unnumbered }: Growing): number {
		return numbered - unnumbered + Math.log(this.#habits.numbered / (1 - this.#habits.numbered));
	}

	/** What lies before a page with which another packet begins, as the logarithm of how likely it is there. */
	between(next: number): number {
		const { before } = this.#pages[next]!;
		const { divided } = this.#habits;
		if (isDivider(before)) return Math.log(divided);
		return Math.log((1 - divided) * (before ? BLANK.between : 1 - BLANK.between));
	}

	/** Whether a sheet was laid somewhere between two pages. */
	isDivided(a: number, b: number): boolean {
		const between = this.#pages.slice(Math.min(a, b) + 1, Math.max(a, b) + 1);
		return between.some(({ before }) => isDivider(before));
	}

	/** Whether a packet begins behind a sheet that was laid there. */
	isBehindDivider({ own }: Growing): boolean {
		return isDivider(this.#pages[own[0]!]!.before);
	}

	#inside(next: number): number {
		const { before } = this.#pages[next]!;
		if (isDivider(before)) return Math.log(DIVIDER_INSIDE[before]);
		return Math.log(before ? BLANK.inside : 1 - BLANK.inside);
	}

	#numbers({ numbered, unnumbered }: Growing): number {
		const { numbered: share } = this.#habits;
		return logSum([numbered + Math.log(share), unnumbered + Math.log(1 - share)]);
	}

	#withPage(packet: Growing, index: number): Growing {
		const page = this.#pages[index]!;
		const isFirst = packet.own.length === 0;
		let { sum } = packet;
		if (!isFirst) {
			const { ends } = this.#pages[packet.own.at(-1)!]!;
			sum += Math.log(ends.full ? FULL.before : 1 - FULL.before);
		}
		const labelFirst = isFirst ? LABEL_FIRST.first : LABEL_FIRST.later;
		sum += Math.log(page.ends.labelFirst ? labelFirst : 1 - labelFirst);
		sum += this.#sameHand(packet.own, index);
		const labels = this.#labels(page, packet);
		const numbers = this.#number(page, packet);
		return {
			...packet,
			...numbers,
			own: [...packet.own, index],
			last: index,
			sum: sum + labels.cost,
			names: packet.names.map((n, h) => this.#named(n, page, NAME_RATES[h]![isFirst ? 0 : 1])),
			rank: labels.rank,
			heading: labels.heading
		};
	}

	#named(before: Float64Array, { names }: WrittenPage, rate: number): Float64Array {
		const wrong = (WRONG_NAME * sum(names)) / Math.max(1, this.#people);
		return before.map((value, p) => value + Math.log(rate * (names[p] ?? 1) + (1 - rate) + wrong));
	}

	/**
	 * Which page of its packet this is, is carried on as likelihoods of all numbers, so that one that was misread does not
	 * lead those behind it astray.
	 */
	#number({ numbers, totals }: WrittenPage, { position: before, total, numbered, unnumbered }: Growing) {
		const position = new Float64Array(HIGHEST + 1);
		for (let last = 0; last <= HIGHEST; last++) {
			const share = before[last]!;
			if (share < 1e-9) continue;
			const row = FOLLOWS[last]!;
			for (let n = 1; n <= HIGHEST; n++) position[n]! += share * row[n]!;
		}
		let all = 0;
		let lastNumber = 1;
		for (let n = 1; n <= HIGHEST; n++) {
			const said = totals.get(n);
			const fits =
				total && said ? ifSo(total.chance * said.chance, said.of === total.of ? COUNT.same : COUNT.other) : 0;
			position[n]! *= 1 - NUMBER_WRITTEN + NUMBER_WRITTEN * (numbers.get(n) ?? 0) * Math.exp(fits);
			all += position[n]!;
			if (position[n]! > position[lastNumber]!) lastNumber = n;
		}
		return {
			numbered: numbered + Math.log(all),
			unnumbered:
				unnumbered + Math.log(1 - NUMBER_MADE_UP + (NUMBER_MADE_UP * sum(numbers.values())) / HIGHEST),
			position: position.map((p) => p / all),
			lastNumber,
			total: agreed(total, totals.get(lastNumber) ?? null)
		};
	}

	#labels({ labels }: WrittenPage, { rank, heading }: Growing) {
		let cost = 0;
		for (const options of labels) {
			const meant = options.flatMap((label) => {
				const step = stepOf(label, this.#ranked, rank, heading);
				return step ? [{ label, step }] : [];
			});
			const best = meant.find(({ step }) => step.rank === rank + 1) ?? meant[0];
			if (!best) continue;
			const { label, step } = best;
			const gap = step.rank - rank;
			const dear =
				gap === 1 || (gap === 0 && (heading || label.question === null))
					? 0
					: gap === 0
						? REPEATED
						: gap < 0
							? BACKWARDS
							: rank < 0
								? NOT_BEGUN
								: SKIPPED + SKIPPED_EACH * Math.min(6, gap - 2);
			cost += Math.log(1 - label.probability + label.probability * Math.exp(dear));
			// A label that was misread must not lead all that follow it astray.
			if (label.probability > 0.5 || gap === 1) {
				rank = step.rank;
				heading = step.heading;
			}
		}
		return { cost, rank, heading };
	}

	#sameHand(own: readonly number[], index: number): number {
		return own.length === 0 ? 0 : Math.log(this.#sameOrOtherwise(this.#likeHand(own, index)));
	}

	/** How likely a page's hand is behind its packet's, who may write otherwise now and then, beside anybody's. */
	#sameOrOtherwise(alike: number): number {
		const { otherwise } = this.#habits;
		return (1 - otherwise) * Math.exp(alike) + otherwise;
	}

	#likeHand(own: readonly number[], index: number): number {
		const compared = own.slice(-COMPARED);
		return compared.reduce((s, k) => s + this.handsAlike(k, index), 0) / compared.length;
	}

	/** For each page of a packet but the first, how likely it is written otherwise than those before it. */
	otherwiseIn({ own }: Growing): number[] {
		return own.slice(1).map((index, k) => {
			const alike = this.#likeHand(own.slice(0, k + 1), index);
			return this.#habits.otherwise / this.#sameOrOtherwise(alike);
		});
	}

	#isSame(a: number, b: number): boolean {
		const key = a * this.#pages.length + b;
		let same = this.#twins.get(key);
		if (same === undefined) {
			this.#twins.set(key, (same = isSamePage(this.#pages[a]!.clues, this.#pages[b]!.clues)));
		}
		return same;
	}

	/** How much likelier one hand wrote both pages than two did, as a logarithm. */
	handsAlike(a: number, b: number): number {
		const n = this.#pages.length;
		const key = Math.min(a, b) * n + Math.max(a, b);
		let value = this.#hands.get(key);
		if (value === undefined) {
			const [x, y] = [this.#pages[a]!.hand, this.#pages[b]!.hand];
			this.#hands.set(key, (value = x && y ? sameHand(x, y) : 0));
		}
		return value;
	}
}

/** What something says that is so by chance only, and else says nothing: natural logarithms. */
function ifSo(chance: number, says: number): number {
	return Math.log(1 - chance + chance * Math.exp(says));
}

/** How many pages a packet has, by what was known of it and what one more page says. */
function agreed(known: PageCount | null, said: PageCount | null): PageCount | null {
	if (!known || !said) return known ?? said;
	if (known.of !== said.of) return said.chance > known.chance ? said : known;
	return { of: known.of, chance: 1 - (1 - known.chance) * (1 - said.chance) };
}

/** How likely a page of a numbered packet is a number, behind another. */
function follows(number: number, last: number): number {
	if (number === last + 1) return 0.85;
	return number > last ? 0.06 * 0.5 ** (number - last - 2) + 0.0005 : 0.003;
}

export function logSum(values: ArrayLike<number>): number {
	let most = -Infinity;
	for (let i = 0; i < values.length; i++) most = Math.max(most, values[i]!);
	if (most === -Infinity) return most;
	let sum = 0;
	for (let i = 0; i < values.length; i++) sum += Math.exp(values[i]! - most);
	return most + Math.log(sum);
}

function sum(values: Iterable<number>): number {
	let all = 0;
	for (const value of values) all += value;
	return all;
}
