import { piecesByQuestion, stretchesOf } from '../mapping/stretches';
import { list, namePages, plural } from '../rules/finding';
import type { Packet, Page } from './packet';

/**
 * What changed in the file between two versions of a packet, as short sentences; none where the file is the same.
 * Positions are those of the later version, but for pages that are no longer in it.
 */
export function differences(before: Packet, after: Packet): string[] {
	const at = (packet: Packet, id: string) => packet.strip.indexOf(id) + 1;
	const added = after.strip.filter((id) => !before.strip.includes(id));
	const gone = before.strip.filter((id) => !after.strip.includes(id));
	const kept = after.strip.filter((id) => before.strip.includes(id));
	const told: string[] = [];
	if (added.length > 0) {
		told.push(`${namePages(added.map((id) => at(after, id)))} ${added.length === 1 ? 'is' : 'are'} new`);
	}
	if (gone.length > 0) {
		told.push(
			`${plural(gone.length, 'page')} taken out (${list(gone.map((id) => `was ${at(before, id)}`))})`
		);
	}
	if (kept.join() !== before.strip.filter((id) => after.strip.includes(id)).join()) {
		told.push('the order is another one');
	}
	for (const [what, changed] of PAGE_CHANGES) {
		const pages = kept.filter((id) => changed(before.pages[id]!, after.pages[id]!));
		if (pages.length > 0) told.push(`${namePages(pages.map((id) => at(after, id)))}: ${what}`);
	}
	const questions = movedQuestions(before, after);
	if (questions.length > 0)
		told.push(`${list(questions)} ${questions.length === 1 ? 'is' : 'are'} placed otherwise`);
	const attempted = symmetric(before.notAttempted, after.notAttempted);
	if (attempted.length > 0) told.push(`marked otherwise as attempted or not: ${list(attempted)}`);
	if (before.fileName !== after.fileName) told.push('the file has another name');
	return told;
}

const other = (a: unknown, b: unknown) => JSON.stringify(a ?? null) !== JSON.stringify(b ?? null);
const picture = (p: Page) => [p.source, p.sourcePage, p.half];

const PAGE_CHANGES: readonly [string, (a: Page, b: Page) => boolean][] = [
	['photographed again', (a, b) => other(picture(a), picture(b))],
	['other corners', (a, b) => !other(picture(a), picture(b)) && other(a.corners, b.corners)],
	['turned', (a, b) => !other(picture(a), picture(b)) && a.turn !== b.turn],
	['lines made level or left', (a, b) => a.level !== b.level],
	['another tone', (a, b) => other(a.tone, b.tone)],
	['written on', (a, b) => other(a.marks, b.marks)],
	['kept more or less finely', (a, b) => other(a.encoding, b.encoding)]
];

/** Questions whose parts of pages are others than before; a page that only moved does not count. */
function movedQuestions(before: Packet, after: Packet): string[] {
	const places = (packet: Packet) =>
		new Map(
			[...piecesByQuestion(stretchesOf(packet))].map(([question, pieces]) => [
				question,
				JSON.stringify(pieces.map((p) => [p.page, p.top.toFixed(3), p.bottom.toFixed(3)]))
			])
		);
	const [then, now] = [places(before), places(after)];
	return [...new Set([...then.keys(), ...now.keys()])].filter((q) => then.get(q) !== now.get(q));
}

function symmetric(a: readonly string[], b: readonly string[]): string[] {
	return [...a.filter((x) => !b.includes(x)), ...b.filter((x) => !a.includes(x))];
}
