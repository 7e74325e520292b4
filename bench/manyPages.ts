import type { Page } from '../src/lib/core/packet/packet';
import { DEFAULT_TONE, type Tone } from '../src/lib/core/tone/tone';
import type { Database } from '../src/lib/server/store/database';
import { command } from '../src/lib/server/store/packets';
import { acceptSource, addSource } from '../src/lib/server/store/sources';

/**
 * Puts a made-up PDF of so many pages into a packet, each page with a tone of its own, so that none is another's.
 *
 * @param key of the upload; another for each packet
 * @returns the source, and the pages' ids
 */
export async function addManyPages(
	db: Database,
	packet: string,
	person: string,
	key: string,
	count: number,
	tone: Tone = DEFAULT_TONE
): Promise<{ source: string; ids: string[] }> {
	const { id: source } = await addSource(db, {
		packetId: packet,
		uploadId: key,
		name: 'pile.pdf',
		sha256: Buffer.from(key.replaceAll('-', '').padEnd(32, '-')).toString('hex'),
		bytes: 1000,
		batch: 0,
		place: 0
	});
	await acceptSource(db, source, { type: 'pdf', pictures: count, takenAt: null });
	const pages = Array.from({ length: count }, (_, i): Page => ({
		id: `p${i}`,
		source,
		sourcePage: i,
		corners: null,
		turn: null,
		tone: { ...tone, inkWeight: 0.001 * i }
	}));
	await command(db, packet, person, null, {
		kind: 'machine',
		change: { kind: 'addPages', pages, at: 0 }
	});
	return { source, ids: pages.map((p) => p.id) };
}
