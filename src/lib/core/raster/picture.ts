/**
 * A colour picture: `width x height` pixels, row-major, interleaved,
 * 3 channels (RGB) or 4 (RGBA), 8 bits each, sRGB.
 */
export interface Picture {
	readonly width: number;
	readonly height: number;
	readonly channels: 3 | 4;
	readonly data: Uint8Array | Uint8ClampedArray;
	/** How coarsely the file it came from was compressed: mean step of its luma quantisation; absent when it is not known. */
	readonly quantisation?: number;
}

/** One plane of 8-bit samples: `width x height`, row-major. */
export interface Plane {
	readonly width: number;
	readonly height: number;
	readonly data: Uint8Array;
}

/** One plane of 32-bit floating-point samples: `width x height`, row-major. */
export interface FloatPlane {
	readonly width: number;
	readonly height: number;
	readonly data: Float32Array;
}

/** A new RGB picture filled with one colour. */
export function blankPicture(
	width: number,
	height: number,
	[r, g, b]: readonly [number, number, number] = [255, 255, 255]
): Picture & { data: Uint8Array } {
	const data = new Uint8Array(width * height * 3);
	for (let i = 0; i < data.length; i += 3) {
		data[i] = r;
		data[i + 1] = g;
		data[i + 2] = b;
	}
	return { width, height, channels: 3, data };
}
