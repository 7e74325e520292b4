import { photograph, type Photograph } from '../demo/generator/photograph';
import { Random } from '../demo/generator/random';
import type { Legibility } from '../src/lib/core/legibility/legibility';
import { preparePage } from '../src/lib/core/page/preparePage';
import { flattenLevel } from '../src/lib/core/page/levelLines';
import { pageSize, RESOLUTION } from '../src/lib/core/page/pageSize';
import { median } from '../src/lib/core/raster/percentile';
import type { Picture } from '../src/lib/core/raster/picture';
import { turnCorners } from '../src/lib/core/sheet/turn';
import { findFills } from '../src/lib/core/tone/fills';
import { estimateIllumination } from '../src/lib/core/tone/illumination';
import { toneCurve } from '../src/lib/core/tone/toneCurve';
import { situationSpec, SITUATIONS, specimenPage } from './situations';

/** Pixels of a drawn page in a millimetre. */
const SCALE = 6;
/** Bare paper comes out a little over white. */
const WHITE = 255 * 1.06 ** (1 / 2.2);
/** A colour is right within so many grey levels. */
const NEAR = 20;
/** Sides of filled areas in millimetres. */
const SIDES = [16, 60] as const;

/**
 * Draws areas filled with grey and colour on written pages, photographs them in every situation, and looks whether they
 * come out in colour as they were drawn; whether any are found on the same pages without them; and whether the page is
 * said to be harder to read for them.
 */
export function benchFills(each: number, firstSeed: number, print: (line: string) => void): void {
	const tone = { name: 'colour', evenLight: true, inkWeight: 0 } as const;
	const curve = toneCurve(tone)!;
	const sum = { fills: 0, right: 0, white: 0, pages: 0, madeUp: 0, worse: 0, moved: 0 };
	for (const situation of SITUATIONS) {
		const row = { fills: 0, right: 0, white: 0, pages: 0, madeUp: 0, worse: 0, moved: 0 };
		for (let i = 0; i < each; i++) {
			const seed = firstSeed + i * 31 + SITUATIONS.indexOf(situation) * 1009;
			const spec = situationSpec(situation, seed, [1500, 2000]);
			const { picture: page } = specimenPage(seed, SCALE);
			const bare = photograph(page, spec);
			const paper = flattened(bare);
			row.pages++;
			row.madeUp += Number(findFills(paper, estimateIllumination(paper)) !== null);
			const areas = paintAreas(page as Picture & { data: Uint8Array }, new Random(seed + 7));
			const shot = photograph(page, spec);
			const prepared = ({ picture, corners, turn }: Photograph) =>
				preparePage(picture, { corners, turn, tone });
			const without = prepared(bare).facts.legibility;
			const { finished, facts } = prepared(shot);
			row.worse += Number(without.score - facts.legibility.score > WORSE);
			row.moved += Number(isMoved(facts.legibility) && !isMoved(without));
			if (finished.holds !== 'colours') throw new Error('A page in colour holds no colours');
			const flat = flattened(shot);
			for (const area of areas) {
				const got = middle(finished.picture, page, area);
				// What the camera saw there, beside what it saw of bare paper in the same light.
				const [seen, under] = [middle(flat, page, area), middle(paper, page, area)];
				const off = got.map((v, c) => v - curve[Math.min(255, Math.round((WHITE * seen[c]!) / under[c]!))]!);
				row.fills++;
				row.right += Number(off.every((v) => Math.abs(v) <= NEAR));
				row.white += Number(got.every((v) => v > 250));
			}
		}
		for (const key of Object.keys(sum) as (keyof typeof sum)[]) sum[key] += row[key];
		print(`${situation.padEnd(22)} ${said(row)}`);
	}
	print(`${'all'.padEnd(22)} ${said(sum)}`);
}

interface Row {
	readonly fills: number;
	readonly right: number;
	readonly white: number;
	readonly pages: number;
	readonly madeUp: number;
	readonly worse: number;
	readonly moved: number;
}

function said({ fills, right, white, pages, madeUp, worse, moved }: Row): string {
	return (
		`right ${right}/${fills}, gone white ${white}; found on pages without any ${madeUp}/${pages}; ` +
		`said to be harder to read for them ${worse}/${pages}, to have been moved ${moved}`
	);
}

/** A page is said to be harder to read from this difference of its score on. */
const WORSE = 0.05;

const isMoved = ({ places }: Legibility) => places.some((p) => p.reason === 'motion' || p.reason === 'blur');

function flattened({ picture, corners, turn }: Photograph): Picture {
	const size = pageSize(picture, corners, turn, RESOLUTION);
	return flattenLevel(picture, turnCorners(corners, turn), size).flat;
}

/** Left, top, right and bottom in pixels of the drawn page. */
type Area = readonly [x0: number, y0: number, x1: number, y1: number];

/** Paints two areas over a page, a rectangle and an ellipse, each in a colour of its own. */
export function paintAreas(page: Picture & { data: Uint8Array }, random: Random): Area[] {
	const { width, height, channels, data } = page;
	return [0, 1].map((half) => {
		const [w, h] = [0, 1].map(() => random.between(...SIDES) * SCALE) as [number, number];
		const x0 = random.between(0.08 * width, 0.92 * width - w);
		const y0 = (0.1 + 0.42 * half) * height + random.between(0, 0.38 * height - h);
		const colour = [0, 1, 2].map(() => random.whole(40, 230));
		if (random.between(0, 1) < 0.3) colour.fill(colour[0]!);
		for (let y = Math.ceil(y0); y < y0 + h; y++) {
			for (let x = Math.ceil(x0); x < x0 + w; x++) {
				const [u, v] = [(2 * (x - x0)) / w - 1, (2 * (y - y0)) / h - 1];
				if (half === 1 && u * u + v * v > 1) continue;
				for (let c = 0; c < 3; c++) data[(y * width + x) * channels + c] = colour[c]!;
			}
		}
		return [x0, y0, x0 + w, y0 + h];
	});
}

/** The middling colour in the middle of an area. */
function middle(made: Picture, drawn: Picture, [x0, y0, x1, y1]: Area): number[] {
	const [sx, sy] = [made.width / drawn.width, made.height / drawn.height];
	const values: [number[], number[], number[]] = [[], [], []];
	for (let y = Math.round((0.7 * y0 + 0.3 * y1) * sy); y < (0.3 * y0 + 0.7 * y1) * sy; y++) {
		for (let x = Math.round((0.7 * x0 + 0.3 * x1) * sx); x < (0.3 * x0 + 0.7 * x1) * sx; x++) {
			for (const c of [0, 1, 2] as const)
				values[c].push(made.data[(y * made.width + x) * made.channels + c]!);
		}
	}
	return values.map(median);
}
