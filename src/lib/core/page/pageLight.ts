import type { Picture, Plane } from '../raster/picture';
import type { Quadrilateral } from '../sheet/geometry';
import { evenGrey, evenLight, type EvenPage } from '../tone/evenLight';
import { findFills, type Fills } from '../tone/fills';
import { keepsFills } from '../tone/finish';
import { estimateIllumination, type Illumination } from '../tone/illumination';
import { heldBy, type Tone } from '../tone/tone';
import { besidePicture } from './levelLines';

/** How a flattened page is lit, and what on it is filled and no shadow. */
export interface PageLight {
	readonly light: Illumination;
	readonly fills: Fills | null;
}

/**
 * Estimates the light on a flattened page.
 *
 * @param flat flattened and upright
 * @param picture pixels of the picture that it was flattened from; what lies beside it is no part of the page's light
 * @param corners of the page in that picture, beginning with its upper left
 */
export function lightOn(
	flat: Picture,
	picture: Pick<Picture, 'width' | 'height'>,
	corners: Quadrilateral
): PageLight {
	const light = estimateIllumination(flat);
	return { light, fills: findFills(flat, light, (blocks) => besidePicture(picture, corners, blocks)) };
}

/** The light that is taken out of a page for a tone: where filled areas stay, that beside them. */
export const lightFor = (tone: Tone, { light, fills }: PageLight): Illumination =>
	fills && keepsFills(tone) ? fills.light : light;

/** A flattened page in even light, as `finishedPage` needs it for a tone. */
export function evenFor(flat: Picture, tone: Tone, lit: PageLight): { readonly grey: Plane } | EvenPage {
	const light = lightFor(tone, lit);
	const isColour = heldBy(tone.name) === 'colours' && tone.evenLight;
	return isColour ? evenLight(flat, light) : { grey: evenGrey(flat, light) };
}
