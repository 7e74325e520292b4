import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { once } from 'node:events';
import { Zip, ZipPassThrough } from 'fflate';
import { tagFiles, tagManifest, type BaggedFile, type BagInfo } from '../../core/bundle/bag';

/** A file that goes into a bag: one of the disk, or its text. */
export type BagContent = { readonly path: string } & ({ readonly file: string } | { readonly text: string });

/**
 * Writes a bag (RFC 8493) as a ZIP, one folder in it, file by file, so that its size does not matter.
 *
 * @param name of the folder
 * @param contents paths are below data/
 * @returns its SHA-256 and size
 */
export async function writeBag(
	out: string,
	name: string,
	contents: readonly BagContent[],
	info: BagInfo
): Promise<{ sha256: string; bytes: number }> {
	const sink = createWriteStream(out);
	const whole = createHash('sha256');
	let bytes = 0;
	let full = false;
	const zip = new Zip((error, chunk) => {
		if (error) return void sink.destroy(error);
		whole.update(chunk);
		bytes += chunk.length;
		full = !sink.write(chunk);
	});
	const at = new Date(info.made);
	/** Puts one file in, piece by piece, and says its hashes. */
	const put = async (path: string, pieces: AsyncIterable<Uint8Array> | Iterable<Uint8Array>) => {
		const entry = new ZipPassThrough(`${name}/${path}`);
		entry.mtime = at;
		zip.add(entry);
		const hashes = [createHash('sha256'), createHash('sha512')] as const;
		let size = 0;
		for await (const piece of pieces) {
			hashes.forEach((h) => h.update(piece));
			size += piece.length;
			entry.push(piece);
			if (full) await once(sink, 'drain');
			full = false;
		}
		entry.push(new Uint8Array(0), true);
		const [sha256, sha512] = hashes.map((h) => h.digest('hex')) as [string, string];
		return { bytes: size, sha256, sha512 };
	};
	const bagged: BaggedFile[] = [];
	for (const content of contents) {
		const pieces = 'file' in content ? createReadStream(content.file) : [Buffer.from(content.text)];
		bagged.push({ path: content.path, ...(await put(`data/${content.path}`, pieces)) });
	}
	const tags = [];
	for (const { path, text } of tagFiles(bagged, info)) {
		tags.push({ path, ...(await put(path, [Buffer.from(text)])) });
	}
	for (const hash of ['sha256', 'sha512'] as const) {
		const text = tagManifest(tags.map((t) => ({ path: t.path, hash: t[hash] })));
		await put(`tagmanifest-${hash}.txt`, [Buffer.from(text)]);
	}
	zip.end();
	sink.end();
	await once(sink, 'finish');
	return { sha256: whole.digest('hex'), bytes };
}
