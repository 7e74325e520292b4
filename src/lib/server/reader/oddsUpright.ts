import type { Plane } from '../../core/raster/picture';
import type { Box } from '../../core/reading/pieces';
import { shortCrop } from '../../core/reading/shortCrop';
import { addTurns, type TurnGuess } from '../../core/sheet/turn';
import { readShort } from './readShort';

/** Lines that are read, longest first; fewer than this tell less. */
const MOST = 12;
const ENOUGH = 4;
/** Of a line, so many of its heights are read, from its middle. */
const LONG = 12;
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
 * How a page stands, by the recogniser of short writing, which reads its lines both ways up: log odds that it is upright
 * rather than upside down, 0 where it cannot tell.
 *
 * @param boxes of lines that run across the page
 */
export async function oddsUpright(page: Plane, boxes: readonly Box[]): Promise<number> {
	if (boxes.length === 0) return 0;
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
	const mean = (each: 0 | 1) =>
		lines.reduce((sum, _, i) => sum + read[2 * i + each]!.confidence, 0) / lines.length;
	const [straight, upsideDown] = [mean(0), mean(1)];
	const lead = straight - upsideDown;
	const legible = Math.max(0, Math.min(1, (Math.max(straight, upsideDown) - UNKNOWN) / (KNOWN - UNKNOWN)));
	const known = legible * Math.min(1, lines.length / ENOUGH);
	return Math.sign(lead) * LEAD_WEIGHT * known * Math.max(0, Math.abs(lead) - BY_CHANCE);
}

/**
 * @param sureOfAxis that lines run as they seem to, 0 to 1
 * @param odds log odds that they stand upright rather than upside down
 */
export function guessedTurn(sideways: boolean, sureOfAxis: number, odds: number): TurnGuess {
	const sureOfEnd = 2 / (1 + Math.exp(-Math.abs(odds))) - 1;
	return {
		turn: addTurns(sideways ? 90 : 0, odds < 0 ? 180 : 0),
		confidence: Math.round(1000 * Math.min(sureOfAxis, sureOfEnd)) / 1000
	};
}
