import { luma } from '../raster/luma';
import type { Picture, Plane } from '../raster/picture';
import { blackAndWhite } from './blackAndWhite';
import type { EvenPage } from './evenLight';
import { heldBy, type Tone } from './tone';
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
 * @param even the same page with even light; its colours only for a page in colour
 * @param twoTone what it was flattened from held black and white only
 */
export function finish(
	page: Picture,
	tone: Tone,
	dotsPerInch: number,
	even: { readonly grey: Plane } | EvenPage,
	twoTone = false
): FinishedPage {
	const grey = () => (tone.evenLight ? even.grey : luma(page));
	const curve = toneCurve(tone);
	switch (tone.name) {
		case 'colour': {
			const { width, height, channels, data: base } = tone.evenLight && 'data' in even ? even : page;
			const data = channels === 3 ? new Uint8Array(base) : withoutAlpha(base);
			if (curve) for (let i = 0; i < data.length; i++) data[i] = curve[data[i]!]!;
			return { holds: 'colours', picture: { width, height, channels: 3, data } };
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

/** Whether filled areas keep their grey and colour: not in black and white, where they would cover what is written on them. */
export function keepsFills({ name, evenLight }: Tone): boolean {
	return evenLight && heldBy(name) !== 'ink';
}

/** Three bytes a pixel of four. */
function withoutAlpha(data: Picture['data']): Uint8Array {
	const out = new Uint8Array((data.length / 4) * 3);
	for (let i = 0, p = 0; i < out.length; i += 3, p += 4) {
		out[i] = data[p]!;
		out[i + 1] = data[p + 1]!;
		out[i + 2] = data[p + 2]!;
	}
	return out;
}
