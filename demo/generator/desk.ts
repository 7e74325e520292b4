import { blankPicture, type Picture } from '../../src/lib/core/raster/picture';
import { Random } from './random';

export type DeskKind = 'wood' | 'dark' | 'white' | 'cloth' | 'stone';

/** A table top of `width x height` pixels without anything on it. */
export function desk(kind: DeskKind, width: number, height: number, seed: number): Picture {
	const random = new Random(seed);
	const out = blankPicture(width, height);
	const noise = smoothNoise(random, 64);
	const angle = random.between(-0.2, 0.2);
	const ca = Math.cos(angle);
	const sa = Math.sin(angle);
	const unit = 1000 / Math.max(width, height);
	const tint = random.between(0.8, 1.15);
	const check = random.between(28, 60);
	for (let y = 0, p = 0; y < height; y++) {
		for (let x = 0; x < width; x++, p += 3) {
			const u = (x * ca + y * sa) * unit;
			const v = (y * ca - x * sa) * unit;
			let r: number;
			let g: number;
			let b: number;
			switch (kind) {
				case 'wood': {
					const grain = noise(u / 90, v / 7) * 0.6 + noise(u / 30, v / 2.2) * 0.4;
					const k = tint * (0.72 + 0.55 * grain);
					[r, g, b] = [148 * k, 98 * k, 58 * k];
					break;
				}
				case 'dark': {
					const k = tint * (0.85 + 0.3 * noise(u / 40, v / 40));
					[r, g, b] = [52 * k, 54 * k, 60 * k];
					break;
				}
				case 'white': {
					const k = 0.985 + 0.03 * noise(u / 120, v / 120);
					[r, g, b] = [231 * k, 230 * k, 227 * k];
					break;
				}
				case 'cloth': {
					const stripe = (Math.floor(u / check) + Math.floor(v / check)) & 1;
					const weave = 0.92 + 0.16 * noise(u / 2, v / 2);
					[r, g, b] = stripe
						? [182 * weave, 74 * weave, 70 * weave]
						: [206 * weave, 196 * weave, 182 * weave];
					break;
				}
				case 'stone': {
					const k = 0.75 + 0.5 * noise(u / 14, v / 14);
					[r, g, b] = [142 * k, 140 * k, 134 * k];
					break;
				}
			}
			out.data[p] = Math.min(255, r);
			out.data[p + 1] = Math.min(255, g);
			out.data[p + 2] = Math.min(255, b);
		}
	}
	return out;
}

/** Value noise on a wrapped lattice, 0 to 1, smooth between the knots. */
function smoothNoise(random: Random, size: number): (x: number, y: number) => number {
	const lattice = Float32Array.from({ length: size * size }, () => random.next());
	const smooth = (t: number) => t * t * (3 - 2 * t);
	return (x, y) => {
		const x0 = Math.floor(x);
		const y0 = Math.floor(y);
		const fx = smooth(x - x0);
		const fy = smooth(y - y0);
		const at = (i: number, j: number) =>
			lattice[(((j % size) + size) % size) * size + (((i % size) + size) % size)]!;
		const top = at(x0, y0) * (1 - fx) + at(x0 + 1, y0) * fx;
		const bottom = at(x0, y0 + 1) * (1 - fx) + at(x0 + 1, y0 + 1) * fx;
		return top * (1 - fy) + bottom * fy;
	};
}
