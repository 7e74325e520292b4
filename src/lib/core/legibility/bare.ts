import { eachInk } from '../raster/eachInk';

/** Less of a page than this may be dark on bare paper: specks and grain. */
const GRAIN = 0.0004;
/** A row or column with more of its length dark than this lies under a printed line. */
const LINE = 0.35;
/** Printed lines come in such numbers, at distances that differ by this share at most. */
const LEAST_LINES = 6;
const EVEN = 0.2;
const EVENLY = 0.8;
/** What is dark farther from a line than this, in pixels, is not the line. */
const NEAR = 3;

/** A page may lie askew in a feeder, by up to this slope; steps in pixels over its width. */
const MOST_ASKEW = 0.03;
const ASKEW_STEP = 2;

/**
 * Whether nothing is dark on a page but evenly printed ruling. What is not sure, such as ruling on paper that bends,
 * is not bare: nobody's page is put away because a machine saw nothing on it.
 *
 * @param dark 1 where the page is darker than its paper: `width x height`, row-major
 * @returns null where something else is dark, else 1 where the printed lines lie
 */
export function bareRuling(dark: Uint8Array, width: number, height: number): Uint8Array | null {
	const places: number[] = [];
	eachInk(dark, width, (i) => places.push(i));
	const lines = new Uint8Array(dark.length);
	if (places.length < GRAIN * dark.length) return lines;
	const slope = askew(places, width, height);
	const rowOf = (x: number, y: number) => Math.round(y - slope * (x - width / 2));
	const columnOf = (x: number, y: number) => Math.round(x + slope * (y - height / 2));
	const rows = new Uint32Array(height);
	const columns = new Uint32Array(width);
	for (const i of places) {
		const x = i % width;
		const y = (i - x) / width;
		const [row, column] = [rowOf(x, y), columnOf(x, y)];
		if (row >= 0 && row < height) rows[row]!++;
		if (column >= 0 && column < width) columns[column]!++;
	}
	const across = printedLines(rows, width);
	const down = printedLines(columns, height);
	// A margin stands alone, but not without ruling.
	if (Math.max(across?.length ?? 0, down?.length ?? 0) < LEAST_LINES) return null;
	const underRow = near(across ?? [], height);
	const underColumn = near(down ?? [], width);
	for (let y = 0, i = 0; y < height; y++) {
		for (let x = 0; x < width; x++, i++) {
			if (underRow[rowOf(x, y)] || underColumn[columnOf(x, y)]) lines[i] = 1;
		}
	}
	const left = places.filter((i) => !lines[i]).length;
	return left < GRAIN * dark.length ? lines : null;
}

/** The slope at which printed lines across or down the page are sharpest. */
function askew(places: readonly number[], width: number, height: number): number {
	const most = Math.ceil((MOST_ASKEW * width) / ASKEW_STEP);
	let best = { slope: 0, value: -1 };
	const profile = new Uint32Array(width + height);
	for (let k = 0; k <= 2 * most; k++) {
		// From straight outwards, so that nothing is taken for askew that is not.
		const step = (k % 2 === 0 ? k : -k - 1) / 2;
		const slope = (step * ASKEW_STEP) / width;
		profile.fill(0);
		for (const i of places) {
			const x = i % width;
			const y = (i - x) / width;
			const row = Math.round(y - slope * (x - width / 2));
			const column = Math.round(x + slope * (y - height / 2));
			if (row >= 0 && row < height) profile[row]!++;
			if (column >= 0 && column < width) profile[height + column]!++;
		}
		let value = 0;
		for (const n of profile) value += n * n;
		if (value > best.value) best = { slope, value };
	}
	return best.slope;
}

/** Where lines lie, evenly apart, or the only one; null where there are none, or not as they are printed. */
function printedLines(profile: Uint32Array, length: number): number[] | null {
	const lines: number[] = [];
	for (let at = 0; at < profile.length; at++) {
		if (profile[at]! < LINE * length) continue;
		const from = at;
		while (at < profile.length && profile[at]! >= LINE * length) at++;
		lines.push((from + at - 1) / 2);
	}
	if (lines.length === 1) return lines;
	if (lines.length < LEAST_LINES) return null;
	const gaps = lines.slice(1).map((line, i) => line - lines[i]!);
	const usual = [...gaps].sort((a, b) => a - b)[gaps.length >> 1]!;
	const even = gaps.filter((gap) => Math.abs(gap - usual) <= EVEN * usual).length;
	return even >= EVENLY * gaps.length ? lines : null;
}

function near(lines: readonly number[], length: number): Uint8Array {
	const out = new Uint8Array(length);
	for (const line of lines) out.fill(1, Math.max(0, Math.floor(line - NEAR)), Math.ceil(line + NEAR) + 1);
	return out;
}
