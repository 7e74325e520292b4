import { describe, expect, it } from 'vitest';
import type { Box, Piece } from './pieces';
import { endsInFrame, strokeField, strokeThrough, withoutStruckOut } from './struckOut';

const [WIDTH, HEIGHT] = [400, 60];
const [LETTER, STROKE] = [20, 3];

/**
 * Letters that stand apart, and a stroke; each `[x0, y0, x1, y1]`, the stroke sloping by `fall` pixels and too faint for
 * ink between the columns `faint`.
 */
function field(letters: readonly Box[], stroke?: Box, fall = 0, faint: readonly [number, number] = [0, 0]) {
	const labels = new Int32Array(WIDTH * HEIGHT);
	const grey = new Uint8Array(WIDTH * HEIGHT).fill(255);
	const put = (x: number, y: number) => {
		const isFaint = x >= faint[0] && x < faint[1];
		grey[y * WIDTH + x] = isFaint ? 200 : 40;
		if (!isFaint) labels[y * WIDTH + x] = 1;
	};
	for (const [x0, y0, x1, y1] of letters) {
		for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) put(x, y);
	}
	if (stroke) {
		const [x0, y0, x1, y1] = stroke;
		for (let x = x0; x < x1; x++) {
			const down = Math.round((fall * (x - x0)) / (x1 - x0));
			for (let y = y0; y < y1; y++) put(x, y + down);
		}
	}
	return strokeField({ width: WIDTH, height: HEIGHT, labels, grey });
}

/** Stems of letters, 12 pixels apart. */
const stems = (from: number, count: number) =>
	Array.from({ length: count }, (_, i): Box => [from + 12 * i, 20, from + 12 * i + 5, 42]);

const LINE: Box = [40, 18, 360, 44];

describe('a word that is crossed out at the beginning of a line', () => {
	it('ends where the stroke ends, level or sloping', () => {
		for (const fall of [0, 6, -8]) {
			const end = strokeThrough(field(stems(40, 20), [38, 30, 130, 33], fall), LINE, LETTER, STROKE);
			expect(end).toBe(130);
		}
	});

	it('ends where the stroke ends, also where a bit of it is faint or went with a rule', () => {
		// Between two letters, where nothing but the stroke is.
		const ink = field(stems(40, 20), [38, 30, 190, 33], 0, [117, 124]);
		expect(strokeThrough(ink, LINE, LETTER, STROKE)).toBe(190);
	});

	it('may be short where its stroke sticks out on both sides', () => {
		const letters = [...stems(43, 4), ...stems(110, 18)];
		const struck = (to: number) => strokeThrough(field(letters, [38, 30, to, 33]), LINE, LETTER, STROKE);
		expect(struck(93)).toBe(93);
		expect(struck(84)).toBeNull();
	});

	it.each([
		['writing without a stroke', field(stems(40, 20))],
		['a stroke as long as a letter is wide', field(stems(40, 20), [38, 30, 62, 33])],
		['a dash with nothing above or below', field(stems(240, 5), [40, 30, 140, 33])],
		['a line under the word', field(stems(40, 20), [38, 43, 140, 46])],
		[
			'a line under the word that a letter touches',
			field([...stems(40, 20), [64, 20, 69, 50]], [38, 41, 140, 44])
		],
		['a stroke further on in the line', field(stems(40, 20), [120, 30, 220, 33])]
	])('is none: %s', (_, ink) => {
		expect(strokeThrough(ink, LINE, LETTER, STROKE)).toBeNull();
	});
});

describe('what is crossed out', () => {
	const piece = (box: Box, leads: boolean): Piece => ({ box, leads, after: 30 });
	const wrong = piece([40, 20, 130, 42], true);
	const right = piece([145, 20, 200, 42], false);
	const below = piece([40, 60, 200, 82], true);
	const others = [160, 240, 320].map((y) => piece([40, y, 200, y + 22], true));
	const ends = (box: Box) => (box === wrong.box || box === LINE ? 130 : null);

	it('is passed over: what stands behind it begins the line', () => {
		const { pieces, lines } = withoutStruckOut([wrong, right, below, ...others], [LINE], ends, LETTER);
		expect(pieces).toEqual([{ ...right, leads: true, from: 40 }, below, ...others]);
		expect(lines).toEqual([{ box: [145, 18, 360, 44], from: 40 }]);
	});

	it('leaves the rest of a piece that holds more', () => {
		const longer = piece([40, 20, 220, 42], true);
		const { pieces } = withoutStruckOut(
			[longer, below, ...others],
			[],
			(b) => (b === longer.box ? 130 : null),
			LETTER
		);
		expect(pieces[0]).toEqual({ ...longer, box: [130, 20, 220, 42], from: 40 });
	});

	it('is ruling where it is seen nearly everywhere, and then nothing is passed over', () => {
		const all = [wrong, right, below];
		const { pieces, lines } = withoutStruckOut(all, [LINE], () => 130, LETTER);
		expect(pieces).toEqual(all);
		expect(lines).toEqual([{ box: LINE }]);
	});
});

describe('what seems to cross out a word and ends in a frame', () => {
	const frame = (kind: 'around' | 'under') => [{ kind, inside: [100, 16, 200, 46], pixels: [] }] as const;

	it.each([
		['is the frame, where it ends in it', 150, true],
		['is the frame, where it ends at its far side', 205, true],
		['crosses out the word before it, where it runs into it', 108, false],
		['crosses out the words before and behind it, where it ends far behind', 240, false]
	])('%s', (_, end, is) => {
		expect(endsInFrame(LINE, end, frame('around'))).toBe(is);
	});

	it('is no frame in another row, and no line under a word', () => {
		expect(endsInFrame([40, 50, 360, 80], 150, frame('around'))).toBe(false);
		expect(endsInFrame(LINE, 150, frame('under'))).toBe(false);
	});
});
