import { describe, expect, it } from 'vitest';
import { photographCurled, type CurledPhotograph, type CurledSpec } from '../../../../demo/generator/curled';
import { specimenPage } from '../../../../bench/situations';
import { bendOf } from '../page/levelLines';
import { preparePage } from '../page/preparePage';
import { toPage } from '../marks/onPage';
import { blankPicture, type Picture, type Plane } from '../raster/picture';
import { DEFAULT_TONE } from '../tone/tone';
import { bentAt, mostMoved, offOutline, ontoOutline, sagOf, type Bend } from './bend';
import { findBend } from './findBend';
import { flatten } from './flatten';
import { wholePicture, type Point, type Quadrilateral } from './geometry';

const BEND: Bend = { shift: [0.01, -0.02, 0.004, 0], spread: [0, 0.03, -0.006, 0.002], reach: [1.01, 1.03] };

/** A page of lines of dashes, `width x height`, each moved down by so much of half its height. */
function lined(
	width: number,
	height: number,
	moved: (s: number, t: number) => number,
	every = 22,
	rise = 0
): Plane {
	const data = new Uint8Array(width * height).fill(252);
	for (let line = 30; line < height - 30; line += every) {
		for (let x = 30; x < width - 30; x++) {
			// Words of several lengths with room between, and letters.
			if ((x + 7 * line) % 61 < 9 || x % 5 === 0) continue;
			const [s, t] = [(2 * x) / width - 1, (2 * line) / height - 1];
			const y = Math.round(line + (moved(s, t) * height) / 2 - rise * (x - width / 2));
			for (let k = 0; k < 5; k++) if (y + k >= 0 && y + k < height) data[(y + k) * width + x] = 40;
		}
	}
	return { width, height, data };
}

const bentSheet = (page: Picture, spec: Pick<CurledSpec, 'seed' | 'curl' | 'strength' | 'framing'>) =>
	photographCurled(page, { ...spec, desk: 'wood', size: [1200, 1600] });
/** Where the corners of a sheet lie in its picture. */
const cornersOf = ({ seenAt }: CurledPhotograph) =>
	([[0, 0], [1, 0], [1, 1], [0, 1]] as Point[]).map(seenAt) as unknown as Quadrilateral; // prettier-ignore

