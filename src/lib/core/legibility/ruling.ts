import { withKernels, type Kernels } from '../kernels/kernels';
import type { Plane } from '../raster/picture';

/** Runs longer than this fraction of the page are ruling, margins and table lines, not strokes. */
const RULING = 0.07;
const GAP = 3;
/** Less of the page than this under long lines is a table or an underlining. */
const LEAST_RULED = 0.01;
/** How far beyond a line a stroke that crosses it must show, in pixels. */
const BEYOND = 4;

interface Lines {
	/** What is dark, without lines. */
	readonly mask: Uint8Array;
	/** Pixels under lines, and how dark they are together, in grey levels below white. */
	readonly ruled: number;
	readonly darkness: number;
}

/**
 * `dark` without its long straight lines, but with the strokes that cross them.
 *
 * @param faint the same at a lower contrast, on which lines are followed: a thin line fades in and out as it crosses the
 *   pixel grid
 * @returns the mask, and how far lines stand out from the paper in grey levels; 0 where there are next to none
 */
export function withoutRuling(
	grey: Plane,
	dark: Uint8Array,
	faint: Uint8Array
): { mask: Uint8Array; ruling: number } {
	const { mask, ruled, darkness } = withKernels(
		(kernels) => withoutLinesFast(kernels, grey, dark, faint),
		() => withoutLinesPlain(grey, dark, faint)
	);
	return { mask, ruling: ruled > LEAST_RULED * mask.length ? darkness / ruled : 0 };
}

function withoutLinesFast(
	kernels: Kernels,
	{ width, height, data }: Plane,
	dark: Uint8Array,
	faint: Uint8Array
): Lines {
	const { run } = kernels;
	const size = width * height;
	const [source, before, mask, followed] = [data, dark, dark, faint].map((plane) => kernels.put(plane));
	const across = kernels.cleared(size);
	const down = kernels.cleared(size);
	const scratch = kernels.room(16 * 8);
	run.longRunsAcross(followed!, width, height, Math.round(width * RULING), GAP, across, scratch);
	run.longRunsDown(followed!, width, height, Math.round(height * RULING), GAP, down, scratch);
	const sums = kernels.room(8);
	run.withoutRuling(source!, before!, across, down, width, height, BEYOND, mask!, sums);
	const [ruled, darkness] = kernels.integers(sums, 2);
	return { mask: kernels.bytes(mask!, size), ruled: ruled!, darkness: darkness! };
}

function withoutLinesPlain({ width, height, data }: Plane, dark: Uint8Array, faint: Uint8Array): Lines {
	const across = longRuns(faint, width, height, false);
	const down = longRuns(faint, width, height, true);
	const mask = dark.slice();
	let ruled = 0;
	let darkness = 0;
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			const i = y * width + x;
			if (!(across[i] || down[i])) continue;
			ruled++;
			darkness += 255 - data[i]!;
			if (!mask[i]) continue;
			// A stroke goes on beyond the line; another line that crosses it is no stroke.
			const above = i - BEYOND * width;
			const below = i + BEYOND * width;
			const crossedDown =
				(above >= 0 && dark[above] && !down[above]) || (below < dark.length && dark[below] && !down[below]);
			const left = x >= BEYOND ? i - BEYOND : i;
			const right = x + BEYOND < width ? i + BEYOND : i;
			const crossedAcross = (dark[left] && !across[left]) || (dark[right] && !across[right]);
			if ((across[i] && !crossedDown) || (down[i] && !crossedAcross)) mask[i] = 0;
		}
	}
	return { mask, ruled, darkness };
}

/** Marks the dark pixels that are part of a long straight run. */
function longRuns(dark: Uint8Array, width: number, height: number, down: boolean): Uint8Array {
	const marks = new Uint8Array(dark.length);
	const outer = down ? width : height;
	const inner = down ? height : width;
	const step = down ? width : 1;
	const across = down ? 1 : width;
	const least = Math.round(inner * RULING);
	// A line that leans a little leaves its row: runs are followed on the row and its neighbours.
	for (let o = 1; o < outer - 1; o++) {
		const base = o * across;
		let start = -1;
		let last = -1;
		for (let i = 0; i <= inner; i++) {
			const p = base + i * step;
			if (i < inner && (dark[p] || dark[p - across] || dark[p + across])) {
				if (start < 0) start = i;
				last = i;
			} else if (start >= 0 && (i - last > GAP || i === inner)) {
				if (last - start >= least) for (let k = start; k <= last; k++) marks[base + k * step] = 1;
				start = -1;
			}
		}
	}
	return marks;
}
