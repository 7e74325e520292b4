import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { decodePicture } from './picture';
import { quantisationOf } from './quantisation';

const folder = mkdtempSync(join(tmpdir(), 'membrana-dqt-'));
const picture = sharp({ create: { width: 64, height: 64, channels: 3, background: '#d8d4cc' } });
const kept = (name: string, bytes: Buffer) => {
	const path = join(folder, name);
	writeFileSync(path, bytes);
	return path;
};

describe('quantisationOf', () => {
	it('rises as quality falls, and comes with the picture', async () => {
		const steps = [];
		for (const quality of [95, 75, 40, 10, 1]) {
			const path = kept(`q${quality}.jpg`, await picture.clone().jpeg({ quality }).toBuffer());
			steps.push((await quantisationOf(path))!);
			expect((await decodePicture(path)).quantisation).toBe(steps.at(-1));
		}
		expect(steps).toEqual([...steps].sort((a, b) => a - b));
		expect(steps[0]).toBeLessThan(3);
		expect(steps[4]).toBeGreaterThan(150);
	});

	it('is found behind an EXIF block, and is not known of other files or broken ones', async () => {
		const withExif = await picture.clone().withMetadata({ orientation: 6 }).jpeg({ quality: 40 }).toBuffer();
		expect(await quantisationOf(kept('exif.jpg', withExif))).toBeGreaterThan(5);
		expect(await quantisationOf(kept('a.png', await picture.clone().png().toBuffer()))).toBeNull();
		expect(await quantisationOf(kept('cut.jpg', withExif.subarray(0, 40)))).toBeNull();
		expect(await quantisationOf(kept('none.jpg', Buffer.alloc(0)))).toBeNull();
	});
});
