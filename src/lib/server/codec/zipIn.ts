import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { unzipSync } from 'fflate';
import { byName } from '../../core/order/byName';
import { shorten, toStorable } from '../../core/text/storable';
import { LIMITS } from './limits';
import { sniffBytes } from './sniff';
import { SourceError } from './sourceError';

/** A file out of a ZIP, written aside. */
export interface Unpacked {
	/** Its own name, without the folders it lay in. */
	readonly name: string;
	readonly path: string;
}

/** Programs put these beside the files that people mean. */
const LITTER = /(^|\/)(__MACOSX\/|\._|\.DS_Store$|Thumbs\.db$|desktop\.ini$)/i;

/**
 * Unpacks a ZIP of pictures and PDFs into a folder, in the order of their names. Sizes are checked before
 * anything is unpacked; names become numbers, so that none of them is ever used as a path.
 * @throws SourceError when it is damaged, too large inside, holds another ZIP or nothing that can be used
 */
export async function unpackZip(path: string, folder: string): Promise<Unpacked[]> {
	let total = 0;
	let count = 0;
	let entries: Record<string, Uint8Array>;
	let isPrototype = false;
	try {
		entries = unzipSync(await readFile(path), {
			filter: ({ name, originalSize }) => {
				if (name.endsWith('/') || LITTER.test(name)) return false;
				// The library keeps entries by their names in an object, where this one is lost.
				isPrototype ||= name === '__proto__';
				total += originalSize;
				count++;
				if (count > LIMITS.pages) {
					throw new SourceError(
						`This ZIP holds more than ${LIMITS.pages} files. Bring in the ones you need.`
					);
				}
				if (total > LIMITS.unpacked) {
					throw new SourceError(
						`This ZIP unpacks to more than ${LIMITS.unpacked / 1e6} MB. Bring in its files a part at a time.`
					);
				}
				return true;
			}
		});
	} catch (error) {
		if (error instanceof SourceError) throw error;
		throw new SourceError(
			'This ZIP is damaged and cannot be unpacked. Make it again, or bring in its files.'
		);
	}
	if (isPrototype) {
		throw new SourceError('A file in this ZIP is called __proto__, which cannot be unpacked. Rename it.');
	}
	const names = Object.keys(entries).sort(byName);
	if (names.includes('[Content_Types].xml')) {
		throw new SourceError('This is an office file. Save it as PDF and bring that in.');
	}
	if (names.length === 0) throw new SourceError('This ZIP is empty.');
	for (const name of names) {
		if (sniffBytes(Buffer.from(entries[name]!.subarray(0, 8))) === 'zip') {
			throw new SourceError(
				`In this ZIP lies another one (${basename(name)}). Unpack that first and bring in its files.`
			);
		}
	}
	await mkdir(folder, { recursive: true });
	return Promise.all(
		names.map(async (name, i) => {
			const file = join(folder, String(i));
			await writeFile(file, entries[name]!);
			return { name: toStorable(shorten(basename(name), 300)), path: file };
		})
	);
}
