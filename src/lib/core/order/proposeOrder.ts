import type { TrayReason } from '../packet/packet';
import type { Question } from '../assignment/question';
import { bestSequence } from './bestSequence';
import { byName } from './byName';
import type { PageClues } from './pageClues';
import { repeatedPages } from './samePages';
import { sequenceJudge, type SequenceJudge } from './sequenceScore';
import { risingNumbers, settleNumbers, type SettledNumber } from './pageNumbers';

export interface PlacedPage {
	readonly page: string;
	/** Why it stands here, as a sentence. */
	readonly reason: string;
	/** 0 to 1. */
	readonly confidence: number;
	/** The number on it, as far as it is known. */
	readonly number: SettledNumber | null;
}

export interface PageSetAside {
	readonly page: string;
	readonly reason: TrayReason;
	/** Of a page that is there twice, the one that is kept. */
	readonly of: string | null;
	/** As a sentence. */
	readonly why: string;
}

/** The sequence that the machine would put the pages in. */
export interface OrderProposal {
	readonly strip: readonly PlacedPage[];
	readonly setAside: readonly PageSetAside[];
	/** Page numbers that no page carries. */
	readonly missing: readonly number[];
}

/** The best order of pages, what should be set aside and what is missing, each with its reason. */
export function proposeOrder(pages: readonly PageClues[], questions: readonly Question[]): OrderProposal {
	const numbers = settleNumbers(pages);
	const twins = repeatedPages(pages, numbers);
	// Where most pages carry another name, the packet is more likely somebody else's than each page a stray.
	const others = pages.filter((p) => p.otherPerson).length;
	const strays = others <= pages.filter((p) => !p.blank).length / 2;
	const setAside: PageSetAside[] = [];
	const kept: PageClues[] = [];
	pages.forEach((clues, i) => {
		const twin = twins[i];
		const aside = (reason: TrayReason, why: string, of: string | null = null) =>
			setAside.push({ page: clues.page, reason, of, why });
		if (clues.blank) aside('blank', 'There is no writing on it.');
		else if (twin !== null && twin !== undefined) {
			aside('duplicate', 'The same page is there twice; the other picture reads better.', pages[twin]!.page);
		} else if (clues.otherPerson && strays) aside('extra', `It carries the name ${clues.otherPerson}.`);
		else kept.push(clues);
	});
	const judge = sequenceJudge(kept, questions);
	const { sequence, confidences } = bestSequence(starts(kept, judge), judge.score);
	const settled = risingNumbers(sequence.map((i) => kept[i]!));
	return {
		strip: sequence.map((index, place) => ({
			page: kept[index]!.page,
			reason: reasonFor(sequence, place, judge, settled[place]!),
			confidence: Math.round(100 * confidences[place]!) / 100,
			number: settled[place]!
		})),
		setAside,
		missing: missingNumbers(settled)
	};
}

/** Sequences to begin at: by number, by label, by file name, by time. */
function starts(pages: readonly PageClues[], { numbers, labels, ranked }: SequenceJudge): number[][] {
	const all = pages.map((_, i) => i);
	const rank = (i: number) => {
		const first = labels[i]!.find((l) => l.question !== null);
		return first ? ranked.findIndex((r) => r.question === first.question) : Infinity;
	};
	const names = (a: number, b: number) => byName(pages[a]!.fileName, pages[b]!.fileName);
	const by = (key: (i: number) => number) => [...all].sort((a, b) => compare(key(a), key(b)) || names(a, b));
	return [
		by((i) => numbers[i]?.number ?? Infinity),
		by(rank),
		[...all].sort(names),
		by((i) => pages[i]!.takenAt ?? Infinity)
	];
}

/** Without NaN where both are infinite. */
function compare(a: number, b: number): number {
	return a === b ? 0 : a < b ? -1 : 1;
}

function reasonFor(
	sequence: readonly number[],
	place: number,
	judge: SequenceJudge,
	number: SettledNumber | null
): string {
	const index = sequence[place]!;
	if (number && number.confidence >= 0.1) {
		const written = number.of === null ? `${number.number}` : `${number.number} of ${number.of}`;
		return number.said ? `You said it is page ${written}.` : `It reads page ${written}.`;
	}
	const label = judge.labels[index]![0];
	const previous = sequence[place - 1];
	const ends = judge.ends[index]!;
	if (label && ends.labelFirst) {
		return `It begins with ${label.question ?? ''}${label.part ?? ''}, which comes next.`;
	}
	if (previous !== undefined && judge.ends[previous]!.breaksOff * ends.goesOn > 0.5) {
		return 'It goes on where the page before breaks off.';
	}
	if (label) return `It holds ${label.question ?? ''}${label.part ?? ''}, which comes next.`;
	return 'Nothing on it says where it belongs; it fits best here.';
}

/** Numbers between those that were read, with no unnumbered page in between that could carry them. */
function missingNumbers(numbers: readonly (SettledNumber | null)[]): number[] {
	const read = numbers.flatMap((n) => n ?? []);
	if (read.length === 0 || read.length < numbers.length / 2) return [];
	const totals = read.flatMap((n) => n.of ?? []);
	const total = totals.find((t) => totals.filter((u) => u === t).length >= 2) ?? 0;
	const missing: number[] = [];
	let last = 0;
	let between = 0;
	const gap = (next: number) => {
		if (between === 0) for (let n = last + 1; n < next; n++) missing.push(n);
	};
	for (const one of numbers) {
		if (!one) {
			between++;
			continue;
		}
		gap(one.number);
		last = Math.max(last, one.number);
		between = 0;
	}
	if (total > 0) gap(total + 1);
	return missing;
}
