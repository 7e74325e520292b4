import type { FloatPlane, Plane } from './picture';

/** The same plane in floating point. */
export function toFloat({ width, height, data }: Plane): FloatPlane {
	return { width, height, data: Float32Array.from(data) };
}

/** Bilinear sample at `(x, y)` in pixel-centre coordinates; outside, the nearest edge pixel. */
export function sampleFloat({ width, height, data }: FloatPlane, x: number, y: number): number {
	const cx = Math.min(Math.max(x, 0), width - 1);
	const cy = Math.min(Math.max(y, 0), height - 1);
	const x0 = Math.min(Math.floor(cx), Math.max(width - 2, 0));
	const y0 = Math.min(Math.floor(cy), Math.max(height - 2, 0));
	const x1 = Math.min(x0 + 1, width - 1);
	const y1 = Math.min(y0 + 1, height - 1);
	const fx = cx - x0;
	const fy = cy - y0;
	const top = data[y0 * width + x0]! * (1 - fx) + data[y0 * width + x1]! * fx;
	const bottom = data[y1 * width + x0]! * (1 - fx) + data[y1 * width + x1]! * fx;
	return top * (1 - fy) + bottom * fy;
}

/** Bilinear resize, used to bring maps computed at low resolution back up. */
export function resizeFloat(plane: FloatPlane, width: number, height: number): FloatPlane {
	const data = new Float32Array(width * height);
	const sx = plane.width / width;
	const sy = plane.height / height;
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			data[y * width + x] = sampleFloat(plane, (x + 0.5) * sx - 0.5, (y + 0.5) * sy - 0.5);
		}
	}
	return { width, height, data };
}
