import { luma } from '../raster/luma';
import type { Picture, Plane } from '../raster/picture';
import { blackAndWhite } from './blackAndWhite';
import { evenGrey, evenLight, type EvenPage } from './evenLight';
import { estimateIllumination } from './illumination';
import type { Tone } from './tone';
import { toneCurve } from './toneCurve';
import { keepTwoTone } from './twoTone';

/** A finished page: one plane of greys (where only ink is held, all 0 or 255), or colours. */
export type FinishedPage =
	| { readonly holds: 'colours'; readonly picture: Picture & { data: Uint8Array } }
	| { readonly holds: 'greys' | 'ink'; readonly plane: Plane };

/** A finished page in grey. */
export function greyOf(page: FinishedPage): Plane {
	return page.holds === 'colours' ? luma(page.picture) : page.plane;
}

/**
 * Gives a flattened page its tone.
 *
 * @param page flattened and upright
 * @param dotsPerInch resolution of the page
 * @param even the same page with even light, when the caller has it already; its colours only for a page in colour
 * @param twoTone what it was flattened from held black and white only
 */
export function finish(
	page: Picture,
	tone: Tone,
	dotsPerInch: number,
	even?: { readonly grey: Plane } | EvenPage,
	twoTone = false
): FinishedPage {
	const colours = () =>
		!tone.evenLight ? page : even && 'data' in even ? even : evenLight(page, estimateIllumination(page));
	const grey = () =>
		!tone.evenLight ? luma(page) : (even?.grey ?? evenGrey(page, estimateIllumination(page)));
	const curve = toneCurve(tone);
	switch (tone.name) {
		case 'colour': {
			const base = colours();
			if (!curve && base.channels === 3) {
				const { width, height, data } = base;
				return { holds: 'colours', picture: { width, height, channels: 3, data: new Uint8Array(data) } };
			}
			const out = new Uint8Array(base.width * base.height * 3);
			for (let i = 0, p = 0; i < out.length; i += 3, p += base.channels) {
				for (let c = 0; c < 3; c++) out[i + c] = curve ? curve[base.data[p + c]!]! : base.data[p + c]!;
			}
			return {
				holds: 'colours',
				picture: { width: base.width, height: base.height, channels: 3, data: out }
			};
		}
		case 'greyscale': {
			const plane = grey();
			if (!curve) return { holds: 'greys', plane };
			const data = new Uint8Array(plane.data.length);
			for (let i = 0; i < data.length; i++) data[i] = curve[plane.data[i]!]!;
			return { holds: 'greys', plane: { ...plane, data } };
		}
		case 'black-and-white':
			return {
				holds: 'ink',
				plane: twoTone
					? keepTwoTone(page, tone.inkWeight)
					: blackAndWhite(grey(), dotsPerInch, tone.inkWeight)
			};
	}
}
