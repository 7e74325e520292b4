import type { PersonGuess } from './matchPersons';
import type { Growing, PacketLikelihood } from './packetLikelihood';
import type { WrittenPage } from './stackPage';

/** A name is told to be there from this on: how much likelier the header is with it than with none. */
const TELLS = 20;
/** On one page alone, from this on. */
const TELLS_ALONE = 100;
/** A hand is another from this on, a logarithm. */
const ANOTHER = -1;

/** Why a packet begins with a page, in words. */
export function cutReasons(
	judge: PacketLikelihood,
	list: readonly WrittenPage[],
	before: Growing,
	from: number,
	{ person }: PersonGuess
): string[] {
	const page = list[from]!;
	const last = before.own.at(-1)!;
	const reasons: string[] = [];
	if (page.before === 'cover') reasons.push('a cover sheet before it');
	if (page.before === 'coloured') reasons.push('a coloured sheet before it');
	if (person !== null && page.names[person]! >= TELLS && list[last]!.names[person]! < TELLS) {
		reasons.push('another name');
	}
	const [number] = [...page.numbers].sort((a, b) => b[1] - a[1]);
	if (number?.[0] === 1 && number[1] > 2) reasons.push('page number 1');
	const label = page.labels[0]?.[0];
	if (page.ends.labelFirst && label?.question && before.rank > 0 && isFirst(judge, label)) {
		reasons.push(`question ${label.question} begins again`);
	}
	const { total } = before;
	if (total && total.chance > 0.5 && before.lastNumber === total.of) {
		reasons.push(`page ${total.of} of ${total.of} comes before it`);
	}
	if (judge.handsAlike(last, from) <= ANOTHER) reasons.push('another hand');
	if (page.before === 'blank') reasons.push('a blank side before it');
	if (reasons.length === 0) reasons.push('packets of this stack are about this long');
	return reasons;
}

function isFirst(judge: PacketLikelihood, label: { question: string | null; part: string | null }): boolean {
	const first = judge.first;
	return first?.question === label.question && (label.part === null || label.part === first.part);
}

/** Why a packet is a person's, in words. */
export function personReasons(
	{ person, byElimination }: PersonGuess,
	pages: readonly number[],
	list: readonly WrittenPage[]
): string[] {
	if (person === null) return [];
	if (byElimination) return ['everybody else has a packet'];
	if (pages.some((i) => list[i]!.coveredBy === person)) return ['their cover sheet lies before it'];
	const others = pages.some((i) => list[i]!.coveredBy !== null);
	const on = pages.flatMap((i, k) => (list[i]!.names[person]! >= TELLS ? [k + 1] : []));
	if (on.length === 0) return ['the likeliest of those who have no other packet'];
	const read = list[pages[on[0]! - 1]!]!.nameRead;
	const where =
		on.length === 1 ? `page ${on[0]}` : on.length === pages.length ? 'every page' : `pages ${on.join(', ')}`;
	const name = `name on ${where}${read ? `: “${read}”` : ''}`;
	return others ? [name, 'somebody else’s cover sheet lies before it'] : [name];
}

/** Whether a person's name was read on some pages, and does not just fit better than others' names. */
export function isNameRead(pages: readonly WrittenPage[], person: number): boolean {
	const likely = pages.map((p) => p.names[person]!);
	return likely.some((l) => l >= TELLS_ALONE) || likely.filter((l) => l >= TELLS).length > 1;
}
