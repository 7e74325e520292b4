import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { bookmarksOf } from '../../core/mapping/bookmarks';
import { PACKET_LIMITS } from '../../core/packet/limits';
import { usualTone } from '../../core/tone/usualTone';
import { attemptDelivery } from '../delivery/deliver';
import { packetChanged } from '../events/packetEvents';
import type { House } from '../house';
import { namesOn, packetPages } from '../packetView';
import { assignmentById } from '../store/assignments';
import type { Database } from '../store/database';
import { studentsOf } from '../store/courses';
import { deliveryById, failFile, fileById, finishFile, isOpen } from '../store/deliveries';
import { addNames, rosterKey } from '../store/pageNames';
import { command, packetById } from '../store/packets';
import { personById } from '../store/people';
import { addPrepared } from '../store/prepared';
import { addWeights } from '../store/weights';
import { addReading } from '../store/readings';
import { addTrouble, removeTrouble, type TroubleRow } from '../store/troubles';
import {
	acceptSource,
	addSource,
	heldBy,
	pictureAt,
	refuseSource,
	setPictureFacts,
	setPictureProblem,
	sourceById,
	sourceByKey,
	sourcesOf,
	waitAgain,
	type SourceRow
} from '../store/sources';
import { preparedPaths, previewPath } from './derived';
import { placeSource } from './placeSource';
import { splitSpread } from './splitSpread';
import { PRIORITY, type Handlers, type JobName, type Jobs } from './queue';

/** What is done for each kind of job. All of them may be begun again from the start at any time. */
export function handlers(house: House): Handlers {
	const deliveries = {
		run: ({ deliveryId }: { deliveryId: string }) => deliver(house, deliveryId),
		failed: ({ deliveryId }: { deliveryId: string }) => tryLater(house, deliveryId)
	};
	return {
		'take-in': {
			run: ({ sourceId }) => takeIn(house, sourceId),
			failed: (data, problem) => takeInFailed(house, data, problem)
		},
		'prepare-page': {
			run: (data) => preparePage(house, data),
			failed: (data, problem) => prepareFailed(house, data, problem)
		},
		'read-picture': {
			run: (data) => readPicture(house, data),
			failed: (data, problem) => readPictureFailed(house, data, problem)
		},
		'read-page': {
			run: (data) => readPage(house, data),
			failed: (data, problem) => noteTrouble(house, data.packetId, 'read-page', data, problem)
		},
		'match-names': {
			run: ({ packetId }) => matchNames(house, packetId),
			failed: (data, problem) => noteTrouble(house, data.packetId, 'match-names', data, problem)
		},
		'weigh-page': {
			run: (data) => weighPage(house, data),
			failed: (data, problem) => noteTrouble(house, data.packetId, 'weigh-page', data, problem)
		},
		'make-file': {
			run: ({ fileId }) => makeFile(house, fileId),
			failed: ({ fileId }, problem) => makeFileFailed(house, fileId, problem)
		},
		'deliver-portal': deliveries,
		'deliver-mail': deliveries,
		'deliver-folder': deliveries
	};
}

/** Asks again for a job that failed for good, as if it never had. */
export async function tryAgain(house: House, trouble: TroubleRow): Promise<void> {
	const { db, queue, pages } = house;
	const { job, data, packetId } = trouble;
	if ('sourceId' in data && job === 'take-in') await waitAgain(db, data.sourceId);
	if ('pageId' in data && job === 'prepare-page' && packetId) {
		const page = (await packetById(db, packetId))?.state.pages[data.pageId];
		if (page) await setPictureProblem(db, page.source, page.sourcePage, null);
	}
	await removeTrouble(db, trouble.id);
	await queue.add(job, data, { priority: PRIORITY.looked, ...(packetId ? { packetId } : {}) });
	if (!packetId) return;
	packetChanged(packetId);
	await pages.ensure(packetId);
}

/** Keeps a failure where the person looks, with what to try again. */
async function noteTrouble<Name extends JobName>(
	{ db }: House,
	packetId: string,
	job: Name,
	data: Jobs[Name],
	problem: string
): Promise<void> {
	await addTrouble(db, packetId, job, data, problem);
	packetChanged(packetId);
}

async function takeIn(house: House, sourceId: string): Promise<void> {
	const { db, vault, pool } = house;
	const source = await sourceById(db, sourceId);
	if (!source || source.state === 'refused' || source.state === 'repeat') return;
	const refuse = async (problem: string) => {
		await refuseSource(db, source.id, problem);
		packetChanged(source.packetId);
	};
	const contents = await pool.run('takeIn', { path: vault.pathOf(source.sha256) });
	if (!contents.ok) return refuse(contents.problem);
	if (contents.type === 'zip') return takeInZip(house, source);
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
	await house.pages.ensure(source.packetId);
}

async function takeInFailed(house: House, data: Jobs['take-in'], problem: string): Promise<void> {
	const source = await sourceById(house.db, data.sourceId);
	if (!source || source.state !== 'waiting') return;
	await refuseSource(house.db, source.id, `This file could not be taken in. ${problem}`);
	await noteTrouble(house, source.packetId, 'take-in', data, problem);
}

