import type { Picture } from '../raster/picture';
import { robustLine } from './robustLine';
import { isConvex, type Point, type Quadrilateral } from './geometry';

const SAMPLES = 90;
/** The ends of a side are left out: dog-ears and torn corners are there. */
const END = 0.04;

/**
 * Moves each side onto the strongest edge near it, to a fraction of a pixel: along each side, the
 * steepest rise towards the inside is located on a profile across the side (with a parabola through
 * the peak), and a line is fitted to those places with Tukey's biweight, so that fingers, pens and
 * shadows across the edge do not pull it.
 *
 * @param corners in pixels of `picture`, clockwise
 * @param reach how far to look on both sides of each side, in steps
 * @param step pixels from one sample to the next: in a large picture neighbours tell nothing new
 * @param fixed sides (in the order top, right, bottom, left) that stay where they are
 */
export function refineSides(
	picture: Picture,
	corners: Quadrilateral,
	reach: number,
	step: number,
	fixed: readonly boolean[]
): Quadrilateral {
	const lines = [0, 1, 2, 3].map((i) => {
		const a = corners[i]!;
		const b = corners[(i + 1) % 4]!;
		return fixed[i] ? throughPoints(a, b) : refineSide(picture, a, b, reach, step);
	});
	const refined = [0, 1, 2, 3].map((i) => meet(lines[(i + 3) % 4]!, lines[i]!));
	const ok =
		refined.every(
			(p, i) => p && Math.hypot(p[0] - corners[i]![0], p[1] - corners[i]![1]) < 3 * reach * step
		) && isConvex(refined as Point[]);
	return ok ? (refined as unknown as Quadrilateral) : corners;
}

interface Line {
	readonly nx: number;
	readonly ny: number;
	readonly rho: number;
}

function throughPoints(a: Point, b: Point): Line {
	const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
	// Clockwise on a screen: the inside is to the right of the direction of travel.
	const nx = -(b[1] - a[1]) / length;
	const ny = (b[0] - a[0]) / length;
	return { nx, ny, rho: a[0] * nx + a[1] * ny };
}

function refineSide(picture: Picture, a: Point, b: Point, reach: number, step: number): Line {
	const { width, height, channels, data } = picture;
	const line = throughPoints(a, b);
	const half = Math.ceil(reach);
	const profile = new Float32Array(2 * half + 3);
	const along: number[] = [];
	const offsets: number[] = [];
	const weights: number[] = [];
	for (let s = 0; s < SAMPLES; s++) {
		const t = END + ((1 - 2 * END) * s) / (SAMPLES - 1);
		const x = a[0] + t * (b[0] - a[0]);
		const y = a[1] + t * (b[1] - a[1]);
		const far = (half + 1) * step;
		const seen = (px: number, py: number) => px >= 1 && py >= 1 && px < width - 1 && py < height - 1;
		if (!seen(x - far * line.nx, y - far * line.ny) || !seen(x + far * line.nx, y + far * line.ny)) continue;
		for (let k = 0; k < profile.length; k++) {
			const px = x + (k - half - 1) * step * line.nx;
			const py = y + (k - half - 1) * step * line.ny;
			// The mean of a short run along the side keeps noise and wood grain down.
			let sum = 0;
			for (let j = -3; j <= 3; j++) {
				const qx = Math.min(Math.max(Math.floor(px + j * step * line.ny), 0), width - 1);
				const qy = Math.min(Math.max(Math.floor(py - j * step * line.nx), 0), height - 1);
				const p = (qy * width + qx) * channels;
				sum += 77 * data[p]! + 150 * data[p + 1]! + 29 * data[p + 2]!;
			}
			profile[k] = sum / (7 * 256);
		}
		let peak = -1;
		let height0 = 0;
		const rise = (k: number) => profile[k + 1]! - profile[k - 1]!;
		for (let k = 1; k < profile.length - 1; k++) {
			// Edges nearer to where the search put the side are preferred a little.
			const value = rise(k) * (1 - 0.35 * Math.abs((k - half - 1) / half));
			if (value > height0) {
				height0 = value;
				peak = k;
			}
		}
		if (peak < 2 || peak > profile.length - 3 || height0 < 3) continue;
		const l = rise(peak - 1);
		const m = rise(peak);
		const r = rise(peak + 1);
		const bend = l - 2 * m + r;
		const fraction = bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (l - r)) / bend)) : 0;
		along.push(t);
		offsets.push(peak + fraction - half - 1);
		weights.push(Math.min(height0, 40));
	}
	if (along.length < SAMPLES / 4) return line;
	const fit = robustLine(along, offsets, weights);
	if (!fit) return line;
	const at = (t: number): Point => {
		const o = (fit.start + fit.slope * t) * step;
		return [a[0] + t * (b[0] - a[0]) + o * line.nx, a[1] + t * (b[1] - a[1]) + o * line.ny];
	};
	return throughPoints(at(0), at(1));
}

function meet(p: Line, q: Line): Point | null {
	const determinant = p.nx * q.ny - p.ny * q.nx;
	if (Math.abs(determinant) < 0.3) return null;
	return [(p.rho * q.ny - q.rho * p.ny) / determinant, (q.rho * p.nx - p.rho * q.nx) / determinant];
}
