import sharp from 'sharp';
import type { Picture } from '../src/lib/core/raster/picture';

/** Ways in which a picture of a page gets worse, each from nothing to hopeless, at about 200 dots an inch. */
export const LADDERS = {
	/** Standard deviation of a Gaussian, in pixels. */
	blur: [1.5, 3, 4, 5, 6.5, 8.5],
	/** Length of the camera's path, in pixels. */
	motion: [6, 10, 14, 19, 26, 34],
	/** How many times smaller the picture is. */
	size: [2.5, 4, 5, 6, 7.2, 8.5],
	/** How much of the ink's darkness is left. */
	fading: [0.4, 0.2, 0.14, 0.1, 0.07, 0.05],
	/** JPEG quality, of a picture made smaller first, as messengers do. */
	compression: [25, 12, 7, 4, 2, 1]
} as const;
/** Messengers make pictures about this much smaller, on both sides. */
const MESSENGER = 0.42;

export type Ladder = keyof typeof LADDERS;

/** Makes a picture worse, and returns it as the JPEG that would be handed in. Fading is drawn, not made here. */
export async function degrade(
	picture: Picture,
	ladder: Ladder,
	amount: number,
	seed: number
): Promise<Buffer> {
	const { width, height, channels } = picture;
	const open = () => sharp(picture.data, { raw: { width, height, channels } });
	switch (ladder) {
		case 'blur':
			return open().blur(amount).jpeg({ quality: 88 }).toBuffer();
		case 'motion':
			return open().convolve(motionKernel(amount, seed)).jpeg({ quality: 88 }).toBuffer();
		case 'size':
			return open()
				.resize({ width: Math.round(width / amount) })
				.jpeg({ quality: 88 })
				.toBuffer();
		case 'compression':
			return open()
				.resize({ width: Math.round(width * MESSENGER) })
				.jpeg({ quality: amount })
				.toBuffer();
		case 'fading':
			return open().jpeg({ quality: 88 }).toBuffer();
	}
}

/** A straight path in a direction of its own. */
function motionKernel(length: number, seed: number) {
	const size = Math.ceil(length) | 1;
	const angle = (seed * 0.7) % Math.PI;
	const kernel = new Array<number>(size * size).fill(0);
	const middle = (size - 1) / 2;
	for (let s = -length / 2; s <= length / 2; s += 0.25) {
		const x = Math.round(middle + s * Math.cos(angle));
		const y = Math.round(middle + s * Math.sin(angle));
		const i = Math.min(size - 1, Math.max(0, y)) * size + Math.min(size - 1, Math.max(0, x));
		kernel[i] = (kernel[i] ?? 0) + 1;
	}
	return { width: size, height: size, kernel };
}
