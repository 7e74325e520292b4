import { withKernels, type Kernels } from '../kernels/kernels';
import { binomialBlur } from '../raster/binomialBlur';
import { boxBlur } from '../raster/boxBlur';
import type { FloatPlane, Picture } from '../raster/picture';

/** Gradients of a picture, each divided by the mean gradient around it. */
export interface EdgeMap {
	readonly width: number;
	readonly height: number;
	/** Components of the normalised gradient; they point to the brighter side. */
	readonly gx: Float32Array;
	readonly gy: Float32Array;
	/** What the gradients were taken from: 0 to 255, high on paper. */
	readonly paper: FloatPlane;
}

/** Gradients below this many grey levels a pixel are sensor noise, not an edge. */
const NOISE_FLOOR = 0.9;

/** Radius of the neighbourhood whose mean gradient counts as ordinary, as a fraction of the longer side. */
const NEIGHBOURHOOD = 1 / 28;

/**
 * Edges by how much they stand out from their surroundings, so that the faint rim of white paper on
 * a white table counts as much as that of paper on a dark one.
 */
export function edgeMap(picture: Picture): EdgeMap {
	const { width, height } = picture;
	const radius = Math.round(Math.max(width, height) * NEIGHBOURHOOD);
	const { paper, gx, gy } = withKernels(
		(kernels) => edgesFast(kernels, picture, radius),
		() => edgesPlain(picture, radius)
	);
	return { width, height, gx, gy, paper: { width, height, data: paper } };
}

/** The planes of an edge map; the rim has no gradients. */
interface Planes {
	readonly paper: Float32Array;
	readonly gx: Float32Array;
	readonly gy: Float32Array;
}

/** In single precision, so it differs from the plain version in the last places. */
function edgesFast(kernels: Kernels, { width, height, channels, data }: Picture, radius: number): Planes {
	const count = width * height;
	const source = kernels.put(data);
	const paper = kernels.room(4 * count);
	const gx = kernels.cleared(4 * count);
	const gy = kernels.cleared(4 * count);
	const scratch = kernels.room(3 * (4 * count + 64) + 4 * width + 192);
	kernels.run.edges(source, width, height, channels, radius, NOISE_FLOOR, paper, gx, gy, scratch);
	const read = (at: number) => kernels.floats(at, count);
	return { paper: read(paper), gx: read(gx), gy: read(gy) };
}

function edgesPlain(picture: Picture, radius: number): Planes {
	const { width, height } = picture;
	const paper = binomialBlur(paperLikeness(picture));
	const p = paper.data;
	const gx = new Float32Array(width * height);
	const gy = new Float32Array(width * height);
	const length = new Float32Array(width * height);
	for (let y = 1; y < height - 1; y++) {
		for (let x = 1; x < width - 1; x++) {
			const i = y * width + x;
			// Scharr 1999: the 3x3 derivative with the most even response over all directions.
			const a = p[i - width - 1]!;
			const b = p[i - width]!;
			const c = p[i - width + 1]!;
			const d = p[i - 1]!;
			const f = p[i + 1]!;
			const g = p[i + width - 1]!;
			const h = p[i + width]!;
			const k = p[i + width + 1]!;
			const dx = (3 * (c - a) + 10 * (f - d) + 3 * (k - g)) / 32;
			const dy = (3 * (g - a) + 10 * (h - b) + 3 * (k - c)) / 32;
			gx[i] = dx;
			gy[i] = dy;
			length[i] = Math.sqrt(dx * dx + dy * dy);
		}
	}
	const ordinary = boxBlur({ width, height, data: length }, radius).data;
	for (let i = 0; i < gx.length; i++) {
		const unit = 1 / (ordinary[i]! + NOISE_FLOOR);
		gx[i]! *= unit;
		gy[i]! *= unit;
	}
	return { paper: p, gx, gy };
}

/** Bright and colourless is paper: the mean of luma and of the weakest channel. */
function paperLikeness({ width, height, channels, data }: Picture): FloatPlane {
	const out = new Float32Array(width * height);
	for (let i = 0, p = 0; i < out.length; i++, p += channels) {
		const r = data[p]!;
		const g = data[p + 1]!;
		const b = data[p + 2]!;
		out[i] = 0.5 * (0.299 * r + 0.587 * g + 0.114 * b) + 0.5 * Math.min(r, g, b);
	}
	return { width, height, data: out };
}
