import { readFileSync } from 'node:fs';
import { PDFDocument } from '@cantoo/pdf-lib';
import fc from 'fast-check';
import { zipSync } from 'fflate';
import sharp from 'sharp';

/** A page in HEIC, as phones make it; encoders of it are rare, so one picture is kept. */
export const HEIC = readFileSync('tests/support/page.heic');

export const KINDS = ['jpg', 'png', 'webp', 'tif', 'heic', 'zip', 'pdf'] as const;
export type Kind = (typeof KINDS)[number];

/** A small picture that does not compress to nothing. */
export function noise(width: number, height: number) {
	return sharp(
		Uint8Array.from({ length: width * height * 3 }, (_, i) => (i * 7919) % 256),
		{ raw: { width, height, channels: 3 } }
	);
}

/** One sound file of every kind that is taken. */
export async function soundFiles(): Promise<Record<Kind, Buffer>> {
	return {
		jpg: await noise(120, 90).jpeg().toBuffer(),
		png: await noise(120, 90).png().toBuffer(),
		webp: await noise(120, 90).webp().toBuffer(),
		tif: await noise(120, 90).tiff().toBuffer(),
		heic: HEIC,
		zip: Buffer.from(zipSync({ 'a.jpg': await noise(60, 60).jpeg().toBuffer() })),
		pdf: Buffer.from(await (await PDFDocument.create()).save())
	};
}

/** How a file is damaged: cut off at a part of its length, and some of its bytes changed. */
export const damage = fc.record({
	kind: fc.constantFrom(...KINDS),
	cut: fc.double({ min: 0, max: 1, noNaN: true }),
	flips: fc.array(
		fc.tuple(fc.double({ min: 0, max: 0.999, noNaN: true }), fc.integer({ min: 0, max: 255 })),
		{
			maxLength: 8
		}
	)
});
type Damage = typeof damage extends fc.Arbitrary<infer D> ? D : never;

export function damaged(sound: Readonly<Record<Kind, Buffer>>, { kind, cut, flips }: Damage): Buffer {
	const bytes = Buffer.from(sound[kind].subarray(0, Math.ceil(sound[kind].length * cut)));
	if (bytes.length > 0) for (const [at, value] of flips) bytes[Math.floor(at * bytes.length)] = value;
	return bytes;
}
