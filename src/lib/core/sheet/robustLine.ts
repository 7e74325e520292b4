/** All points with `o = start + slope * t`. */
export interface FittedLine {
	readonly start: number;
	readonly slope: number;
}

/**
 * Weighted line through the points `(t, o)` with Tukey's biweight (Beaton and Tukey 1974), so that points far off do not
 * pull it; the scale falls from 4 steps to 1.6.
 *
 * @param t places along the line, rising
 * @param o how far off the points are there, in steps
 * @param w what each point weighs
 * @returns null when the points say nothing of a line
 */
export function robustLine(
	t: readonly number[],
	o: readonly number[],
	w: readonly number[]
): FittedLine | null {
	let best: FittedLine | null = null;
	let bestInliers = 0;
	// Starting lines through pairs far apart, so that a short stretch of clutter cannot set the course.
	const step = Math.max(1, Math.floor(t.length / 12));
	for (let i = 0; i < t.length; i += step) {
		for (let j = i + 3 * step; j < t.length; j += step) {
			const slope = (o[j]! - o[i]!) / (t[j]! - t[i]!);
			const start = o[i]! - slope * t[i]!;
			let inliers = 0;
			for (let k = 0; k < t.length; k++) {
				if (Math.abs(start + slope * t[k]! - o[k]!) < 1.8) inliers += w[k]!;
			}
			if (inliers > bestInliers) {
				bestInliers = inliers;
				best = { start, slope };
			}
		}
	}
	if (!best) return null;
	for (const scale of [4, 2.5, 1.6, 1.6]) {
		let sw = 0;
		let st = 0;
		let so = 0;
		let stt = 0;
		let sto = 0;
		for (let k = 0; k < t.length; k++) {
			const u = (best.start + best.slope * t[k]! - o[k]!) / scale;
			if (Math.abs(u) >= 1) continue;
			const weight = w[k]! * (1 - u * u) ** 2;
			sw += weight;
			st += weight * t[k]!;
			so += weight * o[k]!;
			stt += weight * t[k]! * t[k]!;
			sto += weight * t[k]! * o[k]!;
		}
		const determinant = sw * stt - st * st;
		if (sw === 0 || Math.abs(determinant) < 1e-9) return null;
		best = { start: (so * stt - st * sto) / determinant, slope: (sw * sto - st * so) / determinant };
	}
	return best;
}
