import { manifestOf, type Manifest } from '../../core/packet/manifest';
import { readNumber } from '../../core/reading/pageNumber';
import { turnOf } from '../../core/page/effective';
import type { PacketAccess } from '../access/access';
import { checkPacket } from './checkPacket';
import type { Database } from '../store/database';
import type { FileRow } from '../store/deliveries';

/** The manifest of a file that was made of the packet as it stands. */
export async function fileManifest(db: Database, access: PacketAccess, file: FileRow): Promise<Manifest> {
	const { findings, pages } = await checkPacket(db, access, file.type);
	return manifestOf({
		file: { name: `${file.name}.${file.type}`, bytes: file.bytes!, sha256: file.sha256! },
		packet: access.packet.state,
		findings,
		page: (id) => {
			const { page, picture, prepared, reading, sourceName } = pages[id]!;
			const read = readNumber(reading?.numbers ?? []);
			const number =
				page.number === undefined
					? read && { number: read.number, of: read.of, confidence: read.probability }
					: page.number && { number: page.number, of: null, confidence: 1 };
			return {
				source: sourceName,
				sourcePage: page.sourcePage,
				...(page.half === undefined ? {} : { half: page.half }),
				turn: picture ? turnOf(page, picture) : 0,
				legibility: prepared?.legibility ?? { score: 0, verdict: 'unreadable', reasons: [] },
				pageNumber: number || null,
				lines: reading?.lines ?? null
			};
		}
	});
}
