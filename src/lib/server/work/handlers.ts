import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { bookmarksOf } from '../../core/mapping/bookmarks';
import { usualTone } from '../../core/tone/usualTone';
import { attemptDelivery } from '../delivery/deliver';
import { packetChanged } from '../events/packetEvents';
import type { House } from '../house';
import { packetPages } from '../packetView';
import { assignmentById } from '../store/assignments';
import type { Database } from '../store/database';
import { deliveryById, failFile, fileById, finishFile } from '../store/deliveries';
import { command, packetById } from '../store/packets';
import { personById } from '../store/people';
import { addPrepared } from '../store/prepared';
import { addWeights } from '../store/weights';
import { addReading } from '../store/readings';
import {
	acceptSource,
	addSource,
	pictureAt,
	refuseSource,
	setPictureFacts,
	setPictureProblem,
	sourceById,
	sourceByKey,
	sourcesOf,
	type SourceRow
} from '../store/sources';
import { preparedPaths, previewPath } from './derived';
import { placeSource } from './placeSource';
import { splitSpread } from './splitSpread';
import type { Handlers } from './queue';

/** What is done for each kind of job. All of them may be begun again from the start at any time. */
export function handlers(house: House): Handlers {
	return {
		'take-in': ({ sourceId }) => takeIn(house, sourceId),
		'prepare-page': ({ packetId, pageId, key }) => preparePage(house, packetId, pageId, key),
		'read-picture': ({ packetId, sourceId, index }) => readPicture(house, packetId, sourceId, index),
		'read-page': ({ packetId, pageId, key }) => readPage(house, packetId, pageId, key),
		'weigh-page': ({ packetId, pageId, key }) => weighPage(house, packetId, pageId, key),
		'make-file': ({ fileId }) => makeFile(house, fileId),
		deliver: ({ deliveryId }) => deliver(house, deliveryId)
	};
}

async function takeIn(house: House, sourceId: string): Promise<void> {
	const { db, vault, pool } = house;
	const source = await sourceById(db, sourceId);
	if (!source || source.state === 'refused' || source.state === 'repeat') return;
	const contents = await pool.run('takeIn', { path: vault.pathOf(source.sha256) });
	if (!contents.ok) {
		await refuseSource(db, source.id, contents.problem);
		packetChanged(source.packetId);
		return;
	}
	if (contents.type === 'zip') return takeInZip(house, source);
	await acceptSource(db, source.id, contents);
	const replaced = source.replaces === null ? null : await replacedPage(db, source, source.replaces);
	const others = await sourcesOf(db, source.packetId);
	const kind = replaced ? 'edit' : 'machine';
	await command(db, source.packetId, source.broughtBy, null, {
		kind,
		change: (packet) => placeSource(packet, source, contents.pictures, others, replaced)
	});
	packetChanged(source.packetId);
	await house.ensurePrepared(source.packetId);
}

/** Every file of a ZIP becomes a source of its own, in the ZIP's place; the ZIP itself is kept as it came. */
async function takeInZip(house: House, zip: SourceRow): Promise<void> {
	const { db, vault, pool, derived, queue } = house;
	const folder = join(derived, `unpacked-${zip.id}`);
	try {
		const unpacked = await pool.run('unpack', { path: vault.pathOf(zip.sha256), folder });
		if (!unpacked.ok) {
			await refuseSource(db, zip.id, unpacked.problem);
			packetChanged(zip.packetId);
			return;
		}
		for (const [i, file] of unpacked.files.entries()) {
			const kept = await vault.put(file.path);
			const { id } = await addSource(db, {
				...kept,
				packetId: zip.packetId,
				uploadId: `${zip.id}/${i}`,
				name: file.name,
				batch: zip.batch,
				place: zip.place + (i + 1) / (unpacked.files.length + 2),
				afterPage: zip.afterPage,
				replaces: i === 0 ? zip.replaces : null,
				broughtBy: zip.broughtBy,
				phoneLinkId: zip.phoneLinkId
			});
			await queue.add('take-in', { sourceId: id });
		}
		await acceptSource(db, zip.id, { type: 'zip', pictures: 0, takenAt: null });
	} finally {
		await rm(folder, { recursive: true, force: true });
	}
	packetChanged(zip.packetId);
}

