import { mkdir } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { Folder } from './delivery/folder';
import { Mail } from './delivery/mail';
import { Portal } from './delivery/portal';
import type { Target } from './delivery/target';
import { Signer } from './delivery/signer';
import { connectEvents } from './events/packetEvents';
import type { Database } from './store/database';
import { DatabaseAwayError } from './store/databaseError';
import { openDeliveries, type TargetName } from './store/deliveries';
import { lockFolder } from './store/lockFolder';
import { migrate } from './store/migrate';
import { openPGlite } from './store/pglite';
import { openPostgres } from './store/postgres';
import { referredFiles, unreadPictures } from './store/sources';
import { Disk } from './vault/disk';
import { Uploads } from './vault/uploads';
import { Vault } from './vault/vault';
import { PageAsker } from './work/askForPages';
import { handlers } from './work/handlers';
import { Pool } from './work/pool';
import { Queue } from './work/queue';

/** Everything the server is made of, opened once. */
export interface House {
	readonly db: Database;
	readonly vault: Vault;
	readonly disk: Disk;
	readonly holds: Holds;
	readonly pool: Pool;
	readonly queue: Queue;
	readonly uploads: Uploads;
	/** Asks for what pages lack. */
	readonly pages: PageAsker;
	/** Ways to hand in; null where one is not set up. The portal always is. */
	readonly targets: Readonly<Record<TargetName, Target | null>> & { readonly portal: Portal };
	/** What the server's proofs are signed with. */
	readonly signer: Signer;
	/** Whether pages are read; without it a small machine has it easier, and order and map are set by hand. */
	readonly reads: boolean;
	/** Folder of pictures that can be made again. */
	readonly derived: string;
	close(): Promise<void>;
}

/** What may be brought in. */
export interface Holds {
	/** Bytes of originals in one packet. */
	readonly packetBytes: number;
	/** Files in one packet. */
	readonly packetFiles: number;
	/** Bytes that one person brought in, in all packets. */
	readonly personBytes: number;
}
const HOLDS: Holds = { packetBytes: 2e9, packetFiles: 1_000, personBytes: 20e9 };

/** Opens the data folder and starts the queue. */
export async function openHouse(environment: NodeJS.ProcessEnv = process.env): Promise<House> {
	const folder = resolve(environment.MEMBRANA_DATA ?? 'data');
	const url = environment.DATABASE_URL;
	// On a PostgreSQL server several processes share the folder; the embedded database is one process's alone.
	const unlock = url ? null : await lockFolder(folder);
	const db = url ? openPostgres(url) : await openPGlite(join(folder, 'database'));
	await whenThere(() => migrate(db));
	connectEvents(db.news);
	const derived = join(folder, 'derived');
	const uploadFolder = join(folder, 'uploads');
	await mkdir(uploadFolder, { recursive: true });
	await mkdir(derived, { recursive: true });
	const disk = await Disk.watch(folder, environment.MEMBRANA_RESERVE_MB);
	const pool = new Pool();
	const queue = new Queue(db);
	const reads = environment.MEMBRANA_READER !== 'off';
	const signer = await Signer.inFolder(folder);
	let sweep: NodeJS.Timeout | null = null;
	// The embedded database has nobody who looks how its tables have grown; without, it plans as if they were empty.
	const statistics = url
		? null
		: setInterval(() => void attempt('statistics', () => takeStock(db)), TAKE_STOCK);
	if (!url) await takeStock(db);
	const house: House = {
		db,
		vault: new Vault(join(folder, 'vault')),
		disk,
		holds: HOLDS,
		pool,
		queue,
		reads,
		pages: new PageAsker(db, queue, reads),
		targets: targetsIn(environment, signer),
		signer,
		derived,
		get uploads() {
			return uploads;
		},
		async close() {
			if (sweep) clearInterval(sweep);
			if (statistics) clearInterval(statistics);
			await queue.stop();
			// Ends what the queue's jobs wait for.
			await pool.close();
			await queue.idle();
			disk.close();
			// Whoever lives on in this process hears of changes without a connection that is gone.
			connectEvents(null);
			await db.close();
			await unlock?.();
		}
	};
	const uploads = new Uploads(house, uploadFolder);
	const works = !url || environment.MEMBRANA_JOBS !== 'off';
	await queue.start(works ? handlers(house) : null, () => !disk.isLow());
	if (works) {
		await resumePending(house);
		sweep = setInterval(() => void attempt('sweep', () => askAgain(house)), SWEEP);
	} else await house.uploads.settleAll();
	return house;
}

