import { withKernels } from '../kernels/kernels';

/**
 * Runs of ink along rows, as pairs of numbers: the first pixel of each run and one past its last, row-major. Most of a
 * page is paper, so what works on its ink is quickest on these.
 *
 * @param ink 1 for ink, 0 for paper, `width x height`
 */
export function inkRuns(ink: Uint8Array, width: number, height: number): Int32Array {
	return withKernels(
		(kernels) => {
			const source = kernels.put(ink);
			const out = kernels.room(8 * height * Math.ceil(width / 2));
			const count = kernels.run.inkRuns(source, width, height, out);
			return kernels.integers(out, 2 * count);
		},
		() => inkRunsPlain(ink, width, height)
	);
}

function inkRunsPlain(ink: Uint8Array, width: number, height: number): Int32Array {
	const runs: number[] = [];
	for (let y = 0; y < height; y++) {
		const end = (y + 1) * width;
		for (let i = y * width; i < end; i++) {
			if (!ink[i]) continue;
			runs.push(i);
			while (i < end && ink[i]) i++;
			runs.push(i);
		}
	}
	return Int32Array.from(runs);
}
