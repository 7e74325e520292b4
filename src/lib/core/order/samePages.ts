import { likeness, SAME_PAGE } from './fingerprint';
import type { PageClues } from './pageClues';
import type { SettledNumber } from './pageNumbers';

/** Fingerprints this alike carry the same writing, whatever else was read. */
const CERTAIN = 0.8;
/** Lines of writing that two pages must share where their fingerprints leave doubt, as a part of the shorter one's. */
const SHARED_TRIPLES = 0.25;
/** Fewer groups of three letters than this tell nothing. */
const LEAST_TRIPLES = 30;

/**
 * For each page, the page of the same writing that is kept in its place, or null: of several pictures of one page the
 * most readable stays.
 */
export function repeatedPages(
	pages: readonly PageClues[],
	numbers: readonly (SettledNumber | null)[]
): (number | null)[] {
	const triples = pages.map(triplesOf);
	const kept: number[] = [];
	const of: (number | null)[] = pages.map(() => null);
	const byQuality = pages
		.map((_, i) => i)
		.sort((a, b) => pages[b]!.legibility - pages[a]!.legibility || a - b);
	for (const i of byQuality) {
		if (pages[i]!.blank) continue;
		const twin = kept.find((k) => isSame(i, k));
		if (twin === undefined) kept.push(i);
		else of[i] = twin;
	}
	return of;

	function isSame(a: number, b: number): boolean {
		const alike = likeness(pages[a]!.fingerprint, pages[b]!.fingerprint);
		if (alike < SAME_PAGE) return false;
		if (alike >= CERTAIN) return true;
		const [x, y] = [numbers[a], numbers[b]];
		if (x && y && x.number !== y.number && Math.min(x.confidence, y.confidence) > 0.8) return false;
		const [s, t] = [triples[a]!, triples[b]!];
		const fewer = Math.min(s.size, t.size);
		if (fewer < LEAST_TRIPLES) return true;
		let shared = 0;
		for (const triple of s) if (t.has(triple)) shared++;
		return shared >= SHARED_TRIPLES * fewer;
	}
}

/** Groups of three letters that stand on a page: misread words still share some. */
function triplesOf({ reading }: PageClues): Set<string> {
	const triples = new Set<string>();
	for (const { text } of reading?.lines ?? []) {
		const plain = text.toLowerCase().replace(/[^a-z0-9]/g, '');
		for (let i = 0; i + 3 <= plain.length; i++) triples.add(plain.slice(i, i + 3));
	}
	return triples;
}
