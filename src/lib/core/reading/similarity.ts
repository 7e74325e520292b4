/** 1 less the edit distance as a part of the longer text (Levenshtein 1966). */
export function similarity(a: string, b: string): number {
	const longer = Math.max(a.length, b.length);
	if (longer === 0) return 0;
	let row = Array.from({ length: b.length + 1 }, (_, j) => j);
	for (let i = 1; i <= a.length; i++) {
		const next = [i];
		for (let j = 1; j <= b.length; j++) {
			const swap = row[j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1);
			next.push(Math.min(swap, row[j]! + 1, next[j - 1]! + 1));
		}
		row = next;
	}
	return 1 - row[b.length]! / longer;
}
