/**
 * What lies within so many pixels of something, across and down (dilation by a square).
 *
 * @param mask 1 for something and 0 for nothing, `width x height`; stays as it is
 */
export function around(mask: Uint8Array, width: number, height: number, reach: number): Uint8Array {
	const across = new Uint8Array(mask.length);
	for (let i = 0; i < mask.length; i++) {
		if (!mask[i]) continue;
		const x = i % width;
		across.fill(1, i - Math.min(x, reach), i + Math.min(width - 1 - x, reach) + 1);
	}
	const out = new Uint8Array(mask.length);
	for (let y = 0, i = 0; y < height; y++) {
		for (let x = 0; x < width; x++, i++) {
			if (!across[i]) continue;
			for (let v = Math.max(0, y - reach); v <= Math.min(height - 1, y + reach); v++) out[v * width + x] = 1;
		}
	}
	return out;
}
