import { zipSync } from 'fflate';

/** Page images in a ZIP, numbered in sequence; JPEG and PNG are compressed already and are only stored. */
export function zipPages(
	name: string,
	pages: readonly { readonly bytes: Uint8Array; readonly extension: 'jpg' | 'png' }[],
	created: Date
): Uint8Array {
	const digits = Math.max(2, String(pages.length).length);
	const files = pages.map(({ bytes, extension }, i) => [
		`${name}_p${String(i + 1).padStart(digits, '0')}.${extension}`,
		bytes
	]);
	return zipSync(Object.fromEntries(files) as Record<string, Uint8Array>, { level: 0, mtime: created });
}
