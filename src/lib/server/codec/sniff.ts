import { open } from 'node:fs/promises';
import { SourceError } from './sourceError';

export type SourceType = 'jpeg' | 'png' | 'webp' | 'tiff' | 'gif' | 'bmp' | 'avif' | 'heic' | 'pdf' | 'zip';

const HEAD = 1024;

/**
 * What a file is by its first bytes; its name is not asked.
 * @throws SourceError for anything that is not a picture or a PDF that can be read
 */
export async function sniff(path: string): Promise<SourceType> {
	const file = await open(path);
	try {
		const head = Buffer.alloc(HEAD);
		const { bytesRead } = await file.read(head, 0, HEAD, 0);
		return typeOf(head.subarray(0, bytesRead));
	} finally {
		await file.close();
	}
}

/** @throws SourceError with what to do about it */
export function typeOf(head: Buffer): SourceType {
	if (head.length === 0) throw new SourceError('This file is empty. Copy or export it again.');
	const type = sniffBytes(head);
	if (type) return type;
	const known = knownButUnread(head);
	if (known) throw new SourceError(`${known} pictures cannot be read here. Save it as JPEG or PNG.`);
	throw new SourceError(
		'This is not a picture or PDF, whatever its name says. Bring in JPEG, PNG, WebP, TIFF, HEIC, AVIF, GIF, BMP, PDF or a ZIP of these.'
	);
}

/** What a file is by its first bytes, or null. */
export function sniffBytes(head: Buffer): SourceType | null {
	if (head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff) return 'jpeg';
	if (head.subarray(0, 8).equals(Buffer.from('89504e470d0a1a0a', 'hex'))) return 'png';
	const ascii = head.toString('latin1');
	if (ascii.startsWith('RIFF') && ascii.slice(8, 12) === 'WEBP') return 'webp';
	// ISO 32000 lets a PDF begin within the first 1024 bytes.
	if (ascii.includes('%PDF-')) return 'pdf';
	if (/^ftyp(heic|heix|hevc|hevx|mif1|msf1)/.test(ascii.slice(4, 12))) return 'heic';
	if (/^ftypavi[fs]/.test(ascii.slice(4, 12))) return 'avif';
	// The second pair are TIFFs with 64-bit offsets.
	if (['II*\0', 'MM\0*', 'II+\0', 'MM\0+'].some((mark) => ascii.startsWith(mark))) return 'tiff';
	if (/^GIF8[79]a/.test(ascii)) return 'gif';
	// Two letters say little: the reserved bytes after them are 0 as well.
	if (ascii.startsWith('BM') && head.length > 26 && head.readUInt32LE(6) === 0) return 'bmp';
	if (ascii.startsWith('PK\x03\x04')) return 'zip';
	return null;
}

/** The name of a kind of picture that is known but cannot be read, or null. */
function knownButUnread(head: Buffer): string | null {
	const ascii = head.toString('latin1');
	if (ascii.startsWith('\0\0\0\x0cjP  \r\n') || head.subarray(0, 4).equals(Buffer.from('ff4fff51', 'hex')))
		return 'JPEG 2000';
	if (ascii.startsWith('\0\0\0\x0cJXL ') || head.subarray(0, 2).equals(Buffer.from('ff0a', 'hex')))
		return 'JPEG XL';
	if (ascii.startsWith('8BPS')) return 'PSD';
	return null;
}