function targetsIn(environment: NodeJS.ProcessEnv, signer: Signer) {
	const { MEMBRANA_PORTAL, MEMBRANA_SMTP, MEMBRANA_MAIL_FROM, MEMBRANA_HAND_IN_FOLDER } = environment;
	return {
		portal: new Portal(MEMBRANA_PORTAL ?? 'http://127.0.0.1:4180', signer.publicKey),
		mail: MEMBRANA_SMTP ? new Mail(MEMBRANA_SMTP, MEMBRANA_MAIL_FROM ?? 'membrana@localhost') : null,
		folder: MEMBRANA_HAND_IN_FOLDER ? new Folder(resolve(MEMBRANA_HAND_IN_FOLDER)) : null
	};
}

/** Milliseconds between two tries to reach a database at the start, and how many of them. */
const RETRY = 2_000;
const TRIES = 30;

/** Waits for a database that is just being started. */
async function whenThere(work: () => Promise<void>): Promise<void> {
	for (let left = TRIES; ; left--) {
		try {
			return await work();
		} catch (error) {
			if (!(error instanceof DatabaseAwayError) || left === 0) throw error;
			console.error(error.message);
			await new Promise((done) => setTimeout(done, RETRY));
		}
	}
}

/**
 * Finds what was acknowledged but not finished when the process last ended, and asks for it. What cannot be resumed is
 * logged and left, so that one bad row or file never keeps the rest waiting.
 */
async function resumePending(house: House): Promise<void> {
	const { db, queue } = house;
	await attempt('uploads', () => house.uploads.settleAll());
	await attempt('sources', async () => {
		const waiting = await db.query<{ id: string; packetId: string }>(
			`select id, packet_id as "packetId" from source where state = 'waiting'`
		);
		const jobs = waiting.map(({ id, packetId }) => ({ data: { sourceId: id }, packetId }));
		await queue.addAll('take-in', jobs);
	});
	await attempt('pictures', async () => {
		if (!house.reads) return;
		const unread = await unreadPictures(db);
		await queue.addAll(
			'read-picture',
			unread.map((data) => ({ data, packetId: data.packetId }))
		);
	});
	await attempt('files', async () => {
		for (const { id } of await db.query<{ id: string }>(`select id from file where state = 'making'`)) {
			await queue.add('make-file', { fileId: id });
		}
	});
	await attempt('deliveries', async () => {
		for (const { id, target } of await openDeliveries(db)) {
			await queue.add(`deliver-${target}`, { deliveryId: id });
		}
	});
	await attempt('originals', () => reportStrays(house));
	// A packet's pages are asked for one packet after another, beside what people do by then.
	void attempt('pages', async () => {
		for (const { id } of await db.query<{ id: string }>('select id from packet')) {
			await attempt(`packet ${id}`, () => house.pages.ensure(id));
		}
	});
}

/** Milliseconds between two looks at how large the tables of the embedded database are. */
const TAKE_STOCK = 5 * 60_000;

async function takeStock(db: Database): Promise<void> {
	await db.query('analyze');
}

/** Milliseconds between two looks for pages that nobody asked for, since the database was away at that moment. */
const SWEEP = 120_000;

async function askAgain({ db, pages }: House): Promise<void> {
	const recent = await db.query<{ id: string }>(
		`select id from packet where updated_at > now() - interval '1 hour'`
	);
	for (const { id } of recent) await pages.ensure(id);
}

async function attempt(what: string, work: () => Promise<void>): Promise<void> {
	try {
		await work();
	} catch (error) {
		console.error(`Not resumed, ${what}:`, error);
	}
}

/** Originals that nothing refers to: what was being kept when the power went. They stay where they are. */
async function reportStrays({ db, vault }: House): Promise<void> {
	const referred = await referredFiles(db);
	const strays = (await vault.list()).filter((sha256) => !referred.has(sha256));
	if (strays.length === 0) return;
	console.error(
		`${strays.length} originals in the vault belong to nothing, such as ${strays[0]}. They are kept.`
	);
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
