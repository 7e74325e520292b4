import { TRUST_READING } from '../../core/page/effective';
import { pageSize } from '../../core/page/pageSize';
import { luma } from '../../core/raster/luma';
import type { Picture } from '../../core/raster/picture';
import { flatten } from '../../core/sheet/flatten';
import { wholePicture, type Point, type Quadrilateral } from '../../core/sheet/geometry';
import { turnCorners, type TurnGuess } from '../../core/sheet/turn';
import { evenLight } from '../../core/tone/evenLight';
import { estimateIllumination } from '../../core/tone/illumination';
import { detectLines } from './detect';
import { boundsOf } from './linesOn';
import { guessedTurn, oddsUpright } from './oddsUpright';
import { recognise } from './recognise';
import { turnOfInk } from './turnOfInk';

/** Enough for lines to be read; half of what a page is kept in. */
const RESOLUTION = 120;
/** Longer side at which lines are looked for: a few long ones are enough. */
const LOOKED_AT = 800;
/** Lines that the general reader reads both ways, longest first. */
const READ = 3;
/** What reads as nothing either way is passed over for the next line, as long as no more than this have been tried. */
const TRIED = 6;
/** From this difference on, the shapes of the lines settle whether the page lies sideways. */
const CLEAR_AXIS = 0.6;
/** Lines read less surely than this, whichever way up, tell nothing; more surely than that, all they can. */
const ILLEGIBLE = 0.7;
const LEGIBLE = 0.85;
/** Whoever writes, a line that is read has as many letters and more for each of its heights; else it was read in part. */
const LETTERS = 1.6;
/** A lead in reading confidence of this much is certain. */
const CLEAR_LEAD = 0.15;
/** Log odds from which on no further line is read. */
const SETTLED = 4;
/** What is in no letters of ours reads better from one end by so much for no reason; what a lead beyond says, in log odds. */
const BY_CHANCE = 0.06;
const READING_WEIGHT = 27;

/**
 * How the page inside these corners must be turned to be upright, by trying to read it; where the lines that are seen at
 * once do not tell, by what is left of it without its rules.
 *
 * @returns confidence 0 where there is no line to read
 */
export async function readTurn(picture: Picture, corners: Quadrilateral): Promise<TurnGuess> {
	const seen = await turnOfLines(picture, corners);
	if (seen.confidence >= TRUST_READING) return seen;
	const ink = await turnOfInk(picture, corners);
	return ink.confidence > seen.confidence ? ink : seen;
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
		return guessedTurn(sideways, sureOfAxis, evidence.upright);
	}
	// Short words and numbers lie nearly square: all four ways are tried, and the one that reads best wins.
	const straight = await evidenceFor(lying, boxes);
	const across = turned();
	const other = await evidenceFor(across.page, across.boxes);
	const sideways = other.reading > straight.reading;
	const lead = Math.abs(other.reading - straight.reading);
	return guessedTurn(sideways, Math.min(1, lead / CLEAR_LEAD), (sideways ? other : straight).upright);
}

interface Evidence {
	/** Log odds that the picture stands upright rather than upside down. */
	readonly upright: number;
	/** Mean confidence of the general reader with the better way up; 0 where it was not needed. */
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
		.sort((a, b) => sides(b)[0] - sides(a)[0]);
	const short = await oddsUpright(luma(page), lines.map(boundsOf));
	let upright = short;
	let lead = 0;
	let one = 0;
	let two = 0;
	let read = 0;
	// As long as it is not settled, one line more (Wald 1945, a sequential test).
	const tried = lines.slice(0, TRIED);
	for (const [i, line] of tried.entries()) {
		if (read === READ || Math.abs(upright) >= settled) break;
		const [a, b, c, d] = line;
		const [straight, turned] = [await readSurely(page, line), await readSurely(page, [c, d, a, b])];
		const better = Math.max(straight, turned);
		const left = tried.length - i - 1;
		if (better < ILLEGIBLE && read + left >= Math.min(READ, lines.length)) continue;
		one += straight;
		two += turned;
		const legible = Math.max(0, Math.min(1, (better - ILLEGIBLE) / (LEGIBLE - ILLEGIBLE)));
		lead += (legible * (straight - turned)) / READ;
		upright = short + READING_WEIGHT * Math.sign(lead) * Math.max(0, Math.abs(lead) - BY_CHANCE);
		read++;
	}
	return { upright, reading: Math.max(one, two) / Math.max(1, read) };
}

/** How surely the general reader reads a line, 0 to 1: its letters, if they are as many as a line has. */
async function readSurely(page: Picture, line: Quadrilateral): Promise<number> {
	const { text, confidence } = await recognise(page, line);
	const [across, down] = sides(line);
	return confidence * Math.min(1, text.replaceAll(' ', '').length / ((LETTERS * across) / down));
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
