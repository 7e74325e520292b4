import { describe, expect, it } from 'vitest';
import { enclosedPapers, type Enclosed } from './enclosed';
import { frameCourse } from './frameCourse';

const [W, H] = [220, 90];
const LINE = 4;
const LEAST = 20;

/** A picture of ink, drawn by asking for each pixel. */
function drawn(...inks: readonly ((x: number, y: number) => boolean)[]): Uint8Array {
	return Uint8Array.from({ length: W * H }, (_, i) =>
		inks.some((ink) => ink(i % W, Math.floor(i / W))) ? 1 : 0
	);
}

const bar = (x0: number, y0: number, x1: number, y1: number) => (x: number, y: number) =>
	x >= x0 && x < x1 && y >= y0 && y < y1;

const box = (x0: number, y0: number, x1: number, y1: number) => {
	const [outer, inner] = [bar(x0, y0, x1, y1), bar(x0 + LINE, y0 + LINE, x1 - LINE, y1 - LINE)];
	return (x: number, y: number) => outer(x, y) && !inner(x, y);
};

/** A ring whose ends do not meet, from `gap` radians on. */
const ring =
	(cx: number, cy: number, a: number, b: number, gap = 0) =>
	(x: number, y: number) => {
		const at = Math.hypot((x - cx) / a, (y - cy) / b);
		const within = Math.hypot((x - cx) / (a - LINE), (y - cy) / (b - LINE));
		const turn = Math.atan2((y - cy) / b, (x - cx) / a);
		return at <= 1 && within > 1 && !(turn > 0 && turn < gap);
	};

/** How much of a frame is taken away, and how much of what is in it is left. */
function peel(frame: (x: number, y: number) => boolean, ...letters: (typeof frame)[]) {
	const mine = drawn(frame, ...letters);
	const around = enclosedPapers(mine, W, H, LEAST)[0]?.bounds ?? ([0, 0, W, H] as const);
	const gone = new Set(frameCourse(mine, W, H, around, LINE).pixels);
	const [ofFrame, ofLetters] = [drawn(frame), drawn(...letters)];
	let [frames, taken, kept, all] = [0, 0, 0, 0];
	mine.forEach((_, i) => {
		if (ofFrame[i] && !ofLetters[i]) {
			frames++;
			if (gone.has(i)) taken++;
		}
		if (ofLetters[i] && !ofFrame[i]) {
			all++;
			if (!gone.has(i)) kept++;
		}
	});
	return { taken: taken / frames, kept: all === 0 ? 1 : kept / all };
}

describe('a frame is taken away from around letters', () => {
	const stems = [bar(40, 25, 45, 65), bar(90, 30, 130, 35), bar(150, 25, 155, 65)];

	it.each([
		['a box', box(2, 5, 218, 85)],
		['a ring', ring(110, 45, 108, 40)],
		['a ring whose ends do not meet', ring(110, 45, 108, 40, 0.25)]
	])('%s', (_, frame) => {
		const { taken, kept } = peel(frame, ...stems);
		expect(taken).toBeGreaterThan(0.97);
		expect(kept).toBe(1);
	});

	it.each([
		['stick out of a box', box(2, 20, 218, 85)],
		['stick out of a ring', ring(110, 52, 108, 36)]
	])('that %s, and stay whole', (_, frame) => {
		const tall = [bar(70, 2, 75, 65), bar(120, 2, 125, 65), bar(60, 2, 86, 7)];
		const { taken, kept } = peel(frame, ...tall);
		expect(taken).toBeGreaterThan(0.93);
		expect(kept).toBeGreaterThan(0.97);
	});

	it('that touch it from inside, but for where they touch', () => {
		const { taken, kept } = peel(box(2, 5, 218, 85), ...stems, bar(206, 20, 214, 70));
		expect(taken).toBeGreaterThan(0.85);
		expect(kept).toBeGreaterThan(0.97);
	});

	it('also of a picture, where lines are as thick as letters are high elsewhere', () => {
		const [w, h, line] = [1500, 1100, 60];
		const mine = new Uint8Array(w * h).fill(1);
		for (let y = line; y < h - line; y++) mine.fill(0, y * w + line, y * w + w - line);
		// What is drawn in it lies near the frame, and is far too large to be a rest of it.
		for (let y = 2 * line; y < h - 2 * line; y++) mine.fill(1, y * w + line + 20, y * w + w - line - 20);
		const gone = new Set(frameCourse(mine, w, h, [0, 0, w, h], line).pixels);
		expect(gone.has((h >> 1) * w + (line >> 1))).toBe(true);
		expect(gone.has((h >> 1) * w + 2 * line)).toBe(false);
		expect(gone.size).toBeGreaterThan(0.97 * 2 * line * (w + h - 2 * line));
		expect(gone.size).toBeLessThan(1.03 * 2 * line * (w + h - 2 * line));
	});
});

describe('the paper that ink encloses', () => {
	const papers = (...inks: readonly ((x: number, y: number) => boolean)[]) =>
		enclosedPapers(drawn(...inks), W, H, LEAST);

	it('is what cannot be reached from outside', () => {
		const [{ bounds, filled }] = papers(box(10, 10, 110, 60)) as [Enclosed];
		expect(bounds).toEqual([14, 14, 106, 56]);
		expect(filled).toBe(1);
	});

	it('is each of two rings by itself, and what both reach around', () => {
		const found = papers(ring(60, 45, 30, 30), ring(136, 45, 30, 30), bar(80, 43, 116, 47));
		expect(found).toHaveLength(3);
		expect(found[0]!.filled).toBeLessThan(Math.min(found[1]!.filled, found[2]!.filled));
		expect(found[0]!.bounds[2] - found[0]!.bounds[0]).toBeGreaterThan(120);
	});

	it('is none where it is low, or where a way leads out', () => {
		expect(papers(box(10, 10, 110, 32))).toEqual([]);
		expect(papers(ring(110, 45, 100, 40, 0.4))).toEqual([]);
		expect(papers()).toEqual([]);
	});

	it('is one also where its line has a gap of a pixel', () => {
		const whole = drawn(box(10, 10, 110, 60));
		for (let y = 10; y < 10 + LINE; y++) whole[y * W + 50] = 0;
		expect(enclosedPapers(whole, W, H, LEAST).map(({ bounds }) => bounds)).toEqual([[14, 14, 106, 56]]);
	});
});
