import { boundsOf, type Drawn } from '../marks/onPage';

/** Names stand in this part of a page's height. */
const HEAD = 0.16;
/** Shorter parts of names are words as well. */
const LEAST = 3;

/**
 * What was added to a page, for somebody who is not to know whose it is: strokes at the top, which nobody reads and which
 * may be a name, are left out, and in typed words every letter of the name is a dot.
 *
 * @param height of the page in pixels
 */
export function unnamed(
	drawn: readonly Drawn[],
	person: { readonly given: string; readonly family: string },
	height: number
): Drawn[] {
	const names = `${person.given} ${person.family}`.split(/[\s-]+/).filter((part) => part.length >= LEAST);
	const any = new RegExp(names.map((n) => n.replace(/\W/gu, '.')).join('|') || '(?!)', 'giu');
	return drawn.flatMap((one): Drawn[] => {
		if (one.kind === 'area') return boundsOf(one)[1] < HEAD * height ? [] : [one];
		return [{ ...one, lines: one.lines.map((l) => l.replace(any, (name) => '·'.repeat(name.length))) }];
	});
}
