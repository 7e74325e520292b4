import type { Plane } from './picture';

/** A plane drawn larger, bilinear, centres of pixels kept in place: nothing moves by a fraction of a pixel. */
export function enlarge(plane: Plane, width: number, height: number): Plane {
	const across = samples(plane.width, width);
	const down = samples(plane.height, height);
	const data = new Uint8Array(width * height);
	for (let y = 0; y < height; y++) {
		const top = down.from[y]! * plane.width;
		const bottom = Math.min(plane.height - 1, down.from[y]! + 1) * plane.width;
		const v = down.part[y]!;
		for (let x = 0; x < width; x++) {
			const left = across.from[x]!;
			const right = Math.min(plane.width - 1, left + 1);
			const u = across.part[x]!;
			const above = plane.data[top + left]! * (1 - u) + plane.data[top + right]! * u;
			const below = plane.data[bottom + left]! * (1 - u) + plane.data[bottom + right]! * u;
			data[y * width + x] = Math.round(above * (1 - v) + below * v);
		}
	}
	return { width, height, data };
}

/** For each sample of the new side, the sample before it on the old one and how far it is on the way to the next. */
function samples(old: number, now: number): { from: Int32Array; part: Float32Array } {
	const from = new Int32Array(now);
	const part = new Float32Array(now);
	for (let i = 0; i < now; i++) {
		const at = Math.min(old - 1, Math.max(0, ((i + 0.5) * old) / now - 0.5));
		from[i] = Math.floor(at);
		part[i] = at - from[i]!;
	}
	return { from, part };
}