/**
 * The page whose picture a source takes the place of. A phone may replace what came through its own link,
 * nothing else.
 */
async function replacedPage(db: Database, source: SourceRow, replaces: string): Promise<string | null> {
	if (!replaces.startsWith('key:')) return source.phoneLinkId === null ? replaces : null;
	const other = await sourceByKey(db, source.packetId, replaces.slice(4));
	if (!other || other.phoneLinkId !== source.phoneLinkId) return null;
	const packet = (await packetById(db, source.packetId))!.state;
	const page = Object.values(packet.pages).find((p) => p.source === other.id);
	if (page) return page.id;
	// It was itself taken again: the page is the one it took the place of.
	if (other.replaces !== null && other.state !== 'waiting') return replacedPage(db, source, other.replaces);
	if (other.state === 'waiting') throw new Error(`The source ${other.id} has not been taken in yet.`);
	return null;
}

/** A page with what is known of it and what is asked of it; null when it is not there any more. */
async function pageInPacket(db: Database, packetId: string, pageId: string) {
	const packet = await packetById(db, packetId);
	if (!packet) return null;
	const sheet = (await assignmentById(db, packet.assignmentId))!.ruleSheet;
	const { pages } = await packetPages(db, packet, sheet);
	const known = pages[pageId];
	return known ? { known, sheet } : null;
}

async function preparePage(house: House, packetId: string, pageId: string, key: string): Promise<void> {
	const { db, vault, pool, derived } = house;
	try {
		const { known, sheet } = (await pageInPacket(db, packetId, pageId)) ?? {};
		// Settings have moved on, or another job was faster: nothing to do.
		if (!known || !sheet || known.key !== key || !known.source.type) return;
		if (known.prepared && known.picture) return;
		const tone = known.page.tone ?? usualTone(sheet);
		const result = await pool.run('prepare', {
			path: vault.pathOf(known.source.sha256),
			type: known.source.type,
			page: known.page,
			facts: known.picture,
			usualTone: tone,
			expectedPaper: sheet.pages?.size,
			preview: previewPath(derived, known.source.sha256, known.page.sourcePage),
			paths: preparedPaths(derived, key, tone)
		});
		const { source, sourcePage } = known.page;
		if (result.ok) {
			if (!known.picture) {
				await setPictureFacts(db, source, sourcePage, result.picture);
				if (house.reads) {
					await house.queue.add('read-picture', { packetId, sourceId: source, index: sourcePage });
				}
			}
			await addPrepared(db, { key, facts: result.facts, bytes: result.bytes });
		} else await setPictureProblem(db, source, sourcePage, result.problem);
	} finally {
		house.forgetAsked(key);
	}
	packetChanged(packetId);
	await house.ensurePrepared(packetId);
}

/** Reads a picture once its page is shown. What was prepared lying wrong is prepared anew. */
async function readPicture(house: House, packetId: string, sourceId: string, index: number): Promise<void> {
	const { db, vault, pool } = house;
	const source = await sourceById(db, sourceId);
	const picture = source && (await pictureAt(db, sourceId, index));
	if (!source?.type || !picture?.facts || picture.facts.readTurn) return;
	const result = await pool.run('read', {
		path: vault.pathOf(source.sha256),
		type: source.type,
		sourcePage: index,
		corners: picture.facts.spread?.halves[0] ?? picture.facts.outline.corners
	});
	if (!result.ok) return;
	const facts = { ...picture.facts, readTurn: result.turn };
	await setPictureFacts(db, sourceId, index, facts);
	if (facts.spread) {
		await command(db, packetId, source.broughtBy, null, {
			kind: 'machine',
			change: (packet) => splitSpread(packet, sourceId, index, facts)
		});
	}
	packetChanged(packetId);
	await house.ensurePrepared(packetId);
}

