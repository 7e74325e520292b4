/**
 * Darkens or lightens everything that is not paper: a power curve that keeps white white.
 * 256 entries; weight -2 to 2, where 0 already deepens ink a little.
 */
export function inkCurve(inkWeight: number): Uint8Array {
	const exponent = 1.35 * 1.35 ** inkWeight;
	return Uint8Array.from({ length: 256 }, (_, v) => Math.round(255 * (v / 255) ** exponent));
}
