/** Share of letters misread, 0 to 1: edit distance (Levenshtein 1966) over length, spaces and case aside. */
export function errorRate(truth: string, read: string): number {
	const a = plain(truth);
	const b = plain(read);
	let before = Array.from({ length: b.length + 1 }, (_, j) => j);
	for (let i = 1; i <= a.length; i++) {
		const row = [i];
		for (let j = 1; j <= b.length; j++) {
			const same = a[i - 1] === b[j - 1] ? 0 : 1;
			row[j] = Math.min(before[j]! + 1, row[j - 1]! + 1, before[j - 1]! + same);
		}
		before = row;
	}
	return Math.min(1, before[b.length]! / Math.max(1, a.length));
}

function plain(text: string): string {
	return text.toLowerCase().replace(/\s+/g, '');
}