/** Reads a page that is shown already: its text, labels and number. A page that cannot be read stays unread. */
async function readPage(house: House, packetId: string, pageId: string, key: string): Promise<void> {
	const { db, pool, derived } = house;
	try {
		const { known, sheet } = (await pageInPacket(db, packetId, pageId)) ?? {};
		if (!known?.prepared || !sheet || known.readingKey !== key || known.reading) return;
		const { view } = preparedPaths(derived, known.key, known.page.tone ?? usualTone(sheet));
		const { dotsPerInch } = known.prepared;
		await addReading(db, key, await pool.run('readText', { view, dotsPerInch, questions: sheet.questions }));
	} finally {
		house.forgetAsked(key);
	}
	packetChanged(packetId);
}

/** Weighs the ways to keep a page in the file, because the file is too large as it is. */
async function weighPage(house: House, packetId: string, pageId: string, key: string): Promise<void> {
	const { db, vault, pool, derived } = house;
	try {
		const { known, sheet } = (await pageInPacket(db, packetId, pageId)) ?? {};
		if (!known?.prepared || !known.picture || !sheet || known.key !== key || known.weights) return;
		const tone = known.page.tone ?? usualTone(sheet);
		const result = await pool.run('weigh', {
			path: vault.pathOf(known.source.sha256),
			type: known.source.type!,
			page: known.page,
			facts: known.picture,
			prepared: known.prepared,
			bytes: known.bytes!,
			tone,
			tones: sheet.tone,
			expectedPaper: sheet.pages?.size,
			view: preparedPaths(derived, key, tone).view
		});
		if (result.ok) await addWeights(db, key, sheet.tone, result.weights);
	} finally {
		house.forgetAsked(`weigh ${key}`);
	}
	packetChanged(packetId);
}

async function makeFile(house: House, fileId: string): Promise<void> {
	const { db, pool, vault, derived } = house;
	const file = await fileById(db, fileId);
	if (!file || file.state !== 'making') return;
	const packet = await packetById(db, file.packetId);
	if (!packet) return;
	const fail = async (problem: string) => {
		await failFile(db, fileId, problem);
		packetChanged(file.packetId);
	};
	if (packet.version !== file.packetVersion) {
		return fail('The packet was changed while its file was being made. Make it again.');
	}
	const assignment = (await assignmentById(db, packet.assignmentId))!;
	const owner = (await personById(db, packet.personId))!;
	const { pages } = await packetPages(db, packet, assignment.ruleSheet);
	const usual = usualTone(assignment.ruleSheet);
	const strip = packet.state.strip.map((id) => pages[id]!);
	const waiting = strip.findIndex((p) => !p.prepared);
	if (waiting >= 0) return fail(`Page ${waiting + 1} is not ready yet. Wait a moment and try again.`);
	const out = join(derived, `${fileId}.made`);
	const made = await pool.run('makeFile', {
		type: file.type,
		out,
		name: file.name,
		title: `${assignment.ruleSheet.title}, ${owner.given} ${owner.family}`,
		author: `${owner.given} ${owner.family}`,
		subject: `${assignment.courseCode} ${assignment.courseTitle}`,
		created: new Date().toISOString(),
		bookmarks: bookmarksOf(packet.state),
		pages: strip.map(({ page, key, prepared, reading }) => {
			const tone = page.tone ?? usual;
			const paths = preparedPaths(derived, key, tone);
			return {
				image: paths.image,
				view: paths.view,
				tone: tone.name,
				width: prepared!.width,
				height: prepared!.height,
				dotsPerInch: prepared!.dotsPerInch,
				encoding: page.encoding,
				text: reading?.lines ?? []
			};
		})
	});
	const kept = await vault.put(out);
	await rm(out, { force: true });
	if (kept.sha256 !== made.sha256) throw new Error('The file changed between making and keeping it.');
	await finishFile(db, fileId, { ...made, pages: strip.length });
	packetChanged(file.packetId);
}

async function deliver(house: House, deliveryId: string): Promise<void> {
	const again = await attemptDelivery(house, deliveryId);
	if (again !== null) await house.queue.add('deliver', { deliveryId }, { afterSeconds: again, priority: 10 });
	const delivery = await deliveryById(house.db, deliveryId);
	if (delivery) packetChanged(delivery.packetId);
}
