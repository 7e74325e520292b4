/** How alike two texts are: 1 less the edit distance as a part of the longer one (Levenshtein 1966). */
export function similarity(a: string, b: string): number {
	const longer = Math.max(a.length, b.length);
	if (longer === 0) return 0;
	if (a === b) return 1;
	// The edit distance, row by row, in one row that is written over.
	const row = new Uint16Array(b.length + 1).map((_, j) => j);
	for (let i = 1; i <= a.length; i++) {
		const letter = a.charCodeAt(i - 1);
		let [diagonal, left] = [i - 1, i];
		row[0] = i;
		for (let j = 1; j <= b.length; j++) {
			const above = row[j]!;
			const swap = letter === b.charCodeAt(j - 1) ? diagonal : diagonal + 1;
			left = Math.min(swap, above + 1, left + 1);
			row[j] = left;
			diagonal = above;
		}
	}
	return 1 - row[b.length]! / longer;
}
