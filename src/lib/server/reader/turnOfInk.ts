import { pageSize } from '../../core/page/pageSize';
import { luma } from '../../core/raster/luma';
import type { Picture, Plane } from '../../core/raster/picture';
import type { Box } from '../../core/reading/pieces';
import { shortCrop } from '../../core/reading/shortCrop';
import { flatten } from '../../core/sheet/flatten';
import type { Quadrilateral } from '../../core/sheet/geometry';
import { addTurns, type TurnGuess } from '../../core/sheet/turn';
import { evenLight } from '../../core/tone/evenLight';
import { estimateIllumination } from '../../core/tone/illumination';
import { inkOnPage } from './inkOnPage';
import { linesOn } from './linesOn';
import { readShort } from './readShort';

/** Dots an inch at which pages are looked at. */
const RESOLUTION = 200;
/** To be rid of their rules, pages are shown to the detector at half their size from so many times its own on. */
const HALVED = 1.25;
/** Lines that are read, longest first; as few as this tell less. */
const MOST = 12;
const ENOUGH = 4;
/** Of a line, so many of its heights are read, from its middle. */
const LONG = 12;
/** Lines are longer than high by so much; what is not may lie either way. */
const LONGER = 1.5;
/**
 * How much more surely lines are read one way up than the other. Hands in our letters give 0.11 to 0.24, whoever writes;
 * scripts that the recogniser does not know up to 0.06 for either way. Measured on tuning hands and scripts.
 */
const BY_CHANCE = 0.05;
const LEAD_WEIGHT = 45;
/** Lines read less surely than the first, whichever way up, are no letters that it knows; above the second, all can be. */
const UNKNOWN = 0.7;
const KNOWN = 0.8;

/**
 * How a page must be turned to be upright, by the recogniser of short writing, with what is ruled taken for paper: for hands
 * that the general reader cannot read, and squares that it does not see lines on.
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
	const lead = sideways
		? await leadUpright(
				quarter(page),
				tall.map((box) => turned(box, height))
			)
		: await leadUpright(page, wide);
	const sureOfAxis = Math.abs(across - down) / (across + down);
	const odds = LEAD_WEIGHT * lead.known * Math.max(0, Math.abs(lead.straight) - BY_CHANCE);
	const sureOfEnd = 2 / (1 + Math.exp(-odds)) - 1;
	return {
		turn: addTurns(sideways ? 90 : 0, lead.straight < 0 ? 180 : 0),
		confidence: Math.round(1000 * Math.min(sureOfAxis, sureOfEnd)) / 1000
	};
}

/**
 * How much more surely lines are read as they stand than upside down, -1 to 1, and how far they are letters that the
 * recogniser knows, 0 to 1.
 */
async function leadUpright(
	page: Plane,
	boxes: readonly Box[]
): Promise<{ readonly straight: number; readonly known: number }> {
	const { width, height } = page;
	const lines = [...boxes].sort((a, b) => b[2] - b[0] - (a[2] - a[0])).slice(0, MOST);
	const back: Plane = { width, height, data: page.data.slice().reverse() };
	const read = await readShort(
		lines.flatMap(([x0, y0, x1, y1]) => {
			const half = Math.min(x1 - x0, LONG * (y1 - y0)) / 2;
			const [from, to] = [(x0 + x1) / 2 - half, (x0 + x1) / 2 + half];
			return [
				shortCrop(page, [from, y0, to, y1]),
				shortCrop(back, [width - to, height - y1, width - from, height - y0])
			];
		})
	);
	const mean = (each: 0 | 1) => sum(lines.map((_, i) => read[2 * i + each]!.confidence)) / lines.length;
	const [straight, upsideDown] = [mean(0), mean(1)];
	const legible = (Math.max(straight, upsideDown) - UNKNOWN) / (KNOWN - UNKNOWN);
	return {
		straight: straight - upsideDown,
		known: Math.max(0, Math.min(1, legible)) * Math.min(1, lines.length / ENOUGH)
	};
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

function boundsOf(box: Quadrilateral): Box {
	const [xs, ys] = [box.map((p) => p[0]), box.map((p) => p[1])];
	return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
}
