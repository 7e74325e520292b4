import { PROFILE_ROWS, type LegibilityReason, type WeakPlace } from './legibility';
import { TILE_COLUMNS, TILES } from './tiles';

/** More places than these nobody looks at. */
const MOST = 6;

/**
 * Gathers weak tiles that touch and are weak for the same reason into places, the worst first, measured by how much
 * writing is lost there.
 *
 * @param reasons of each tile; null where it is not weak
 * @param scores of each tile, 0 to 1
 * @param weight of each tile, such as its amount of writing
 */
export function weakPlaces(
	reasons: readonly (LegibilityReason | null)[],
	scores: Float64Array,
	weight: Float64Array
): WeakPlace[] {
	const seen = new Uint8Array(TILES);
	const found: { place: WeakPlace; loss: number }[] = [];
	for (let start = 0; start < TILES; start++) {
		const reason = reasons[start];
		if (seen[start] || !reason) continue;
		const tiles = [start];
		seen[start] = 1;
		for (const t of tiles) {
			for (const n of neighbours(t)) {
				if (seen[n] || reasons[n] !== reason) continue;
				seen[n] = 1;
				tiles.push(n);
			}
		}
		const columns = tiles.map((t) => t % TILE_COLUMNS);
		const rows = tiles.map((t) => Math.floor(t / TILE_COLUMNS));
		const total = tiles.reduce((sum, t) => sum + weight[t]!, 0);
		const score = total > 0 ? tiles.reduce((sum, t) => sum + scores[t]! * weight[t]!, 0) / total : 0;
		found.push({
			place: {
				left: Math.min(...columns) / TILE_COLUMNS,
				top: Math.min(...rows) / PROFILE_ROWS,
				right: (Math.max(...columns) + 1) / TILE_COLUMNS,
				bottom: (Math.max(...rows) + 1) / PROFILE_ROWS,
				score: Math.round(score * 100) / 100,
				reason
			},
			loss: total * (1 - score)
		});
	}
	found.sort((a, b) => b.loss - a.loss);
	return found.slice(0, MOST).map(({ place }) => place);
}

/** The eight tiles around one. */
function neighbours(t: number): number[] {
	const x = t % TILE_COLUMNS;
	const all: number[] = [];
	for (let dy = -1; dy <= 1; dy++) {
		for (let dx = -1; dx <= 1; dx++) {
			const n = t + dy * TILE_COLUMNS + dx;
			if ((dx || dy) && x + dx >= 0 && x + dx < TILE_COLUMNS && n >= 0 && n < TILES) all.push(n);
		}
	}
	return all;
}
