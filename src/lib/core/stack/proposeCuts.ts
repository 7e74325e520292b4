import { answerables, type Question } from '../assignment/question';
import { cutReasons, isNameRead, personReasons } from './becauses';
import { FEEDINGS, inPileOrder, type Feeding } from './feeding';
import { gather, type Gathered } from './gather';
import { matchPersons, type PersonGuess } from './matchPersons';
import { PacketLikelihood, type Growing, type Habits } from './packetLikelihood';
import { segment, type Segmentation } from './segment';
import {
	stackPages,
	type ClassPerson,
	type StackInputPage,
	type StackPage,
	type WrittenPage
} from './stackPage';
import { isWritten, sidesBehind, writtenOf } from './writtenPages';

/** One person's pages, as the stack would be cut. */
export interface ProposedPacket {
	/** Pages with writing, in the order in which they lie. */
	readonly pages: readonly string[];
	/** How sure it is that just these pages are one packet, 0 to 1. */
	readonly confidence: number;
	readonly person: {
		readonly id: string;
		/** 0 to 1. */
		readonly confidence: number;
		readonly because: readonly string[];
	} | null;
}

/** A place where one packet ends and the next begins. */
export interface ProposedCut {
	/** The first page of a packet. */
	readonly page: string;
	readonly confidence: number;
	readonly because: readonly string[];
}

export interface StackProposal {
	readonly feeding: Feeding;
	/** All pages as they lie in the pile. */
	readonly order: readonly string[];
	readonly packets: readonly ProposedPacket[];
	readonly cuts: readonly ProposedCut[];
	/** Pages of no packet. */
	readonly setAside: readonly {
		readonly page: string;
		/** `cover`: it was laid between packets. */
		readonly reason: 'blank' | 'stray' | 'cover';
		/** 1 where nothing else is on it; less where something is that nobody could read. */
		readonly confidence: number;
	}[];
	/** Who has no packet. */
	readonly missing: readonly string[];
	/** Pages that lay in another's packet and were put where they belong. */
	readonly moved: readonly string[];
}

export interface StackInput {
	/** In the order in which they were fed. */
	readonly pages: readonly StackInputPage[];
	readonly roster: readonly ClassPerson[];
	readonly questions: readonly Question[];
	/** The most pages that the assignment asks for. */
	readonly most?: number;
	/** Which it is, for cover sheets; absent: those of any assignment are taken. */
	readonly assignment?: string;
}

/** Of a class this part usually brings something in. */
const PRESENT = 0.93;
const USUAL_LENGTH = 5;
const LONGEST = 16;
/** Longer packets than asked for are thought of up to so many pages. */
const BEYOND = 4;
/** Fronts and backs fed apart are rarer than leaf by leaf, and are believed only where much speaks for them. */
const FED_APART = -6;
/** A leaf with one side of coloured paper and one of other. */
const TWO_PAPERS = -6;
/** Habits are learned from the stack in so many rounds, with as many packets' worth of what is usual. */
const ROUNDS = 2;
const USUAL = { named: [0.45, 0.4, 0.1, 0.05], numbered: 0.6, otherwise: 0.02 } as const;
const USUAL_COUNT = 3;
/** As many pages' worth of how much hands usually vary. */
const USUAL_PAGES = 10;
/** Share of packets behind a sheet that was laid there, where there are such sheets and where there are none. */
const DIVIDED = { some: 0.5, none: 0.02 } as const;
/** Whose a packet is, is no surer than this behind somebody else's cover sheet. */
const DOUBTED = 0.4;

/** How a stack would be cut into packets, whose they are, and why. A pure function of what was read. */
export function proposeCuts({ pages, roster, questions, most, assignment }: StackInput): StackProposal {
	const fed = stackPages(pages, roster, questions, assignment);
	const longest = Math.max(most ? most + BEYOND : LONGEST, 4);
	const ranked = answerables(questions);
	const written = fed.filter(isWritten).length;
	const ends = Math.min(
		0.85,
		Math.max(0.05, (PRESENT * roster.length || written / USUAL_LENGTH) / Math.max(1, written))
	);
	const judgeOf = (list: readonly WrittenPage[], habits: Habits) =>
		new PacketLikelihood(list, ranked, habits, roster.length);
	const divided = fed.some((page) => page.divider) ? DIVIDED.some : DIVIDED.none;
	const usual: Habits = { ...USUAL, divided, ends };
	let habits = usual;

	const feedings = fed.length % 2 === 0 && fed.length > 3 ? FEEDINGS : FEEDINGS.slice(0, 1);
	const tried = feedings.map((feeding) => {
		const piled = inPileOrder(feeding, fed.length).map((i) => fed[i]!);
		const list = writtenOf(piled);
		const cut = segment(judgeOf(list, habits), list.length, longest);
		return { feeding, piled, list, cut, value: cut.value + (feeding === 'as fed' ? 0 : fedApart(piled)) };
	});
	const { feeding, piled, list, cut: first } = tried.reduce((a, b) => (b.value > a.value ? b : a));
	let cut = first;
	let judge = judgeOf(list, habits);
	for (let round = 0; round < ROUNDS; round++) {
		habits = learned(judge, cut, usual);
		judge = judgeOf(list, habits);
		cut = segment(judge, list.length, longest);
	}
	const heaps = gather(judge, cut);
	const packets = heaps.map((heap) => judge.grown(heap.pages));
	const guesses = matchPersons(
		packets.map((p) => judge.namesOf(p)),
		roster.length,
		(s, p) =>
			isNameRead(
				heaps[s]!.pages.map((i) => list[i]!),
				p
			)
	);
	return told({ feeding, piled, list, cut, judge, heaps, packets, guesses, roster });
}

