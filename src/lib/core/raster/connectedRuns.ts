import { inkRuns } from './inkRuns';

/** Runs of ink along rows, and which of them hang together. */
export interface ConnectedRuns {
	/** First pixel of each run, and one past its last, row-major. */
	readonly starts: Int32Array;
	readonly ends: Int32Array;
	/** The run that stands for all that hang together with this one. */
	root(run: number): number;
}

/**
 * Runs of ink joined row by row (eight neighbours) with union-find (He, Chao and Suzuki 2008).
 *
 * @param ink 1 for ink, 0 for paper, `width x height`
 */
export function connectedRuns(ink: Uint8Array, width: number, height: number): ConnectedRuns {
	const edges = inkRuns(ink, width, height);
	const count = edges.length >> 1;
	const starts = new Int32Array(count);
	const ends = new Int32Array(count);
	const parent = new Int32Array(count);
	const root = (i: number): number => {
		while (parent[i] !== i) {
			parent[i] = parent[parent[i]!]!;
			i = parent[i]!;
		}
		return i;
	};
	// Runs before this one on the row above that may still touch it.
	let above = 0;
	for (let id = 0; id < count; id++) {
		const from = (starts[id] = edges[2 * id]!);
		const end = (ends[id] = edges[2 * id + 1]!);
		parent[id] = id;
		// The row above, laid under this one; a run at its end does not touch one at the beginning of this row.
		const rowStart = ((from / width) | 0) * width;
		while (above < id && (starts[above]! < rowStart - width || ends[above]! + width < from)) above++;
		for (let k = above; k < id && starts[k]! < rowStart && starts[k]! + width <= end; k++) {
			const a = root(k);
			const b = root(id);
			if (a !== b) parent[Math.max(a, b)] = Math.min(a, b);
		}
	}
	return { starts, ends, root };
}
