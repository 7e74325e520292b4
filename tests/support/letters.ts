import type { Plane } from '../../src/lib/core/raster/picture';

// Rows of letters on a page of 200 dots an inch, straight into its pixels: what pens of a certain grey leave.

export const [WIDTH, HEIGHT, DPI, NOISE] = [700, 800, 200, 1];
export const [PEN, PENCIL] = [25, 172];
const RULE = 200;

export function paper(): Uint8Array {
	// A little grain, the same each time.
	let x = 7;
	return Uint8Array.from({ length: WIDTH * HEIGHT }, () => {
		x = (x * 16_807) % 2_147_483_647;
		return 251 + (x % 4);
	});
}

/** Rows of letters: rings, every third with a stroke down, with soft edges as a camera leaves them. */
export function write(data: Uint8Array, rows: readonly number[], grey: number): void {
	for (const row of rows) {
		for (let n = 0; n < 14; n++) {
			const [cx, cy] = [70 + 42 * n, row];
			for (let y = cy - 24; y <= cy + 14; y++) {
				for (let x = cx - 14; x <= cx + 14; x++) {
					const ring = Math.abs(Math.hypot(x - cx, y - cy) - 10);
					const stem = n % 3 === 0 && y < cy ? Math.abs(x - cx - 10) : Infinity;
					const share = Math.max(0, Math.min(1, 2.2 - Math.min(ring, stem)));
					const i = y * WIDTH + x;
					data[i] = Math.min(data[i]!, Math.round(255 - share * (255 - grey)));
				}
			}
		}
	}
}

export function rule(data: Uint8Array): void {
	for (let y = 40; y < HEIGHT; y += 60) {
		for (let x = 0; x < WIDTH; x++)
			for (const v of [y, y + 1]) data[v * WIDTH + x] = Math.min(data[v * WIDTH + x]!, RULE);
	}
}

export const plane = (data: Uint8Array): Plane => ({ width: WIDTH, height: HEIGHT, data });
