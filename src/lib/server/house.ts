import { mkdir } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { Portal } from './delivery/portal';
import { packetPages } from './packetView';
import { assignmentById } from './store/assignments';
import type { Database } from './store/database';
import { lockFolder } from './store/lockFolder';
import { migrate } from './store/migrate';
import { packetById } from './store/packets';
import { openPGlite } from './store/pglite';
import { openPostgres } from './store/postgres';
import { unreadPictures } from './store/sources';
import { Uploads } from './vault/uploads';
import { Vault } from './vault/vault';
import { handlers } from './work/handlers';
import { Pool } from './work/pool';
import { Queue, type Jobs } from './work/queue';

/** Everything the server is made of, opened once. */
export interface House {
	readonly db: Database;
	readonly vault: Vault;
	readonly pool: Pool;
	readonly queue: Queue;
	readonly uploads: Uploads;
	readonly portal: Portal;
	/** Folder of pictures that can be made again. */
	readonly derived: string;
	/** Asks for every page of a packet that has not been prepared with its present settings, or not been read. */
	ensurePrepared(packetId: string, first?: string): Promise<void>;
	forgetAsked(key: string): void;
	close(): Promise<void>;
}

/** Opens the data folder and starts the queue. */
export async function openHouse(environment: NodeJS.ProcessEnv = process.env): Promise<House> {
	const folder = resolve(environment.MEMBRANA_DATA ?? 'data');
	const unlock = await lockFolder(folder);
	const sole = !environment.DATABASE_URL;
	const db = sole ? await openPGlite(join(folder, 'database')) : openPostgres(environment.DATABASE_URL!);
	await migrate(db);
	const asked = new Set<string>();
	const derived = join(folder, 'derived');
	const uploadFolder = join(folder, 'uploads');
	await mkdir(uploadFolder, { recursive: true });
	await mkdir(derived, { recursive: true });
	const pool = new Pool();
	const queue = new Queue(db);

	const house: House = {
		db,
		vault: new Vault(join(folder, 'vault')),
		pool,
		queue,
		portal: new Portal(environment.MEMBRANA_PORTAL ?? 'http://127.0.0.1:4180'),
		derived,
		get uploads() {
			return uploads;
		},
		async ensurePrepared(packetId, first) {
			const packet = await packetById(db, packetId);
			if (!packet) return;
			const sheet = (await assignmentById(db, packet.assignmentId))!.ruleSheet;
			const { pages } = await packetPages(db, packet, sheet);
			const ask = async <Name extends 'prepare-page' | 'read-page'>(
				name: Name,
				pageId: string,
				key: string
			) => {
				if (asked.has(key)) return;
				asked.add(key);
				const priority = pageId === first ? 10 : packet.state.strip.includes(pageId) ? 5 : 0;
				await queue.add(name, { packetId, pageId, key } as Jobs[Name], { priority });
			};
			for (const { page, key, readingKey, picture, prepared, problem, reading } of Object.values(pages)) {
				if (problem) continue;
				// The same picture in another packet has been prepared there, but is not known here.
				if (!prepared || !picture) await ask('prepare-page', page.id, key);
				// Before a page is read it has to be known which way is up.
				else if (!reading && picture.readTurn) await ask('read-page', page.id, readingKey);
			}
		},
		forgetAsked: (key) => asked.delete(key),
		async close() {
			await queue.stop();
			await pool.close();
			await db.close();
			await unlock();
		}
	};
	const uploads = new Uploads(house, uploadFolder);
	await queue.start(db, handlers(house), sole);
	await takeUpAgain(house);
	return house;
}

/** Finds what was acknowledged but not finished when the process last ended, and asks for it. */
async function takeUpAgain(house: House): Promise<void> {
	const { db, queue } = house;
	await house.uploads.settleAll();
	for (const { id } of await db.query<{ id: string }>(`select id from source where state = 'waiting'`)) {
		await queue.add('take-in', { sourceId: id });
	}
	for (const picture of await unreadPictures(db)) await queue.add('read-picture', picture);
	for (const { id } of await db.query<{ id: string }>(`select id from file where state = 'making'`)) {
		await queue.add('make-file', { fileId: id });
	}
	const open = await db.query<{ id: string }>(
		`select id from delivery where state in ('sending', 'recalling')`
	);
	for (const { id } of open) await queue.add('deliver', { deliveryId: id });
	for (const { id } of await db.query<{ id: string }>('select id from packet'))
		await house.ensurePrepared(id);
}

let opened: Promise<House> | null = null;

/** The one house of this process. */
export function house(): Promise<House> {
	opened ??= openHouse();
	return opened;
}

export function closeHouse(): Promise<void> {
	const closing = opened?.then((h) => h.close()) ?? Promise.resolve();
	opened = null;
	return closing;
}
