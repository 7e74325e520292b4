import type { SKRSContext2D } from '@napi-rs/canvas';
import type { Picture } from '../../src/lib/core/raster/picture';

/** What has been drawn, as a picture of three channels. */
export function fromCanvas(c: SKRSContext2D, width: number, height: number): Picture & { data: Uint8Array } {
	const rgba = c.getImageData(0, 0, width, height).data;
	const data = new Uint8Array(width * height * 3);
	for (let i = 0, p = 0; p < rgba.length; i += 3, p += 4) {
		data[i] = rgba[p]!;
		data[i + 1] = rgba[p + 1]!;
		data[i + 2] = rgba[p + 2]!;
	}
	return { width, height, channels: 3, data };
}
