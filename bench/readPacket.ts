import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { PageReading } from '../src/lib/core/reading/pageReading';
import { nameOnPage, otherThan, type NameReading } from '../src/lib/core/reading/personName';
import { DEFAULT_TONE } from '../src/lib/core/tone/tone';
import { pagesOfPicture, type WholePage } from '../src/lib/server/work/wholePicture';
import { personOf, type SamplePacket } from './packets';
import { packetShots, type PacketShot } from './packetShots';

/** A photographed page as it was prepared and read, with the truth about it. */
export interface ReadPage extends WholePage {
	readonly reading: PageReading;
	readonly shot: PacketShot;
	readonly name: NameReading | null;
}

/** What the order is proposed from. */
export function known(
	{
		facts,
		reading,
		name,
		shot
	}: Pick<ReadPage, 'facts' | 'reading' | 'name'> & { readonly shot: Pick<PacketShot, 'fileName'> },
	packet: SamplePacket
) {
	return {
		prepared: facts,
		reading,
		name,
		otherPerson: otherThan(personOf(packet.person), name),
		sourceName: shot.fileName,
		takenAt: null
	};
}

/** Photographs, prepares and reads every page of a packet. */
export async function readPacket(packet: SamplePacket, seed: number): Promise<ReadPage[]> {
	const folder = mkdtempSync(join(tmpdir(), 'membrana-packet-'));
	const roster = packet.roster.map(personOf);
	const tone = { ...DEFAULT_TONE, name: 'greyscale' } as const;
	try {
		const pages: ReadPage[] = [];
		for (const shot of await packetShots(packet, seed)) {
			const path = join(folder, shot.fileName);
			writeFileSync(path, shot.jpeg);
			const picture = { id: shot.fileName, source: shot.fileName, sourcePage: 0 };
			const { questions } = packet.sheet;
			const made = await pagesOfPicture({
				path,
				type: 'jpeg',
				picture,
				tone,
				questions,
				paper: 'A4',
				reading: true,
				images: false
			});
			for (const { reading, ...page } of made) {
				pages.push({ ...page, reading: reading!, shot, name: nameOnPage(reading!, roster) });
			}
		}
		return pages;
	} finally {
		rmSync(folder, { recursive: true });
	}
}
