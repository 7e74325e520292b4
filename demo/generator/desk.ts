import { blankPicture, type Picture } from '../../src/lib/core/raster/picture';
import { Random } from './random';

export type DeskKind = 'wood' | 'dark' | 'white' | 'cloth' | 'stone';

/** A table top of `width x height` pixels without anything on it. */
export function desk(kind: DeskKind, width: number, height: number, seed: number): Picture {
	const random = new Random(seed);
	const out = blankPicture(width, height);
	const noise = smoothNoise(random);
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
					r = 148 * k;
					g = 98 * k;
					b = 58 * k;
					break;
				}
				case 'dark': {
					const k = tint * (0.85 + 0.3 * noise(u / 40, v / 40));
					r = 52 * k;
					g = 54 * k;
					b = 60 * k;
					break;
				}
				case 'white': {
					const k = 0.985 + 0.03 * noise(u / 120, v / 120);
					r = 231 * k;
					g = 230 * k;
					b = 227 * k;
					break;
				}
				case 'cloth': {
					const stripe = (Math.floor(u / check) + Math.floor(v / check)) & 1;
					const weave = 0.92 + 0.16 * noise(u / 2, v / 2);
					r = (stripe ? 182 : 206) * weave;
					g = (stripe ? 74 : 196) * weave;
					b = (stripe ? 70 : 182) * weave;
					break;
				}
				case 'stone': {
					const k = 0.75 + 0.5 * noise(u / 14, v / 14);
					r = 142 * k;
					g = 140 * k;
					b = 134 * k;
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

/** Side of the lattice; a power of two, so that it wraps by its last bits. */
const KNOTS = 64;

/** Value noise on a wrapped lattice, 0 to 1, smooth between the knots. */
function smoothNoise(random: Random): (x: number, y: number) => number {
	const lattice = Float32Array.from({ length: KNOTS * KNOTS }, () => random.next());
	return (x, y) => {
		const x0 = Math.floor(x);
		const y0 = Math.floor(y);
		const tx = x - x0;
		const ty = y - y0;
		const fx = tx * tx * (3 - 2 * tx);
		const fy = ty * ty * (3 - 2 * ty);
		const left = x0 & (KNOTS - 1);
		const right = (x0 + 1) & (KNOTS - 1);
		const upper = (y0 & (KNOTS - 1)) * KNOTS;
		const lower = ((y0 + 1) & (KNOTS - 1)) * KNOTS;
		const top = lattice[upper + left]! * (1 - fx) + lattice[upper + right]! * fx;
		const bottom = lattice[lower + left]! * (1 - fx) + lattice[lower + right]! * fx;
		return top * (1 - fy) + bottom * fy;
	};
}
