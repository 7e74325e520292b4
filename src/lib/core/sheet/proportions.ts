import { distance, type Quadrilateral } from './geometry';

/**
 * Width divided by height of the flat rectangle whose picture has these corners, for a camera with
 * square pixels whose axis goes through the middle of the picture (Zhang and He 2007, "Whiteboard
 * scanning and image enhancement", section 3). Falls back on the mean side lengths where the view is
 * too near to straight on for the focal length to be recovered.
 *
 * @param corners in pixels of the picture
 * @param pictureSize `[width, height]` of the picture in pixels
 */
export function proportions(corners: Quadrilateral, pictureSize: readonly [number, number]): number {
	const centre = [pictureSize[0] / 2, pictureSize[1] / 2] as const;
	// The paper's order: m1 top left, m2 top right, m3 bottom left, m4 bottom right; homogeneous.
	const [m1, m2, m4, m3] = corners.map(([x, y]) => [x - centre[0], y - centre[1], 1] as Vector);
	const fromSides = meanSides(corners);

	const k2 = dot(cross(m1!, m4!), m3!) / dot(cross(m2!, m4!), m3!);
	const k3 = dot(cross(m1!, m4!), m2!) / dot(cross(m3!, m4!), m2!);
	const n2 = subtract(scale(m2!, k2), m1!);
	const n3 = subtract(scale(m3!, k3), m1!);
	if (!isFinite(k2) || !isFinite(k3)) return fromSides;

	// Both n[2] vanish for a parallelogram: then the view is affine and the sides tell all there is.
	const PARALLEL = 1e-4;
	if (Math.abs(n2[2]) < PARALLEL && Math.abs(n3[2]) < PARALLEL) return fromSides;
	const focalSquared = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2]);
	// Phones see 50 to 85 degrees along the longer side; far outside that range the estimate is noise.
	const longer = Math.max(...pictureSize);
	const plausible = focalSquared > (0.4 * longer) ** 2 && focalSquared < (3 * longer) ** 2;
	const f2 = plausible ? focalSquared : (0.8 * longer) ** 2;

	const norm = (n: Vector) => (n[0] * n[0] + n[1] * n[1]) / f2 + n[2] * n[2];
	const ratio = Math.sqrt(norm(n2) / norm(n3));
	return isFinite(ratio) && ratio > 0.2 && ratio < 5 ? ratio : fromSides;
}

function meanSides([a, b, c, d]: Quadrilateral): number {
	return (distance(a, b) + distance(d, c)) / (distance(b, c) + distance(a, d));
}

type Vector = readonly [number, number, number];
const cross = (a: Vector, b: Vector): Vector => [
	a[1] * b[2] - a[2] * b[1],
	a[2] * b[0] - a[0] * b[2],
	a[0] * b[1] - a[1] * b[0]
];
const dot = (a: Vector, b: Vector) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const scale = (a: Vector, k: number): Vector => [a[0] * k, a[1] * k, a[2] * k];
const subtract = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
