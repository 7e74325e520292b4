import { CLASSES, isWordClass, NOTHING, type LinePosterior } from './linePosterior';

/** Less likely characters are not kept. */
const LEAST = 0.01;
/** What was not kept may stand there all the same: a letter can be surely misread. */
const FLOOR = 0.002;
/** Spaces and signs seldom: there are many of them, and where they may stand, a word may end. */
const SIGN_FLOOR = 0.0002;
const SCALE = 255;

/** A step of which nothing was kept. */
const UNKNOWN: readonly number[] = Array.from({ length: CLASSES }, (_, k) =>
	k === NOTHING || isWordClass(k) ? FLOOR : SIGN_FLOOR
);

/** A posterior as a short text, to be kept: of each step the characters that may stand there, and how likely. */
export function packPosterior({ steps, data }: LinePosterior): string {
	let bytes = '';
	for (let t = 0; t < steps; t++) {
		const here: [number, number][] = [];
		for (let k = 0; k < CLASSES; k++) {
			const p = data[t * CLASSES + k]!;
			if (p >= LEAST) here.push([k, Math.round(p * SCALE)]);
		}
		bytes += String.fromCharCode(here.length, ...here.flat());
	}
	return btoa(bytes);
}

export function unpackPosterior(packed: string): LinePosterior {
	const bytes = Uint8Array.from(atob(packed), (c) => c.charCodeAt(0));
	const data: number[] = [];
	let steps = 0;
	for (let at = 0; at < bytes.length; steps++) {
		const step = [...UNKNOWN];
		const count = bytes[at++]!;
		for (let n = 0; n < count; n++, at += 2) step[bytes[at]!] = bytes[at + 1]! / SCALE;
		data.push(...step);
	}
	return { steps, data: Float32Array.from(data), caseless: true };
}
