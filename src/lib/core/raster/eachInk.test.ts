import { describe, expect, it } from 'vitest';
import { eachInk } from './eachInk';

/** Every third pixel and the ends, as part of a larger buffer from `offset` on. */
function inkAt(offset: number, length: number): Uint8Array {
	const ink = new Uint8Array(new ArrayBuffer(offset + length + 5), offset, length);
	for (let i = 0; i < length; i += 3) ink[i] = 1 + (i % 200);
	if (length > 0) ink[length - 1] = 1;
	// What lies beside it is none of it.
	new Uint8Array(ink.buffer).forEach((_, i, all) => {
		if (i < offset || i >= offset + length) all[i] = 1;
	});
	return ink;
}

describe('eachInk', () => {
	it.each([0, 1, 2, 3, 4])(
		'visits all ink and nothing else, in order, from byte %i of a buffer on',
		(offset) => {
			for (let length = 0; length < 20; length++) {
				const ink = inkAt(offset, length);
				const visited: number[] = [];
				eachInk(ink, Math.max(1, length), (i) => visited.push(i));
				expect(visited).toEqual([...ink.keys()].filter((i) => ink[i] !== 0));
			}
		}
	);

	it('goes on from row to row, whatever their width', () => {
		for (const width of [1, 5, 16, 17, 32]) {
			const ink = inkAt(0, 12 * width);
			const visited: number[] = [];
			eachInk(ink, width, (i) => visited.push(i));
			expect(visited).toEqual([...ink.keys()].filter((i) => ink[i] !== 0));
		}
	});

	it('finds none on paper', () => {
		let visits = 0;
		eachInk(new Uint8Array(1001), 77, () => visits++);
		expect(visits).toBe(0);
	});
});
