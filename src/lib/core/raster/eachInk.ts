/**
 * Visits every pixel of ink, in the order in which they lie. Most of a page is paper: that is passed over four pixels
 * at a time.
 *
 * @param ink 0 for paper
 */
export function eachInk(ink: Uint8Array, visit: (i: number) => void): void {
	// Words begin at multiples of four bytes.
	const before = (4 - (ink.byteOffset % 4)) % 4;
	const words =
		ink.length < 4
			? new Uint32Array()
			: new Uint32Array(ink.buffer, ink.byteOffset + before, (ink.length - before) >> 2);
	const behind = before + 4 * words.length;
	for (let i = 0; i < Math.min(before, ink.length); i++) if (ink[i]) visit(i);
	for (let w = 0, i = before; w < words.length; w++, i += 4) {
		if (words[w] === 0) continue;
		for (let k = i; k < i + 4; k++) if (ink[k]) visit(k);
	}
	for (let i = behind; i < ink.length; i++) if (ink[i]) visit(i);
}
