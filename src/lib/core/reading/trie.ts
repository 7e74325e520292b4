/** Strings that mean something, with their common beginnings told only once. */
export interface Trie<T> {
	readonly children: Map<string, Trie<T>>;
	/** What the string up to here means, and how usual it is to write it so, 0 to 1. */
	readonly meanings: { readonly value: T; readonly weight: number }[];
}

export function emptyTrie<T>(): Trie<T> {
	return { children: new Map(), meanings: [] };
}

/** Adds a string of printable ASCII. */
export function addTo<T>(trie: Trie<T>, text: string, value: T, weight: number): void {
	let node = trie;
	for (const character of text) {
		let next = node.children.get(character);
		if (!next) node.children.set(character, (next = emptyTrie()));
		node = next;
	}
	node.meanings.push({ value, weight });
}
