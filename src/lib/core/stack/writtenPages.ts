import { MOST, type StackPage, type WrittenPage } from './stackPage';

/** The pages with writing of a pile, with what lies before each. */
export function writtenOf(piled: readonly StackPage[]): WrittenPage[] {
	const written: WrittenPage[] = [];
	let between: StackPage[] = [];
	for (const page of piled) {
		if (isWritten(page)) {
			written.push(behind([...between, page], page));
			between = [];
		} else between.push(page);
	}
	return written;
}

/**
 * A written page, and what it begins with: of several cover sheets the last is its packet's.
 *
 * @param laid what lies between it and the written page before, and the page itself, which may be a cover sheet in use
 */
function behind(laid: readonly StackPage[], page: StackPage): WrittenPage {
	const dividers = laid.flatMap(({ divider }) => divider ?? []);
	const cover = dividers.findLast((d) => d.kind === 'cover');
	const before = cover?.kind ?? dividers[0]?.kind ?? (laid.length > 1 ? 'blank' : null);
	const person = cover?.person ?? null;
	if (person === null) return { ...page, before, coveredBy: null };
	const names = page.names.slice();
	names[person] = MOST;
	return { ...page, names, before, coveredBy: person };
}

/** Something of a person's stands on it. */
export function isWritten({ blank, onlyHeader, divider, isUsed }: StackPage): boolean {
	return blank === 'no' && !onlyHeader && (!divider || isUsed);
}

/** Sides with nothing but a header, by the written page that lies before them (the first, where none does). */
export function sidesBehind(piled: readonly StackPage[]): Map<string, string[]> {
	const behind = new Map<string, string[]>();
	let before = piled.find(isWritten)?.id;
	for (const page of piled) {
		if (isWritten(page)) before = page.id;
		else if (page.blank === 'no' && !page.divider && before)
			behind.set(before, [...(behind.get(before) ?? []), page.id]);
	}
	return behind;
}
