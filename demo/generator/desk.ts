import { blankPicture, type Picture } from '../../src/lib/core/raster/picture';
import { Random } from './random';

export type DeskKind = 'wood' | 'dark' | 'white' | 'cloth' | 'stone';

/** A table top of `width x height` pixels without anything on it. */
export function desk(kind: DeskKind, width: number, height: number, seed: number): Picture {
	const random = new Random(seed);
	const out = blankPicture(width, height);
	const lattice = Float32Array.from({ length: KNOTS * KNOTS }, () => random.next());
	const angle = random.between(-0.2, 0.2);
	const unit = 1000 / Math.max(width, height);
	const lie = { ca: Math.cos(angle), sa: Math.sin(angle), unit };
	const tint = random.between(0.8, 1.15);
	const check = random.between(28, 60);
	const noise = new Float64Array(width);
	const finer = new Float64Array(width);
	for (let y = 0; y < height; y++) {
		switch (kind) {
			case 'wood':
				noiseRow(noise, lattice, lie, y, 90, 7);
				noiseRow(finer, lattice, lie, y, 30, 2.2);
				for (let x = 0; x < width; x++) {
					const grain = noise[x]! * 0.6 + finer[x]! * 0.4;
					noise[x] = tint * (0.72 + 0.55 * grain);
				}
				colourRow(out.data, y, noise, 148, 98, 58);
				break;
			case 'dark':
				noiseRow(noise, lattice, lie, y, 40, 40);
				for (let x = 0; x < width; x++) noise[x] = tint * (0.85 + 0.3 * noise[x]!);
				colourRow(out.data, y, noise, 52, 54, 60);
				break;
			case 'white':
				noiseRow(noise, lattice, lie, y, 120, 120);
				for (let x = 0; x < width; x++) noise[x] = 0.985 + 0.03 * noise[x]!;
				colourRow(out.data, y, noise, 231, 230, 227);
				break;
			case 'cloth':
				noiseRow(noise, lattice, lie, y, 2, 2);
				clothRow(out.data, y, noise, lie, check);
				break;
			case 'stone':
				noiseRow(noise, lattice, lie, y, 14, 14);
				for (let x = 0; x < width; x++) noise[x] = 0.75 + 0.5 * noise[x]!;
				colourRow(out.data, y, noise, 142, 140, 134);
				break;
		}
	}
	return out;
}

/** How the pattern lies: the cosine and sine of its angle, and its units in a pixel. */
interface Lie {
	readonly ca: number;
	readonly sa: number;
	readonly unit: number;
}

function colourRow(data: Uint8Array, y: number, shade: Float64Array, r: number, g: number, b: number): void {
	for (let x = 0, p = y * shade.length * 3; x < shade.length; x++, p += 3) {
		const k = shade[x]!;
		data[p] = Math.min(255, r * k);
		data[p + 1] = Math.min(255, g * k);
		data[p + 2] = Math.min(255, b * k);
	}
}

function clothRow(
	data: Uint8Array,
	y: number,
	noise: Float64Array,
	{ ca, sa, unit }: Lie,
	check: number
): void {
	for (let x = 0, p = y * noise.length * 3; x < noise.length; x++, p += 3) {
		const u = (x * ca + y * sa) * unit;
		const v = (y * ca - x * sa) * unit;
		const stripe = (Math.floor(u / check) + Math.floor(v / check)) & 1;
		const weave = 0.92 + 0.16 * noise[x]!;
		data[p] = Math.min(255, (stripe ? 182 : 206) * weave);
		data[p + 1] = Math.min(255, (stripe ? 74 : 196) * weave);
		data[p + 2] = Math.min(255, (stripe ? 70 : 182) * weave);
	}
}

/** Side of the lattice; a power of two, so that it wraps by its last bits. */
const KNOTS = 64;

/**
 * A row of value noise on a wrapped lattice, 0 to 1, smooth between the knots, which lie `across` and `down`
 * apart. A row at a time: one call a pixel is several times slower.
 */
function noiseRow(
	out: Float64Array,
	lattice: Float32Array,
	{ ca, sa, unit }: Lie,
	row: number,
	across: number,
	down: number
): void {
	for (let i = 0; i < out.length; i++) {
		const x = ((i * ca + row * sa) * unit) / across;
		const y = ((row * ca - i * sa) * unit) / down;
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
		out[i] = top * (1 - fy) + bottom * fy;
	}
}
