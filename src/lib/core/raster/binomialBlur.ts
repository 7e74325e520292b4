import type { FloatPlane } from './picture';

/**
 * Blur with the five binomial weights 1 4 6 4 1 along each direction: a standard deviation of exactly one pixel.
 * Border pixels are repeated outward.
 */
export function binomialBlur({ width, height, data }: FloatPlane): FloatPlane {
	const across = new Float32Array(data.length);
	for (let y = 0; y < height; y++) {
		const row = y * width;
		const last = row + width - 1;
		for (let x = 0; x < width; x++) {
			const i = row + x;
			const inside = x >= 2 && x < width - 2;
			const a = data[inside ? i - 2 : Math.max(row, i - 2)]!;
			const b = data[inside ? i - 1 : Math.max(row, i - 1)]!;
			const d = data[inside ? i + 1 : Math.min(last, i + 1)]!;
			const e = data[inside ? i + 2 : Math.min(last, i + 2)]!;
			across[i] = (a + e + 4 * (b + d) + 6 * data[i]!) * 0.0625;
		}
	}
	const out = new Float32Array(data.length);
	for (let y = 0; y < height; y++) {
		const at = (dy: number) => Math.min(Math.max(y + dy, 0), height - 1) * width;
		const [p, q, r, s, t] = [at(-2), at(-1), y * width, at(1), at(2)];
		for (let x = 0; x < width; x++) {
			out[r + x] =
				(across[p + x]! + across[t + x]! + 4 * (across[q + x]! + across[s + x]!) + 6 * across[r + x]!) *
				0.0625;
		}
	}
	return { width, height, data: out };
}
