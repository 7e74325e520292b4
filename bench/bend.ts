import { CURLS, photographCurled, type CurledPhotograph } from '../demo/generator/curled';
import { printedPage } from '../demo/generator/printedPage';
import { Random } from '../demo/generator/random';
import { cornersOf, flattenedAlong, shapeOf } from '../src/lib/core/page/effective';
import { analysePicture, preparePage } from '../src/lib/core/page/preparePage';
import { toPage } from '../src/lib/core/marks/onPage';
import type { Page } from '../src/lib/core/packet/packet';
import type { Picture } from '../src/lib/core/raster/picture';
import type { Point } from '../src/lib/core/sheet/geometry';
import { DEFAULT_TONE } from '../src/lib/core/tone/tone';
import { specimenPage } from './situations';
import { Tally } from './tally';

/** Millimetres from a straight line that nobody sees. */
const STRAIGHT = 0.25;
const HIGH = 297;

/**
 * How well the lines of bent sheets are made level: handwritten and printed pages, bent in three ways and flat, with the
 * desk around them and from so near that they fill the picture, `each` of all. Places known on the page tell how far each
 * of its lines lies from a straight one before and after, in millimetres of the paper.
 */
export function benchBend(each: number, firstSeed: number, print: (line: string) => void): void {
	const bySheet = SHEETS.map((sheet) => ({ sheet, straight: new Tally() }));
	print('                    lines off straight, mm            made straight   left alone   worse');
	for (const framing of ['on a desk', 'near'] as const) {
		for (const curl of CURLS) {
			const before: number[] = [];
			const after: number[] = [];
			const straight = new Tally();
			let [left, worse] = [0, 0];
			for (let i = 0; i < each; i++) {
				const seed = firstSeed + 131 * i;
				const random = new Random(seed);
				const of = bySheet[i % bySheet.length]!;
				const strength = random.between(0.25, 1);
				const desk = random.pick(['wood', 'dark', 'white', 'stone'] as const);
				const spec = { seed, curl, strength, framing, desk, size: [1200, 1600] } as const;
				const { off, isLevelled } = linesOf(photographCurled(sheetOf(of.sheet, seed), spec));
				before.push(off[0]);
				after.push(off[1]);
				if (!isLevelled) left++;
				if (off[1] > off[0] + 0.1) worse++;
				if (off[0] < STRAIGHT) continue;
				straight.count(off[1] < STRAIGHT);
				of.straight.count(off[1] < STRAIGHT);
			}
			const mean = (of: readonly number[]) => (of.reduce((a, b) => a + b, 0) / of.length).toFixed(2);
			const lines = `${mean(before)} -> ${mean(after)}, at worst ${Math.max(...after).toFixed(2)}`;
			print(
				`${framing.padEnd(10)} ${curl.padEnd(8)} ${lines.padEnd(34)}${String(straight).padEnd(16)}${String(left).padEnd(13)}${worse}`
			);
		}
	}
	for (const { sheet, straight } of bySheet) print(`of bent sheets, ${sheet}: ${straight} made straight`);
}

const SHEETS = ['ruled', 'squared', 'plain', 'printed'] as const;

function sheetOf(sheet: (typeof SHEETS)[number], seed: number): Picture {
	if (sheet !== 'printed') return specimenPage(seed, 6, { ruling: sheet }).picture;
	const kind = new Random(seed).pick(['text', 'worksheet', 'columns'] as const);
	return printedPage({ seed, kind, size: [1240, 1754] });
}

/** How far lines lie off straight, before and after, in millimetres of the paper. */
function linesOf({ picture, seenAt }: CurledPhotograph) {
	const page: Page = { id: 'p', source: 's', sourcePage: 0, corners: null, turn: 0, tone: null };
	const facts = analysePicture(picture);
	const { facts: made } = preparePage(picture, {
		corners: flattenedAlong(page, facts),
		turn: 0,
		tone: DEFAULT_TONE
	});
	const { bend, ...flat } = made;
	const off = [
		{ corners: cornersOf(page, facts), turn: 0 as const, width: made.width, height: made.height },
		shapeOf(page, facts, { ...flat, ...(bend ? { bend } : {}) })
	].map((shape) => {
		const map = toPage(shape);
		return offStraight((place) => {
			const [x, y] = map(seenAt(place));
			return [x / shape.width, y / shape.height];
		});
	});
	return { off: off as [number, number], isLevelled: bend !== undefined };
}

/** Millimetres by which lines across the page lie off their best straight line, root mean square. */
function offStraight(map: (place: Point) => Point): number {
	let [sum, count] = [0, 0];
	for (let v = 0.08; v < 0.95; v += 0.1) {
		const points = Array.from({ length: 18 }, (_, i) => map([0.06 + 0.05 * i, v]));
		const mean = (k: 0 | 1) => points.reduce((total, p) => total + p[k], 0) / points.length;
		const [mx, my] = [mean(0), mean(1)];
		const slope =
			points.reduce((total, [x, y]) => total + (x - mx) * (y - my), 0) /
			points.reduce((total, [x]) => total + (x - mx) ** 2, 0);
		for (const [x, y] of points) sum += (y - my - slope * (x - mx)) ** 2;
		count += points.length;
	}
	return HIGH * Math.sqrt(sum / count);
}
