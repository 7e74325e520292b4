/** Runs of ink along rows, and which of them hang together. */
export interface ConnectedRuns {
	/** First pixel of each run, and one past its last, row-major. */
	readonly starts: readonly number[];
	readonly ends: readonly number[];
	/** The run that stands for all that hang together with this one. */
	root(run: number): number;
}

/**
 * Runs of ink joined row by row (eight neighbours) with union-find (He, Chao and Suzuki 2008).
 *
 * @param ink 1 for ink, 0 for paper, `width x height`
 */
export function connectedRuns(ink: Uint8Array, width: number, height: number): ConnectedRuns {
	const starts: number[] = [];
	const ends: number[] = [];
	const parent: number[] = [];
	const root = (i: number): number => {
		while (parent[i] !== i) {
			parent[i] = parent[parent[i]!]!;
			i = parent[i]!;
		}
		return i;
	};
	let above = 0;
	for (let y = 0; y < height; y++) {
		const row = y * width;
		const rowStart = starts.length;
		let overlapFrom = above;
		for (let x = 0; x < width;) {
			if (!ink[row + x]) {
				x++;
				continue;
			}
			const from = x;
			while (x < width && ink[row + x]) x++;
			const id = starts.length;
			starts.push(row + from);
			ends.push(row + x);
			parent.push(id);
			while (overlapFrom < rowStart && ends[overlapFrom]! - row + width < from) overlapFrom++;
			for (let k = overlapFrom; k < rowStart && starts[k]! - row + width <= x; k++) {
				const a = root(k);
				const b = root(id);
				if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
			}
		}
		above = rowStart;
	}
	return { starts, ends, root };
}
