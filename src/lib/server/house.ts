import { mkdir } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { Folder } from './delivery/folder';
import { Mail } from './delivery/mail';
import { Portal } from './delivery/portal';
import type { Target } from './delivery/target';
import { isTooLarge } from '../core/rules/rule/fileSize';
import { packetPages } from './packetView';
import { assignmentById } from './store/assignments';
import type { Database } from './store/database';
import { openDeliveries, type TargetName } from './store/deliveries';
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
	/** Ways to hand in; null where one is not set up. The portal always is. */
	readonly targets: Readonly<Record<TargetName, Target | null>> & { readonly portal: Portal };
	/** Whether pages are read; without it a small machine has it easier, and order and map are set by hand. */
	readonly reads: boolean;
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
	const reads = environment.MEMBRANA_READER !== 'off';

	const house: House = {
		db,
		vault: new Vault(join(folder, 'vault')),
		pool,
		queue,
		reads,
		targets: targetsIn(environment),
		derived,
		get uploads() {
			return uploads;
		},
		async ensurePrepared(packetId, first) {
			const packet = await packetById(db, packetId);
			if (!packet) return;
			const sheet = (await assignmentById(db, packet.assignmentId))!.ruleSheet;
			const { pages } = await packetPages(db, packet, sheet);
			const ask = async <Name extends 'prepare-page' | 'read-page' | 'weigh-page'>(
				name: Name,
				pageId: string,
				key: string,
				once = key
			) => {
				if (asked.has(once)) return;
				asked.add(once);
				const priority = pageId === first ? 10 : packet.state.strip.includes(pageId) ? 5 : 0;
				await queue.add(name, { packetId, pageId, key } as Jobs[Name], { priority });
			};
			const tooLarge = isTooLarge({ sheet, packet: packet.state, evidence: pages });
			for (const known of Object.values(pages)) {
				const { page, key, readingKey, picture, prepared, problem, reading, weights } = known;
				if (problem) continue;
				// The same picture in another packet has been prepared there, but is not known here.
				if (!prepared || !picture) await ask('prepare-page', page.id, key);
				// Before a page is read it has to be known which way is up.
				else if (reads && !reading && picture.readTurn) await ask('read-page', page.id, readingKey);
				if (prepared && picture && !weights && (page.encoding || tooLarge)) {
					await ask('weigh-page', page.id, key, `weigh ${key}`);
				}
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

function targetsIn(environment: NodeJS.ProcessEnv) {
	const { MEMBRANA_PORTAL, MEMBRANA_SMTP, MEMBRANA_MAIL_FROM, MEMBRANA_HAND_IN_FOLDER } = environment;
	return {
		portal: new Portal(MEMBRANA_PORTAL ?? 'http://127.0.0.1:4180'),
		mail: MEMBRANA_SMTP ? new Mail(MEMBRANA_SMTP, MEMBRANA_MAIL_FROM ?? 'membrana@localhost') : null,
		folder: MEMBRANA_HAND_IN_FOLDER ? new Folder(resolve(MEMBRANA_HAND_IN_FOLDER)) : null
	};
}

/** Finds what was acknowledged but not finished when the process last ended, and asks for it. */
async function takeUpAgain(house: House): Promise<void> {
	const { db, queue } = house;
	await house.uploads.settleAll();
	for (const { id } of await db.query<{ id: string }>(`select id from source where state = 'waiting'`)) {
		await queue.add('take-in', { sourceId: id });
	}
	if (house.reads) {
		for (const picture of await unreadPictures(db)) await queue.add('read-picture', picture);
	}
	for (const { id } of await db.query<{ id: string }>(`select id from file where state = 'making'`)) {
		await queue.add('make-file', { fileId: id });
	}
	for (const deliveryId of await openDeliveries(db)) await queue.add('deliver', { deliveryId });
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
