import { rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { PACKET_LIMITS } from '../../../core/packet/limits';
import { packetChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import type { Database } from '../../store/database';
import { command, packetById } from '../../store/packets';
import {
	acceptSource,
	addSource,
	heldBy,
	refuseSource,
	sourceById,
	sourceByKey,
	type SourceRow,
	sourcesOf
} from '../../store/sources';
import { whyFull } from '../../settings/storageLimits';
import { placeSource } from '../placeSource';
import type { Handler, Jobs } from '../kinds';
import { noteTrouble } from './troubles';

/** Finds out what a file is, and adds its pages to the packet. */
export const takeIn = (services: Services): Handler<'take-in'> => ({
	run: ({ sourceId }) => take(services, sourceId),
	failed: (data, problem) => giveUp(services, data, problem)
});

async function take(services: Services, sourceId: string): Promise<void> {
	const { db, vault, pool, reads } = services;
	const source = await sourceById(db, sourceId);
	if (!source || source.state === 'refused' || source.state === 'repeat') return;
	if (reads) pool.expectReading();
	const refuse = async (problem: string) => {
		await refuseSource(db, source.id, problem);
		packetChanged(source.packetId);
	};
	const contents = await pool.run('takeIn', { path: vault.pathOf(source.sha256) });
	if (!contents.ok) return refuse(contents.problem);
	if (contents.type === 'zip') return takeInZip(services, source);
	const there = (await packetById(db, source.packetId))!.state;
	if (Object.keys(there.pages).length + contents.pictures > PACKET_LIMITS.pages) {
		return refuse(`A packet holds at most ${PACKET_LIMITS.pages} pages; this file would make it more.`);
	}
	await acceptSource(db, source.id, contents);
	const replaced = source.replaces === null ? null : await replacedPage(db, source);
	const others = await sourcesOf(db, source.packetId);
	const kind = replaced ? 'edit' : 'machine';
	await command(db, source.packetId, source.broughtBy, null, {
		kind,
		change: (packet) => placeSource(packet, source, contents.pictures, others, replaced)
	});
	packetChanged(source.packetId);
	await services.pages.ensure(source.packetId);
}

async function giveUp(services: Services, data: Jobs['take-in'], problem: string): Promise<void> {
	const source = await sourceById(services.db, data.sourceId);
	if (!source || source.state !== 'waiting') return;
	await refuseSource(services.db, source.id, `This file could not be taken in. ${problem}`);
	await noteTrouble(services, source.packetId, 'take-in', data, problem);
}

/** Every file of a ZIP becomes a source of its own, in the ZIP's place; the ZIP itself is kept as it came. */
async function takeInZip(services: Services, zip: SourceRow): Promise<void> {
	const { db, vault, pool, derived, queue } = services;
	const { packetId } = zip;
	const folder = join(derived, `unpacked-${zip.id}`);
	try {
		const unpacked = await pool.run('unpack', { path: vault.pathOf(zip.sha256), folder });
		if (!unpacked.ok) {
			await refuseSource(db, zip.id, unpacked.problem);
			packetChanged(zip.packetId);
			return;
		}
		const held = await heldBy(db, packetId, zip.broughtBy ?? zip.id);
		const sizes = await Promise.all(unpacked.files.map(async ({ path }) => (await stat(path)).size));
		const bytes = sizes.reduce((sum, size) => sum + size, 0);
		const full = whyFull(services.limits, held, { files: sizes.length, bytes });
		if (full) {
			await refuseSource(db, zip.id, full);
			packetChanged(packetId);
			return;
		}
		for (const [i, file] of unpacked.files.entries()) {
			const kept = await vault.put(file.path);
			const { id } = await addSource(db, {
				...kept,
				packetId,
				uploadId: `${zip.id}/${i}`,
				name: file.name,
				batch: zip.batch,
				place: zip.place + (i + 1) / (unpacked.files.length + 2),
				afterPage: zip.afterPage,
				replaces: i === 0 ? zip.replaces : null,
				broughtBy: zip.broughtBy,
				phoneLinkId: zip.phoneLinkId
			});
			await queue.add('take-in', { sourceId: id }, { packetId });
		}
		await acceptSource(db, zip.id, { type: 'zip', pictures: 0, takenAt: null });
	} finally {
		await rm(folder, { recursive: true, force: true });
	}
	packetChanged(zip.packetId);
}

/**
 * The page whose picture a source takes the place of. A phone may replace what came through its own link, nothing else.
 * A file that replaces one that replaced another leads to that one's page; a chain ends where it meets itself.
 */
async function replacedPage(db: Database, source: SourceRow): Promise<string | null> {
	const packet = (await packetById(db, source.packetId))!.state;
	const seen = new Set([source.id]);
	let { replaces } = source;
	while (replaces !== null) {
		if (!replaces.startsWith('key:')) return source.phoneLinkId === null ? replaces : null;
		const other = await sourceByKey(db, source.packetId, replaces.slice(4));
		if (!other || other.phoneLinkId !== source.phoneLinkId || seen.has(other.id)) return null;
		seen.add(other.id);
		const page = Object.values(packet.pages).find((p) => p.source === other.id);
		if (page) return page.id;
		if (other.state === 'waiting') throw new Error(`The source ${other.id} has not been taken in yet.`);
		// It was itself taken again: the page is the one it took the place of.
		({ replaces } = other);
	}
	return null;
}
