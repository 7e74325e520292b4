/** Spearman's rank correlation; equal values share their mean rank. */
export function rankCorrelation(a: readonly number[], b: readonly number[]): number {
	const x = ranks(a);
	const y = ranks(b);
	const mean = (a.length - 1) / 2;
	let xy = 0;
	let xx = 0;
	let yy = 0;
	for (let i = 0; i < x.length; i++) {
		xy += (x[i]! - mean) * (y[i]! - mean);
		xx += (x[i]! - mean) ** 2;
		yy += (y[i]! - mean) ** 2;
	}
	return xy / Math.sqrt(xx * yy);
}

function ranks(values: readonly number[]): Float64Array {
	const order = [...values.keys()].sort((i, j) => values[i]! - values[j]!);
	const out = new Float64Array(values.length);
	for (let i = 0; i < order.length;) {
		let j = i + 1;
		while (j < order.length && values[order[j]!] === values[order[i]!]) j++;
		for (let k = i; k < j; k++) out[order[k]!] = (i + j - 1) / 2;
		i = j;
	}
	return out;
}
