/** What the code on a cover sheet says: whose packet of which assignment lies behind it. */
export interface CoverSheet {
	/** Empty where it is good for any. */
	readonly assignment: string;
	/** The person's `sourcedId`, as the roster has it. */
	readonly person: string;
}

const BEGINS = 'MEMBRANA-COVER-1';
/** Longer ones were never written by `coverText`. */
const LONGEST = 400;

/** What the code of a cover sheet holds. */
export function coverText({ assignment, person }: CoverSheet): string {
	return [BEGINS, encodeURIComponent(assignment), encodeURIComponent(person)].join('/');
}

/** What a code says that was found on a page; null where it is no cover sheet's. */
export function readCover(text: string): CoverSheet | null {
	if (text.length > LONGEST) return null;
	const parts = text.split('/');
	if (parts.length !== 3 || parts[0] !== BEGINS) return null;
	try {
		const [assignment, person] = parts.slice(1).map(decodeURIComponent) as [string, string];
		return person === '' ? null : { assignment, person };
	} catch {
		return null;
	}
}