/** Every file of a ZIP becomes a source of its own, in the ZIP's place; the ZIP itself is kept as it came. */
async function takeInZip(house: House, zip: SourceRow): Promise<void> {
	const { db, vault, pool, derived, queue } = house;
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
		if (held.packetFiles + unpacked.files.length > house.holds.packetFiles) {
			await refuseSource(db, zip.id, `A packet takes at most ${house.holds.packetFiles} files in.`);
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

/** A page with what is known of it and what is asked of it; null when it is not there any more. */
async function pageInPacket(db: Database, packetId: string, pageId: string) {
	const packet = await packetById(db, packetId);
	if (!packet) return null;
	const sheet = (await assignmentById(db, packet.assignmentId))!.ruleSheet;
	const { pages } = await packetPages(db, packet, sheet, pageId);
	const known = pages[pageId];
	return known ? { known, sheet } : null;
}

async function preparePage(house: House, { packetId, pageId, key }: Jobs['prepare-page']): Promise<void> {
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
					const reading = { packetId, sourceId: source, index: sourcePage };
					await house.queue.add('read-picture', reading, { packetId });
				}
			}
			await addPrepared(db, { key, facts: result.facts, bytes: result.bytes });
		} else await setPictureProblem(db, source, sourcePage, result.problem);
	} finally {
		house.pages.forget('prepare-page', key);
	}
	packetChanged(packetId);
	await house.pages.ensure(packetId);
}

async function prepareFailed(house: House, data: Jobs['prepare-page'], problem: string): Promise<void> {
	const { db } = house;
	const { packetId, pageId, key } = data;
	const { known } = (await pageInPacket(db, packetId, pageId)) ?? {};
	if (!known || known.key !== key || known.prepared) return;
	await setPictureProblem(
		db,
		known.page.source,
		known.page.sourcePage,
		`This page could not be prepared. ${problem}`
	);
	await noteTrouble(house, packetId, 'prepare-page', data, problem);
}

/** Reads a picture once its page is shown. What was prepared lying wrong is prepared anew. */
async function readPicture(house: House, { packetId, sourceId, index }: Jobs['read-picture']): Promise<void> {
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
	await house.pages.ensure(packetId);
}

/** Without reading, the layout's guess stands, and nobody waits for a better one. */
async function readPictureFailed(house: House, data: Jobs['read-picture'], problem: string): Promise<void> {
	const { db } = house;
	const { packetId, sourceId, index } = data;
	const facts = (await pictureAt(db, sourceId, index))?.facts;
	if (!facts) return;
	await setPictureFacts(db, sourceId, index, { ...facts, readTurn: { ...facts.turn, confidence: 0 } });
	await noteTrouble(house, packetId, 'read-picture', data, problem);
	await house.pages.ensure(packetId);
}

/** Reads a page that is shown already: its text, labels and number. A page that cannot be read stays unread. */
async function readPage(house: House, { packetId, pageId, key }: Jobs['read-page']): Promise<void> {
	const { db, pool, derived } = house;
	try {
		const { known, sheet } = (await pageInPacket(db, packetId, pageId)) ?? {};
		if (!known?.prepared || !sheet || known.readingKey !== key || known.reading) return;
		const { view } = preparedPaths(derived, known.key, known.page.tone ?? usualTone(sheet));
		const { dotsPerInch } = known.prepared;
		await addReading(db, key, await pool.run('readText', { view, dotsPerInch, questions: sheet.questions }));
	} finally {
		house.pages.forget('read-page', key);
	}
	packetChanged(packetId);
	await house.pages.ensure(packetId);
}

/** Matches the names on a packet's pages to the roster, and keeps what came of it for as long as neither changes. */
async function matchNames(house: House, packetId: string): Promise<void> {
	const { db, pool } = house;
	try {
		const packet = await packetById(db, packetId);
		if (!packet) return;
		const { ruleSheet, courseId } = (await assignmentById(db, packet.assignmentId))!;
		const { pages } = await packetPages(db, packet, ruleSheet);
		const key = await rosterKey(db, courseId);
		const there = await namesOn(db, courseId, pages);
		const read = Object.values(pages).flatMap(({ reading, readingKey }) =>
			reading && !there.has(readingKey) ? [{ readingKey, lines: reading.lines }] : []
		);
		if (read.length === 0) return;
		const roster = await studentsOf(db, courseId);
		await addNames(db, key, await pool.run('matchNames', { pages: read, roster }));
	} finally {
		house.pages.forget('match-names', packetId);
	}
	packetChanged(packetId);
}

/** Weighs the ways to keep a page in the file, because the file is too large as it is. */
async function weighPage(house: House, { packetId, pageId, key }: Jobs['weigh-page']): Promise<void> {
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
		house.pages.forget('weigh-page', key);
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

async function makeFileFailed(house: House, fileId: string, problem: string): Promise<void> {
	const file = await fileById(house.db, fileId);
	if (!file || file.state !== 'making') return;
	await failFile(house.db, fileId, `The file could not be made. ${problem} Try again.`);
	packetChanged(file.packetId);
}

async function deliver(house: House, deliveryId: string): Promise<void> {
	const again = await attemptDelivery(house, deliveryId);
	const delivery = await deliveryById(house.db, deliveryId);
	if (!delivery) return;
	if (again !== null) {
		const later = { afterSeconds: again, priority: PRIORITY.waited };
		await house.queue.add(`deliver-${delivery.target}`, { deliveryId }, later);
	}
	packetChanged(delivery.packetId);
}

/** Seconds after which a delivery is tried again whose job failed, which has nothing to do with the other side. */
const AFTER_FAILURE = 60;

async function tryLater({ db, queue }: House, deliveryId: string): Promise<void> {
	const delivery = await deliveryById(db, deliveryId);
	if (!delivery || !(await isOpen(db, deliveryId))) return;
	await queue.add(`deliver-${delivery.target}`, { deliveryId }, { afterSeconds: AFTER_FAILURE });
}
