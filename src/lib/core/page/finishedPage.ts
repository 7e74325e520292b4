import type { Picture, Plane } from '../raster/picture';
import { finish, type FinishedPage } from '../tone/finish';
import type { EvenPage } from '../tone/evenLight';
import type { Tone } from '../tone/tone';
import { withFaintParts } from './faintParts';

/**
 * A flattened page in its tone; in black and white together with writing that is much fainter than the rest.
 *
 * @param even the same page with even light; its colours only for a page in colour
 * @param noise standard deviation of bare paper, in grey levels
 * @param twoTone what it was flattened from held black and white only
 */
export function finishedPage(
	flat: Picture,
	tone: Tone,
	dotsPerInch: number,
	even: { readonly grey: Plane } | EvenPage,
	noise: number,
	twoTone = false
): FinishedPage {
	const done = finish(flat, tone, dotsPerInch, even, twoTone);
	if (done.holds !== 'ink' || twoTone || !tone.evenLight) return done;
	return { ...done, plane: withFaintParts(done.plane, even.grey, noise, dotsPerInch, tone.inkWeight) };
}