describe('a page that is bent', () => {
	it('is known both ways: on the level page and on its outline', () => {
		for (const place of [
			[0.1, 0.2],
			[0.5, 0.5],
			[0.97, 0.03]
		] as Point[]) {
			const [x, y] = offOutline(BEND, ontoOutline(BEND, place));
			expect(x).toBeCloseTo(place[0], 9);
			expect(y).toBeCloseTo(place[1], 9);
		}
		expect(sagOf({ shift: [0.05, 0, 0, 0], spread: [0.02, 0, 0, 0] })).toBeCloseTo(0, 9);
		expect(mostMoved({ shift: [0.05, 0, 0, 0], spread: [0.02, 0, 0, 0] })).toBeCloseTo(0.035, 9);
	});

	it('has its lines found, and level afterwards', () => {
		const model = { shift: [0.006, 0.008, 0, 0], spread: [0, 0.025, 0.006, 0] };
		const found = findBend(
			lined(660, 934, (s, t) => {
				const [a, b] = bentAt(model, s);
				return a + b * t;
			}),
			false
		)!;
		for (const s of [-0.8, -0.3, 0.2, 0.7]) {
			for (const t of [-0.8, 0, 0.8]) {
				const [a, b] = bentAt(found.bend, s);
				const [c, d] = bentAt(model, s);
				// To a pixel, but for a constant, which moves the whole page.
				expect(Math.abs(a + b * t - (c + d * t)) * 467).toBeLessThan(1.6);
			}
		}
	});

	it('is told from one that is flat, leans, or whose writer lets lines droop', () => {
		expect(
			findBend(
				lined(660, 934, () => 0),
				false
			)
		).toBeNull();
		const leaning = findBend(
			lined(660, 934, () => 0, 22, -0.03),
			false
		)!;
		expect(leaning.degrees).toBeCloseTo((Math.atan(0.03) * 180) / Math.PI, 1);
		expect(sagOf(leaning.bend)).toBeLessThan(0.003);
		expect(
			findBend(
				lined(660, 934, (s) => 0.03 * s * s),
				false
			)
		).toBeNull();
		expect(
			findBend({ width: 660, height: 934, data: new Uint8Array(660 * 934).fill(250) }, false)
		).toBeNull();
	});

	it('is flattened as the bend says: every sample where the map puts it, fast and plain', () => {
		const [width, height] = [330, 467];
		const picture = blankPicture(width, height, [255, 255, 255]);
		for (let y = 0; y < height; y++) {
			for (let x = 0; x < width; x++) {
				// Smooth, so that bilinear samples can be foretold.
				const value = Math.round(128 + 50 * Math.sin(x / 25) + 50 * Math.cos(y / 19));
				picture.data.fill(value, 3 * (y * width + x), 3 * (y * width + x) + 3);
			}
		}
		for (const [w, h] of [
			[330, 467],
			[150, 212]
		] as const) {
			const flat = flatten(picture, wholePicture(width, height), w, h, BEND);
			let most = 0;
			for (let y = 20; y < h - 20; y += 3) {
				for (let x = 15; x < w - 15; x += 3) {
					const [u, v] = ontoOutline(BEND, [(x + 0.5) / w, (y + 0.5) / h]);
					if (u < 0.03 || v < 0.03 || u > 0.97 || v > 0.97) continue;
					const [px, py] = [u * width - 0.5, v * height - 0.5];
					const expected = 128 + 50 * Math.sin(px / 25) + 50 * Math.cos(py / 19);
					most = Math.max(most, Math.abs(flat.data[3 * (y * w + x)]! - expected));
				}
			}
			expect(most).toBeLessThan(2.5);
		}
	});

	it('keeps what lies beyond the straight sides of its outline', () => {
		let beyond = 0;
		for (const [curl, seed] of [
			['fold', 31],
			['ends up', 32]
		] as const) {
			const seen = bentSheet(specimenPage(seed, 6, { ruling: 'ruled' }).picture, {
				seed,
				curl,
				strength: 0.9,
				framing: 'on a desk'
			});
			const { picture, seenAt } = seen;
			const settings = { corners: cornersOf(seen), turn: 0 as const, tone: DEFAULT_TONE };
			const { bend, width, height } = preparePage(picture, settings).facts;
			expect(bend).toBeDefined();
			const level = toPage({ ...settings, width, height, bend });
			const straight = toPage({ ...settings, width, height });
			for (const v of [0.01, 0.99]) {
				for (const u of [0.1, 0.3, 0.5, 0.7, 0.9]) {
					const y = level(seenAt([u, v]))[1] / height;
					expect(y).toBeGreaterThan(0);
					expect(y).toBeLessThan(1);
					const before = straight(seenAt([u, v]))[1] / height;
					if (before < 0 || before > 1) beyond++;
				}
			}
		}
		// On the outline as it is, some of it is cut off.
		expect(beyond).toBeGreaterThan(2);
	});

	it('is made level when a page is prepared, unless a person wants it as photographed', () => {
		const seed = 77;
		const seen = bentSheet(specimenPage(seed, 6).picture, {
			seed,
			curl: 'fold',
			strength: 0.8,
			framing: 'near'
		});
		const { picture } = seen;
		const settings = { corners: cornersOf(seen), turn: 0 as const, tone: DEFAULT_TONE };
		const { bend } = preparePage(picture, settings).facts;
		expect(sagOf(bend!)).toBeGreaterThan(0.005);
		expect(preparePage(picture, { ...settings, level: false }).facts.bend).toBeUndefined();
		// The same sheet lying flat has straight sides, and is left alone.
		const flat = bentSheet(specimenPage(seed, 6).picture, {
			seed,
			curl: 'flat',
			strength: 1,
			framing: 'on a desk'
		});
		expect(bendOf(flat.picture, cornersOf(flat))).toBeNull();
	});
});
