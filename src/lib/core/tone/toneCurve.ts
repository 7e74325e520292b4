import type { Tone } from './tone';

/** With even light, ink is deepened a little before anybody asks for it. */
const INK = 1.35;
const PER_WEIGHT = 1.35;
/** Grey levels for a step of brightness, and slope for a step of contrast around this grey. */
const PER_BRIGHTNESS = 14;
const PER_CONTRAST = 1.3;
const PIVOT = 190;

/**
 * What each grey level becomes: 256 entries. Ink weight is a power curve that keeps white white, contrast a slope about
 * a light grey, brightness a shift. Null where nothing would change.
 */
export function toneCurve({ evenLight, inkWeight, brightness = 0, contrast = 0 }: Tone): Uint8Array | null {
	if (!evenLight && inkWeight === 0 && brightness === 0 && contrast === 0) return null;
	const exponent = INK * PER_WEIGHT ** inkWeight;
	const slope = PER_CONTRAST ** contrast;
	return Uint8Array.from({ length: 256 }, (_, v) => {
		const inked = 255 * (v / 255) ** exponent;
		const value = PIVOT + (inked - PIVOT) * slope + PER_BRIGHTNESS * brightness;
		// Even paper stays white whatever the contrast; it is made darker only by asking for it.
		return Math.max(
			0,
			Math.min(
				255,
				Math.round(evenLight && v === 255 ? 255 + Math.min(0, PER_BRIGHTNESS * brightness) : value)
			)
		);
	});
}
