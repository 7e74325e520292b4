import { LIMITS } from './limits';
import { SourceError } from './sourceError';

/** Refuses pictures that are too large to decode or too small to hold writing. @throws SourceError */
export function checkPictureSize(width: number, height: number): void {
	if (width * height > LIMITS.pixels) {
		throw new SourceError(
			`This picture has ${width} x ${height} pixels; at most ${LIMITS.pixels / 1e6} million can be handled. Make it smaller.`
		);
	}
	if (Math.min(width, height) < LIMITS.side) {
		throw new SourceError(
			`This picture has only ${width} x ${height} pixels; nothing can be read on it. Bring in the original.`
		);
	}
}
