import { below } from '../raster/below';
import { luma } from '../raster/luma';
import type { Picture, Plane } from '../raster/picture';

/** Levels this far from black and white are still these: a file may have been kept in grey. */
const NEAR = 10;
/** And so few may lie between. */
const BETWEEN = 0.004;
/** Every so manieth pixel is looked at: a prime, so that columns do not repeat. */
const STRIDE = 37;
/** A third of a pixel of ink is ink: hair lines of the scan are thinner than a pixel of the page. */
const THIN = 168;
/** Levels by which a step of ink weight moves it. */
const WEIGHT = 24;

/** True when a picture holds black and white only: somebody has decided already what is ink. */
export function isTwoTone({ channels, data }: Picture): boolean {
	let between = 0;
	let all = 0;
	for (let p = 0; p + 2 < data.length; p += STRIDE * channels) {
		all++;
		for (let c = 0; c < 3; c++) {
			if (data[p + c]! > NEAR && data[p + c]! < 255 - NEAR) {
				between++;
				break;
			}
		}
	}
	return all > 0 && between <= BETWEEN * all;
}

/**
 * Black and white of a picture that was so before it was flattened: 0 for ink, 255 for paper. Nothing is dropped and
 * nothing hollowed out; dots, hair lines and filled shapes were told from dirt by whoever scanned it.
 */
export function keepTwoTone(page: Picture, inkWeight: number): Plane {
	const grey = luma(page);
	const ink = below(grey, THIN + WEIGHT * inkWeight);
	return { width: grey.width, height: grey.height, data: ink.map((v) => (v ? 0 : 255)) };
}
