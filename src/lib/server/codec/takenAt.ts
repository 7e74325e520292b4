import readExif from 'exif-reader';

/** No camera wrote EXIF before. */
const EARLIEST = Date.UTC(1995, 0);

/**
 * When a picture was taken, from its EXIF block: ISO 8601, with the camera's offset from UTC where it says one. Null where
 * it does not tell, or tells what cannot be (clocks that were never set write zeros).
 */
export function takenAt(exif: Buffer | undefined): string | null {
	if (!exif) return null;
	let photo: ReturnType<typeof readExif>['Photo'];
	try {
		photo = readExif(exif).Photo;
	} catch {
		return null;
	}
	// The clock on the wall, read as if it were in UTC.
	const [clock, offset] = photo?.DateTimeOriginal
		? [photo.DateTimeOriginal, photo.OffsetTimeOriginal]
		: [photo?.DateTimeDigitized, photo?.OffsetTimeDigitized];
	const time = clock instanceof Date ? clock.getTime() : NaN;
	if (!(time >= EARLIEST)) return null;
	const zone = /^[+-](0\d|1[0-4]):[0-5]\d$/.exec(String(offset ?? '').trim())?.[0] ?? '';
	return `${new Date(time).toISOString().slice(0, 19)}${zone}`;
}
