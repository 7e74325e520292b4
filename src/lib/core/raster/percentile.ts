/** The value below which the fraction `q` (0 to 1) of 8-bit samples lies; 0 for no samples. */
export function percentile(histogram: ArrayLike<number>, q: number): number {
	let total = 0;
	for (let i = 0; i < histogram.length; i++) total += histogram[i]!;
	let below = 0;
	for (let i = 0; i < histogram.length; i++) {
		below += histogram[i]!;
		if (below > 0 && below >= q * total) return i;
	}
	return 0;
}

/** The median of numbers; NaN for none. The input is not changed. */
export function median(values: ArrayLike<number>): number {
	const sorted = Float64Array.from(values).sort();
	if (sorted.length === 0) return NaN;
	const middle = sorted.length >> 1;
	return sorted.length % 2 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
