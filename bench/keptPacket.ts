import { PIPELINE, READER } from '../src/lib/server/store/derivedKeys';
import { kept } from './kept';
import { samplePacket, type SamplePacket } from './packets';
import { readPacket, type ReadPage } from './readPacket';
import type { Writers } from './writers';

/** A page as it was read, without its picture. */
export type KeptPage = Omit<ReadPage, 'shot'> & { readonly shot: Omit<ReadPage['shot'], 'jpeg'> };

/** A packet, photographed, prepared and read whole; kept, as each page takes seconds. */
export async function keptPacket(
	seed: number,
	writers: Writers
): Promise<{ packet: SamplePacket; pages: readonly KeptPage[] }> {
	const packet = samplePacket(seed, writers);
	const pages = await kept('membrana-read-packets', [packet, PIPELINE, READER], async () =>
		(await readPacket(packet, seed)).map(({ shot: { jpeg: _, ...shot }, ...page }): KeptPage => ({
			...page,
			shot
		}))
	);
	return { packet, pages };
}
