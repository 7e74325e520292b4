import { heldBy, TONES, type Tone, type ToneName } from '../tone/tone';

/** How finely a page's image is kept in the file, where it is not as fine as it was prepared. */
export interface Encoding {
	/** Dots an inch; at most those the page was prepared with. */
	readonly dotsPerInch: number;
	/** JPEG quality, 1 to 100; means nothing in black and white. */
	readonly quality: number;
}

/** One way to keep a page in the file: what it weighs, and what it costs. */
export interface PageWeight {
	/** Null: the tone that the page has. */
	readonly tone: Tone | null;
	/** Null: as prepared. */
	readonly encoding: Encoding | null;
	/** Of its image, encoded. */
	readonly bytes: number;
	/** 0 to 1: how much of the writing's contrast is lost against the page as prepared (see inkLoss). */
	readonly loss: number;
}

/** Resolutions and qualities that are tried, finest first, beside the page as prepared. */
const RESOLUTIONS = [200, 150, 110];
const QUALITIES = [70, 50, 32];

/** Encodings worth trying for a page: each must be coarser than the page is. */
export function coarserEncodings(dotsPerInch: number, tone: Tone['name']): Encoding[] {
	const steps = RESOLUTIONS.map((r) => Math.min(r, dotsPerInch));
	const isInk = heldBy(tone) === 'ink';
	const qualities = isInk ? [100] : QUALITIES;
	return [...new Set(steps)]
		.flatMap((r) => qualities.map((quality) => ({ dotsPerInch: r, quality })))
		.filter((e) => e.dotsPerInch < dotsPerInch || (!isInk && e.quality < QUALITIES[0]!));
}

/** Tones a page could be given to make it smaller: those after its own from colour to black and white, if allowed. */
export function smallerTones(tone: Tone, allowed: readonly ToneName[] = TONES): Tone[] {
	return TONES.slice(TONES.indexOf(tone.name) + 1)
		.filter((name) => allowed.includes(name))
		.map((name) => ({ ...tone, name }));
}

/** The bytes of a page in the file: as prepared, or in the encoding it was given; null when that was not weighed yet. */
export function bytesInFile(
	encoding: Encoding | undefined,
	bytes: number | null,
	weights: readonly PageWeight[] | null
): number | null {
	if (!encoding) return bytes;
	const same = (e: Encoding | null) =>
		e?.dotsPerInch === encoding.dotsPerInch && e.quality === encoding.quality;
	return weights?.find((w) => w.tone === null && same(w.encoding))?.bytes ?? null;
}
