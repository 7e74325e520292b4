import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { takenAt } from './takenAt';

/** The EXIF block of a picture with these entries. */
async function block(photo: Record<string, string>, image: Record<string, string> = {}): Promise<Buffer> {
	const picture = sharp({ create: { width: 8, height: 8, channels: 3, background: '#fff' } });
	const jpeg = await picture.withExif({ IFD0: image, IFD2: photo }).jpeg().toBuffer();
	return (await sharp(jpeg).metadata()).exif!;
}

describe('when a picture was taken', () => {
	it('is when the shutter went, not when the file was changed, with the camera’s zone', async () => {
		const exif = await block(
			{ DateTimeOriginal: '2031:03:09 18:04:05', OffsetTimeOriginal: '+05:30' },
			{ DateTime: '2031:04:01 09:00:00' }
		);
		expect(takenAt(exif)).toBe('2031-03-09T18:04:05+05:30');
	});

	it('is the clock on the wall where the camera says no zone', async () => {
		expect(takenAt(await block({ DateTimeOriginal: '2031:03:09 18:04:05' }))).toBe('2031-03-09T18:04:05');
		const nowhere = await block({ DateTimeOriginal: '2031:03:09 18:04:05', OffsetTimeOriginal: '+97:80' });
		expect(takenAt(nowhere)).toBe('2031-03-09T18:04:05');
		expect(takenAt(await block({ DateTimeDigitized: '2031:03:09 18:04:06' }))).toBe('2031-03-09T18:04:06');
	});

	it('is not known where nothing tells, where a clock was never set, and where the block is damaged', async () => {
		expect(takenAt(undefined)).toBeNull();
		expect(takenAt(await block({}, { DateTime: '2031:04:01 09:00:00' }))).toBeNull();
		expect(takenAt(await block({ DateTimeOriginal: '0000:00:00 00:00:00' }))).toBeNull();
		const exif = await block({ DateTimeOriginal: '2031:03:09 18:04:05' });
		for (let end = 0; end < exif.length; end += 7) {
			expect([null, '2031-03-09T18:04:05']).toContain(takenAt(exif.subarray(0, end)));
		}
	});
});
