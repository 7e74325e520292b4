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

/**
 * The value that stands at this place once the values are sorted (Hoare 1961, FIND). Their order changes.
 *
 * @param rank 0 for the least
 * @throws RangeError where there is no such place
 */
export function nth(values: Float32Array, rank: number): number {
	if (!(rank >= 0 && rank < values.length)) throw new RangeError('nth needs a place among the values');
	let left = 0;
	let right = values.length - 1;
	while (left < right) {
		const pivot = values[(left + right) >> 1]!;
		let i = left;
		let j = right;
		while (i <= j) {
			while (values[i]! < pivot) i++;
			while (pivot < values[j]!) j--;
			if (i > j) break;
			const value = values[i]!;
			values[i++] = values[j]!;
			values[j--] = value;
		}
		if (rank <= j) right = j;
		else if (rank >= i) left = i;
		else break;
	}
	return values[rank]!;
}
