/** What PostgreSQL's text and jsonb cannot hold: NUL, and halves of surrogate pairs. */
const UNSTORABLE = /[\0\p{Cs}]/u;

/** Whether a database can hold this text as it is. */
export function isStorable(text: string): boolean {
	return !UNSTORABLE.test(text);
}

/** The text with a replacement character (U+FFFD) in place of each thing that a database cannot hold. */
export function toStorable(text: string): string {
	return text.replace(new RegExp(UNSTORABLE, 'gu'), '\u{fffd}');
}

/** The first letters of a text, at most so many UTF-16 units; no pair of them is cut in two. */
export function shorten(text: string, most: number): string {
	const cut = text.slice(0, most);
	return /[\ud800-\udbff]$/.test(cut) ? cut.slice(0, -1) : cut;
}

/** Whether a database can hold every text in a value out of JSON, names of fields included. */
export function holdsStorable(value: unknown): boolean {
	const left = [value];
	while (left.length > 0) {
		const next = left.pop();
		if (typeof next === 'string') {
			if (!isStorable(next)) return false;
		} else if (typeof next === 'object' && next !== null) {
			for (const [key, inner] of Object.entries(next)) left.push(key, inner);
		}
	}
	return true;
}
