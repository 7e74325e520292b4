import { TRUST_READING } from '../../core/page/effective';
import { pageSize } from '../../core/page/pageSize';
import type { Picture } from '../../core/raster/picture';
import { flatten } from '../../core/sheet/flatten';
import { wholePicture, type Point, type Quadrilateral } from '../../core/sheet/geometry';
import { addTurns, turnCorners, type TurnGuess } from '../../core/sheet/turn';
import { evenLight } from '../../core/tone/evenLight';
import { estimateIllumination } from '../../core/tone/illumination';
import { detectLines } from './detect';
import { upsideDown } from './direction';
import { recognise } from './recognise';
import { turnOfInk } from './turnOfInk';

/** Enough for lines to be read; half of what a page is kept in. */
const RESOLUTION = 120;
/** Longer side at which lines are looked for: a few long ones are enough. */
const LOOKED_AT = 800;
/** Lines whose direction is asked for, and of those, lines that are read both ways; longest first. */
const ASKED = 12;
const READ = 3;
/** What reads as nothing either way is passed over for the next line, as long as no more than this have been tried. */
const TRIED = 6;
/** From this difference on, the shapes of the lines settle whether the page lies sideways. */
const CLEAR_AXIS = 0.6;
/** Lines read with less confidence than this, whichever way up, tell nothing; with more than that, all they can. */
const ILLEGIBLE = 0.55;
const LEGIBLE = 0.75;
/** A lead in reading confidence of this much is certain. */
const CLEAR_LEAD = 0.15;
/** Log odds from which on no further line is read. */
const SETTLED = 4;
/** How much a line's direction and a difference in reading confidence say, in log odds. */
const DIRECTION_WEIGHT = 0.35;
const DIRECTION_LIMIT = 1.2;
const READING_WEIGHT = 6;

/**
 * How the page inside these corners must be turned to be upright, by trying to read it: by the general reader, and where
 * that cannot tell, by the recogniser of short writing.
 *
 * @returns confidence 0 where there is no line to read
 */
export async function readTurn(picture: Picture, corners: Quadrilateral): Promise<TurnGuess> {
	const general = await turnOfLines(picture, corners);
	if (general.confidence >= TRUST_READING) return general;
	const short = await turnOfInk(picture, corners);
	return short.confidence > general.confidence ? short : general;
}

/** Lines are found whichever way the page lies; the longest are read from both ends, and reading goes well only one way. */
async function turnOfLines(picture: Picture, corners: Quadrilateral): Promise<TurnGuess> {
	const { width, height } = pageSize(picture, corners, 0, RESOLUTION);
	const flat = flatten(picture, corners, width, height);
	const lying = evenLight(flat, estimateIllumination(flat));
	const boxes = await detectLines(lying, LOOKED_AT);
	let wide = 0;
	let tall = 0;
	for (const box of boxes) {
		const [across, down] = sides(box);
		if (across > 1.5 * down) wide += across;
		else if (down > 1.5 * across) tall += down;
	}
	if (wide + tall === 0) return { turn: 0, confidence: 0 };
	const sureOfAxis = Math.abs(wide - tall) / (wide + tall);
	const turned = () => ({ page: quarter(lying), boxes: boxes.map((box) => turnBox(box, height)) });
	if (sureOfAxis >= CLEAR_AXIS) {
		const sideways = tall > wide;
		const seen = sideways ? turned() : { page: lying, boxes };
		const evidence = await evidenceFor(seen.page, seen.boxes, SETTLED);
		return guess(sideways, evidence, sureOfAxis);
	}
	// Short words and numbers lie nearly square: all four ways are tried, and the one that reads best wins.
	const straight = await evidenceFor(lying, boxes);
	const across = turned();
	const other = await evidenceFor(across.page, across.boxes);
	const sideways = other.reading > straight.reading;
	const lead = Math.abs(other.reading - straight.reading);
	return guess(sideways, sideways ? other : straight, Math.min(1, lead / CLEAR_LEAD));
}

interface Evidence {
	/** Log odds that the picture stands upright rather than upside down. */
	readonly upright: number;
	/** Mean confidence of reading the better way up. */
	readonly reading: number;
}

/**
 * What a picture's lines say, read from both ends.
 *
 * @param settled log odds from which on no further line is read
 */
async function evidenceFor(
	page: Picture,
	boxes: readonly Quadrilateral[],
	settled = Infinity
): Promise<Evidence> {
	const lines = boxes
		.filter((box) => sides(box)[0] > 0.7 * sides(box)[1])
		.sort((a, b) => sides(b)[0] - sides(a)[0])
		.slice(0, ASKED);
	let upright = 0;
	for (const p of await upsideDown(page, lines)) {
		const odds = Math.log((1 - p + 1e-3) / (p + 1e-3));
		upright += DIRECTION_WEIGHT * Math.max(-DIRECTION_LIMIT, Math.min(DIRECTION_LIMIT, odds));
	}
	let one = 0;
	let two = 0;
	let read = 0;
	// As long as it is not settled, one line more (Wald 1945, a sequential test).
	const tried = lines.slice(0, TRIED);
	for (const [i, line] of tried.entries()) {
		const [a, b, c, d] = line;
		const [straight, turned] = [await recognise(page, line), await recognise(page, [c, d, a, b])];
		const left = tried.length - i - 1;
		const tellsNothing = Math.max(straight.confidence, turned.confidence) < ILLEGIBLE;
		if (tellsNothing && read + left >= Math.min(READ, lines.length)) continue;
		one += straight.confidence;
		two += turned.confidence;
		upright += READING_WEIGHT * (straight.confidence - turned.confidence);
		read++;
		if (read === READ || (Math.abs(upright) >= settled && Math.max(one, two) / read >= LEGIBLE)) break;
	}
	return { upright, reading: Math.max(one, two) / Math.max(1, read) };
}

function guess(sideways: boolean, { upright, reading }: Evidence, sureOfAxis: number): TurnGuess {
	const legible = Math.max(0, Math.min(1, (reading - ILLEGIBLE) / (LEGIBLE - ILLEGIBLE)));
	const sureOfEnd = legible * (2 / (1 + Math.exp(-Math.abs(upright))) - 1);
	return {
		turn: addTurns(sideways ? 90 : 0, upright < 0 ? 180 : 0),
		confidence: Math.round(1000 * Math.min(sureOfAxis, sureOfEnd)) / 1000
	};
}

function sides([a, b, , d]: Quadrilateral): [across: number, down: number] {
	return [Math.hypot(b[0] - a[0], b[1] - a[1]), Math.hypot(d[0] - a[0], d[1] - a[1])];
}

/** A picture turned a quarter clockwise. */
function quarter(picture: Picture): Picture {
	const { width: w, height: h } = picture;
	return flatten(picture, turnCorners(wholePicture(w, h), 90), h, w);
}

/** Where a box comes to lie when the picture of this height is turned a quarter clockwise. */
function turnBox([a, b, c, d]: Quadrilateral, height: number): Quadrilateral {
	const at = ([x, y]: Point): Point => [height - y, x];
	return [at(d), at(a), at(b), at(c)];
}
