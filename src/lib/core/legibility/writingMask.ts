import { below, countInk } from '../raster/below';
import type { Plane } from '../raster/picture';
import { dropFaint } from '../tone/dropFaint';
import { removeSpecks } from '../tone/specks';
import { bareRuling } from './bare';
import { withoutRuling } from './ruling';

/** Writing told from paper and from ruling. */
export interface WritingMask {
	readonly width: number;
	readonly height: number;
	/** 1 where there is writing. */
	readonly data: Uint8Array;
	/** Fraction of the page that is writing. */
	readonly coverage: number;
	/** How far ruling stands out from the paper, in grey levels; 0 where there is next to none. */
	readonly ruling: number;
	/** Nothing is dark on the page but evenly printed lines. */
	readonly bare: boolean;
	/** It is bare, and there are such lines. */
	readonly ruled: boolean;
	/** Of a bare page, 1 where its printed lines lie. */
	readonly rules: Uint8Array | null;
	/** 1 where anything is marked, also what is much fainter than the rest. */
	readonly marks: Uint8Array;
	/** Share of the marks that were too faint beside the others to be the page's own writing. */
	readonly faint: number;
}

/** More writing than this is writing. */
const SCARCELY = 0.002;
/** More of a bare page than this is dark where it is ruled. */
const RULED = 0.002;
/** Grey levels below white, and deviations of the paper's noise, from which on a pixel counts as dark. */
const LEAST_DARK = 6;
const DARK_DEVIATIONS = 5;
/** Lines are followed at a lower contrast. */
const FOLLOWED_DEVIATIONS = 2.5;

/**
 * Finds the writing on an evenly lit page at about 100 dots an inch: pixels clearly darker than the
 * paper's own noise, less long straight lines, less specks.
 *
 * @param noise see paperNoise
 */
export function writingMask(grey: Plane, noise: number): WritingMask {
	const { width, height } = grey;
	const { dark, mask, ruling } = marksOn(grey, noise);
	const marks = mask.slice();
	const marked = countInk(mask);
	dropFaint(mask, grey, 2);
	const faint = marked > 0 ? 1 - countInk(mask) / marked : 0;
	removeSpecks(mask, grey, 6);
	const coverage = countInk(mask) / mask.length;
	// Pages with writing are not looked at.
	const rules = coverage < SCARCELY ? bareRuling(dark, width, height) : null;
	const bare = rules !== null;
	const ruled = bare && countInk(dark) > RULED * dark.length;
	return { width, height, data: mask, coverage, ruling, marks, faint, bare, ruled, rules };
}

/**
 * All that is darker than the paper's own noise (`dark`), and that without long straight lines (`mask`): also what is much
 * fainter than the rest, as pencil beside a pen is, and writing that shows through.
 */
export function marksOn(
	grey: Plane,
	noise: number
): { readonly dark: Uint8Array; readonly mask: Uint8Array; readonly ruling: number } {
	const dark = below(grey, 252 - Math.max(LEAST_DARK, DARK_DEVIATIONS * noise));
	const followed = below(grey, 252 - Math.max(LEAST_DARK, FOLLOWED_DEVIATIONS * noise));
	clearRim(dark, grey.width, grey.height);
	return { dark, ...withoutRuling(grey, dark, followed) };
}

/** The paper's own edge and what lies beyond it show along the rim of the best outline. */
export const RIM = 0.012;

function clearRim(mask: Uint8Array, width: number, height: number): void {
	const rim = Math.ceil(RIM * Math.min(width, height));
	mask.fill(0, 0, rim * width);
	mask.fill(0, (height - rim) * width);
	for (let y = rim; y < height - rim; y++) {
		mask.fill(0, y * width, y * width + rim);
		mask.fill(0, (y + 1) * width - rim, (y + 1) * width);
	}
}