/** How likely the sides of leaves that would lie like this were fed apart, as a logarithm. */
function fedApart(piled: readonly StackPage[]): number {
	const isColoured = (i: number) => piled[i]!.divider?.kind === 'coloured';
	const leaves = Array.from({ length: piled.length >> 1 }, (_, leaf) => 2 * leaf);
	return FED_APART + TWO_PAPERS * leaves.filter((i) => isColoured(i) !== isColoured(i + 1)).length;
}

/** How names and numbers are written in this stack, from a first way to cut it. */
function learned(judge: PacketLikelihood, { segments }: Segmentation, usual: Habits): Habits {
	const named = usual.named.map((share) => share * USUAL_COUNT);
	let numbered = usual.numbered * USUAL_COUNT;
	let divided = usual.divided * USUAL_COUNT;
	let otherwise = usual.otherwise * USUAL_PAGES;
	let further = USUAL_PAGES;
	for (const { packet } of segments) {
		const logs = judge.habitsOf(packet);
		const top = Math.max(...logs);
		const shares = logs.map((l) => Math.exp(l - top));
		const all = shares.reduce((a, b) => a + b, 0);
		shares.forEach((share, h) => (named[h]! += share / all));
		if (judge.isBehindDivider(packet)) divided++;
		numbered += 1 / (1 + Math.exp(-judge.numberedOdds(packet)));
		for (const chance of judge.otherwiseIn(packet)) {
			otherwise += chance;
			further++;
		}
	}
	const count = segments.length + USUAL_COUNT;
	return {
		named: named.map((n) => n / count) as unknown as Habits['named'],
		numbered: numbered / count,
		divided: divided / count,
		otherwise: otherwise / further,
		ends: usual.ends
	};
}

interface Told {
	readonly feeding: Feeding;
	readonly piled: readonly StackPage[];
	readonly list: readonly WrittenPage[];
	readonly cut: Segmentation;
	readonly judge: PacketLikelihood;
	readonly heaps: readonly Gathered[];
	readonly packets: readonly Growing[];
	readonly guesses: readonly PersonGuess[];
	readonly roster: readonly ClassPerson[];
}

function told(known: Told): StackProposal {
	const { feeding, piled, list, cut, judge, heaps, guesses, roster } = known;
	const behind = sidesBehind(piled);
	const withSides = (i: number) => [list[i]!.id, ...(behind.get(list[i]!.id) ?? [])];
	const inPackets = new Set(heaps.flatMap((h) => h.pages).flatMap(withSides));
	const taken = new Set(guesses.flatMap((g) => (g.person === null ? [] : [g.person])));
	return {
		feeding,
		order: piled.map((p) => p.id),
		packets: heaps.map(({ pages, confidence }, s): ProposedPacket => {
			const guess = guesses[s]!;
			const person = guess.person === null ? null : roster[guess.person]!;
			const isOthers = pages.some((i) => ![null, guess.person].includes(list[i]!.coveredBy));
			return {
				pages: pages.flatMap(withSides),
				confidence: rounded(confidence),
				person: person && {
					id: person.id,
					confidence: rounded(isOthers ? Math.min(DOUBTED, guess.confidence) : guess.confidence),
					because: personReasons(guess, pages, list)
				}
			};
		}),
		cuts: heaps
			.map((heap, s) => ({ from: firstOf(heap), s }))
			.sort((a, b) => a.from - b.from)
			.slice(1)
			.map(({ from, s }): ProposedCut => {
				const before = cut.segments.find((one) => one.from <= from - 1 && from - 1 < one.to)!.packet;
				return {
					page: list[from]!.id,
					confidence: rounded(cut.begins[from]!),
					because: cutReasons(judge, list, before, from, guesses[s]!)
				};
			}),
		setAside: piled.flatMap((page): StackProposal['setAside'][number][] => {
			if (inPackets.has(page.id)) return [];
			if (page.divider) return [{ page: page.id, reason: 'cover', confidence: 1 }];
			if (page.blank !== 'no') {
				return [{ page: page.id, reason: 'blank', confidence: page.blank === 'yes' ? 1 : 0.5 }];
			}
			return [{ page: page.id, reason: page.onlyHeader ? 'blank' : 'stray', confidence: 0.5 }];
		}),
		missing: roster.flatMap((person, p) => (taken.has(p) ? [] : [person.id])),
		moved: heaps.flatMap((h) => h.moved.map((i) => list[i]!.id))
	};
}

/** The first of a packet's pages that lies where the packet does. */
function firstOf({ pages, moved }: Gathered): number {
	const own = pages.filter((i) => !moved.includes(i));
	return Math.min(...(own.length > 0 ? own : pages));
}

function rounded(value: number): number {
	return Math.round(100 * value) / 100;
}
