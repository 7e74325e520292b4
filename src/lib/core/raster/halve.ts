import { withKernels } from '../kernels/kernels';
import type { Plane } from './picture';

/** Half the size both ways, each pixel the mean of four; an odd last row or column is dropped. */
export function halve({ width, height, data }: Plane): Plane {
	const w = width >> 1;
	const h = height >> 1;
	const half = withKernels(
		(kernels) => {
			const source = kernels.put(data);
			const out = kernels.room(w * h);
			kernels.run.halve(source, width, w, h, out);
			return kernels.bytes(out, w * h);
		},
		() => halvePlain(data, width, w, h)
	);
	return { width: w, height: h, data: half };
}

function halvePlain(data: Uint8Array, width: number, w: number, h: number): Uint8Array {
	const out = new Uint8Array(w * h);
	for (let y = 0, o = 0; y < h; y++) {
		let p = 2 * y * width;
		for (let x = 0; x < w; x++, p += 2, o++) {
			out[o] = (data[p]! + data[p + 1]! + data[p + width]! + data[p + width + 1]! + 2) >> 2;
		}
	}
	return out;
}
