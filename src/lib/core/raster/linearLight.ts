/** sRGB code value (0 to 255) to linear light (0 to 1), IEC 61966-2-1. */
export const TO_LINEAR = Float32Array.from({ length: 256 }, (_, v) => {
	const c = v / 255;
	return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
});

const STEPS = 4096;

/** Linear light in steps of 1/4096 to the sRGB code value; index `min(4095, light * 4096 | 0)`. */
export const FROM_LINEAR = Uint8Array.from({ length: STEPS }, (_, i) => {
	const l = (i + 0.5) / STEPS;
	const c = l <= 0.0031308 ? l * 12.92 : 1.055 * l ** (1 / 2.4) - 0.055;
	return Math.round(Math.min(1, c) * 255);
});
