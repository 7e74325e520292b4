/**
 * Ink in which a square has room (opening by a square; Serra 1982): strokes stay, and rules that are thinner go, also
 * where the two cross or run along each other.
 *
 * @param ink 1 for ink, 0 for paper, `width x height`
 * @param side of the square in pixels
 */
export function broad(ink: Uint8Array, width: number, height: number, side: number): Uint8Array {
	const kept = new Uint8Array(ink.length);
	/** For each column, rows up to here in which as many pixels as the square is wide end there. */
	const rows = new Uint16Array(width);
	for (let y = 0; y < height; y++) {
		let run = 0;
		for (let x = 0; x < width; x++) {
			run = ink[y * width + x] ? run + 1 : 0;
			rows[x] = run >= side ? rows[x]! + 1 : 0;
			if (rows[x]! < side) continue;
			for (let v = y - side + 1; v <= y; v++) kept.fill(1, v * width + x - side + 1, v * width + x + 1);
		}
	}
	return kept;
}

/** The thickest lines that are told from each other. */
const THICKEST = 12;
/** Most lines are no thicker than this part of their ink shows. */
const MOSTLY = 0.85;
/** Every so many pixels are enough. */
const EVERY = 7;

/**
 * How thick lines are, most of them: the shorter of the runs of ink through a pixel, across and down.
 *
 * @param ink 1 for ink, 0 for paper, `width x height`
 * @param lines 1 for the ink that is asked about
 * @returns 1 to 12 pixels; 0 where there are none
 */
export function thicknessOf(ink: Uint8Array, lines: Uint8Array, width: number, height: number): number {
	const counts = new Uint32Array(THICKEST + 1);
	let all = 0;
	for (let i = 0; i < ink.length; i += EVERY) {
		if (!lines[i]) continue;
		const [x, y] = [i % width, Math.floor(i / width)];
		const run = (room: number, step: number) => {
			let n = 0;
			while (n < Math.min(room, THICKEST) && ink[i + (n + 1) * step]) n++;
			return n;
		};
		const across = 1 + run(x, -1) + run(width - 1 - x, 1);
		const down = 1 + run(y, -width) + run(height - 1 - y, width);
		counts[Math.min(across, down, THICKEST)]!++;
		all++;
	}
	let [thickness, sum] = [0, 0];
	while (sum < MOSTLY * all) sum += counts[++thickness]!;
	return thickness;
}
