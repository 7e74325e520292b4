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

/**
 * True when nothing is dark on a page but evenly printed ruling. What is not sure, such as ruling on paper that bends,
 * is not bare: nobody's page is put away because a machine saw nothing on it.
 *
 * @param dark 1 where the page is darker than its paper: `width x height`, row-major
 */
export function isBare(dark: Uint8Array, width: number, height: number): boolean {
	const rows = new Uint32Array(height);
	const columns = new Uint32Array(width);
	let all = 0;
	for (let y = 0; y < height; y++) {
		for (let x = 0; x < width; x++) {
			if (!dark[y * width + x]) continue;
			rows[y]!++;
			columns[x]!++;
			all++;
		}
	}
	if (all < GRAIN * dark.length) return true;
	const across = printedLines(rows, width);
	const down = printedLines(columns, height);
	// A margin stands alone, but not without ruling.
	if (Math.max(across?.length ?? 0, down?.length ?? 0) < LEAST_LINES) return false;
	const underRow = near(across ?? [], height);
	const underColumn = near(down ?? [], width);
	let left = 0;
	for (let y = 0; y < height; y++) {
		if (underRow[y]) continue;
		for (let x = 0; x < width; x++) if (dark[y * width + x] && !underColumn[x]) left++;
	}
	return left < GRAIN * dark.length;
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
