import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { PIPELINE, READER } from '../src/lib/server/store/derivedKeys';
import { samplePacket, type SamplePacket } from './packets';
import { readPacket, type ReadPage } from './readPacket';
import type { Writers } from './writers';

/** A page as it was read, without its picture. */
export type KeptPage = Omit<ReadPage, 'shot'> & { readonly shot: Omit<ReadPage['shot'], 'jpeg'> };

/** A packet, photographed, prepared and read whole; kept in a folder, as each page takes seconds. */
export async function keptPacket(
	seed: number,
	writers: Writers
): Promise<{ packet: SamplePacket; pages: readonly KeptPage[] }> {
	const packet = samplePacket(seed, writers);
	const folder = join(tmpdir(), 'membrana-read-packets');
	mkdirSync(folder, { recursive: true });
	const key = createHash('sha256')
		.update(JSON.stringify([packet, PIPELINE, READER]))
		.digest('hex')
		.slice(0, 16);
	const file = join(folder, key);
	if (existsSync(file)) return { packet, pages: deserialize(readFileSync(file)) as KeptPage[] };
	const pages = (await readPacket(packet, seed)).map(({ shot: { jpeg: _, ...shot }, ...page }) => ({
		...page,
		shot
	}));
	writeFileSync(file, serialize(pages));
	return { packet, pages };
}
