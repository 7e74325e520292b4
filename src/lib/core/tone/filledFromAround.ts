import { boxBlur } from '../raster/boxBlur';
import type { FloatPlane } from '../raster/picture';

/** Radii within which what is not known is taken from what is; the last one reaches everywhere. */
const RADII = [3, 9, 27, 300] as const;
/** Less than this share of a window tells nothing. */
const LEAST_KNOWN = 0.02;

/**
 * A plane with what is not known taken from what is known nearest to it.
 *
 * @param known how far each value counts, 0 to 1; those of 0 are replaced
 * @param wanted 0 for places that need no value; all are needed where absent
 */
export function filledFromAround(
	{ width, height, data }: FloatPlane,
	known: Float32Array,
	wanted?: Uint8Array
): FloatPlane {
	const out = data.slice();
	const open = Uint8Array.from(known, (v, i) => Number(v === 0 && (wanted?.[i] ?? 1) > 0));
	const weighted = data.map((v, i) => v * known[i]!);
	for (const radius of RADII) {
		if (!open.includes(1)) break;
		const sums = boxBlur({ width, height, data: weighted }, radius).data;
		const shares = boxBlur({ width, height, data: known }, radius).data;
		for (let i = 0; i < out.length; i++) {
			if (!open[i] || shares[i]! < LEAST_KNOWN) continue;
			out[i] = sums[i]! / shares[i]!;
			open[i] = 0;
		}
	}
	return { width, height, data: out };
}

/** Over-relaxation (Young 1950), and how often each value is gone over: enough for areas of some sixty values across. */
const RELAXATION = 1.85;
const TIMES = 40;

/**
 * A plane with what is not known spanned like a skin from what lies around it (Laplace's equation): a slope goes on
 * through it.
 *
 * @param known 0 for values that are replaced
 */
export function spanned(plane: FloatPlane, known: Float32Array): FloatPlane {
	const { width, height } = plane;
	const { data } = filledFromAround(plane, known);
	const open = Int32Array.from(known.keys()).filter((i) => known[i] === 0);
	for (let time = 0; time < TIMES; time++) {
		for (const i of open) {
			const x = i % width;
			// The border goes on outside.
			const left = data[x > 0 ? i - 1 : i]!;
			const right = data[x < width - 1 ? i + 1 : i]!;
			const above = data[i >= width ? i - width : i]!;
			const below = data[i + width < data.length ? i + width : i]!;
			data[i]! += RELAXATION * ((left + right + above + below) / 4 - data[i]!);
		}
	}
	return { width, height, data };
}
