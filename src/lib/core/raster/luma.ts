import type { Picture, Plane } from './picture';

/**
 * The luma of a picture, Rec. 601 weights in 16-bit fixed point: one 8-bit plane of the same size.
 * Gamma-encoded on purpose: everything that looks for edges works on what an eye would see.
 */
export function luma({ width, height, channels, data }: Picture): Plane {
	const out = new Uint8Array(width * height);
	for (let i = 0, p = 0; i < out.length; i++, p += channels) {
		out[i] =
			(Math.imul(19595, data[p]!) + Math.imul(38470, data[p + 1]!) + Math.imul(7471, data[p + 2]!) + 32768) >>
			16;
	}
	return { width, height, data: out };
}
