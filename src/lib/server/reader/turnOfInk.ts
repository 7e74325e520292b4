import { pageSize } from '../../core/page/pageSize';
import { luma } from '../../core/raster/luma';
import type { Picture, Plane } from '../../core/raster/picture';
import type { Box } from '../../core/reading/pieces';
import { flatten } from '../../core/sheet/flatten';
import type { Quadrilateral } from '../../core/sheet/geometry';
import type { TurnGuess } from '../../core/sheet/turn';
import { evenLight } from '../../core/tone/evenLight';
import { estimateIllumination } from '../../core/tone/illumination';
import { inkOnPage } from './inkOnPage';
import { boundsOf, linesOn } from './linesOn';
import { guessedTurn, oddsUpright } from './oddsUpright';

/** Dots an inch at which pages are looked at. */
const RESOLUTION = 200;
/** To be rid of their rules, pages are shown to the detector at half their size from so many times its own on. */
const HALVED = 1.25;
/** Lines are longer than high by so much; what is not may lie either way. */
const LONGER = 1.5;

/**
 * How a page must be turned to be upright, by the recogniser of short writing, with what is ruled taken for paper: on dark
 * squares no lines are seen otherwise.
 *
 * @returns confidence 0 where there is no line
 */
export async function turnOfInk(picture: Picture, corners: Quadrilateral): Promise<TurnGuess> {
	const { width, height, dotsPerInch } = pageSize(picture, corners, 0, RESOLUTION);
	const flat = flatten(picture, corners, width, height);
	const page = luma(evenLight(flat, estimateIllumination(flat)));
	const boxes = (await linesOn(inkOnPage(page, dotsPerInch), HALVED)).map(boundsOf);
	const wide = boxes.filter((box) => isLong(box));
	const tall = boxes.filter((box) => isLong(turned(box, height)));
	const [across, down] = [sum(wide.map(([x0, , x1]) => x1 - x0)), sum(tall.map(([, y0, , y1]) => y1 - y0))];
	if (across + down === 0) return { turn: 0, confidence: 0 };
	const sideways = down > across;
	const odds = sideways
		? await oddsUpright(
				quarter(page),
				tall.map((box) => turned(box, height))
			)
		: await oddsUpright(page, wide);
	const sureOfAxis = Math.abs(across - down) / (across + down);
	return guessedTurn(sideways, sureOfAxis, odds);
}

const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);

function isLong([x0, y0, x1, y1]: Box): boolean {
	return x1 - x0 > LONGER * (y1 - y0);
}

/** Where a box comes to lie when a page of this height is turned a quarter clockwise. */
function turned([x0, y0, x1, y1]: Box, height: number): Box {
	return [height - y1, x0, height - y0, x1];
}

/** A page turned a quarter clockwise. */
function quarter({ width, height, data }: Plane): Plane {
	const lying = new Uint8Array(data.length);
	for (let y = 0, i = 0; y < height; y++) {
		for (let x = 0; x < width; x++) lying[x * height + height - 1 - y] = data[i++]!;
	}
	return { width: height, height: width, data: lying };
}
