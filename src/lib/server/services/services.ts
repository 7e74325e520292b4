import { mkdir } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { Folder } from '../delivery/folder';
import { Mail } from '../delivery/mail';
import { Portal } from '../delivery/portal';
import type { Target } from '../delivery/target';
import { Signer } from '../delivery/signer';
import { connectEvents, onSettingsChanged, tellSettingsChanged } from '../events/packetEvents';
import { storageLimits, type StorageLimits } from '../settings/storageLimits';
import { settingsOf, type Settings } from '../settings/settings';
import type { Database } from '../store/database';
import { DatabaseAwayError } from '../store/databaseError';
import type { TargetName } from '../../core/delivery/targets';
import { lockFolder } from '../store/lockFolder';
import { makeBackup } from '../backup/backup';
import { runCommand } from '../backup/commands';
import { migrationsOf } from '../store/applyMigrations';
import { migrate, MIGRATIONS } from '../store/migrate';
import { openPGlite } from '../store/pglite';
import { openPostgres } from '../store/postgres';
import { Disk } from '../vault/disk';
import { Uploads } from '../vault/uploads';
import { Vault } from '../vault/vault';
import { PageAsker } from '../work/askForPages';
import { handlers } from '../work/jobs/handlers';
import { Pool } from '../work/pool';
import { Queue } from '../work/queue';
import { listenForCommands } from './control';
import { askAll, keepUp, resumePending } from './upkeep';

/** Everything the server is made of, opened once. */
export interface Services {
	readonly db: Database;
	readonly vault: Vault;
	readonly disk: Disk;
	readonly limits: StorageLimits;
	readonly pool: Pool;
	readonly queue: Queue;
	readonly uploads: Uploads;
	/** Asks for what pages lack. */
	readonly pages: PageAsker;
	/** Ways to hand in; null where one is not set up. */
	readonly targets: Targets;
	/** Ways to hand in were set anew. */
	settingsChanged(): Promise<void>;
	/** What the server's proofs are signed with. */
	readonly signer: Signer;
	/** Whether pages are read; without it a small machine has it easier, and order and map are set by hand. */
	readonly reads: boolean;
	/** Folder of pictures that can be made again. */
	readonly derived: string;
	close(): Promise<void>;
}

/** Ways to hand in; null where one is not set up. */
export interface Targets extends Readonly<Record<TargetName, Target | null>> {
	readonly portal: Portal | null;
	readonly mail: Mail | null;
	readonly folder: Folder | null;
}

/** Opens the data folder and starts the queue. */
export async function openServices(environment: NodeJS.ProcessEnv = process.env): Promise<Services> {
	const folder = resolve(environment.MEMBRANA_DATA ?? 'data');
	const url = environment.DATABASE_URL;
	// On a PostgreSQL server several processes share the folder; the embedded database is one process's alone.
	const unlock = url ? null : await lockFolder(folder);
	const db = url ? openPostgres(url) : await openPGlite(join(folder, 'database'));
	await whenThere(() => upgrade(db, folder, unlock !== null));
	connectEvents(db.news);
	const derived = join(folder, 'derived');
	const uploadFolder = join(folder, 'uploads');
	await mkdir(uploadFolder, { recursive: true });
	await mkdir(derived, { recursive: true });
	const pool = new Pool();
	const queue = new Queue(db);
	const reads = environment.MEMBRANA_READER !== 'off';
	const signer = await Signer.inFolder(folder);
	let targets!: Targets;
	let limits!: StorageLimits;
	const loadSettings = async () => {
		const settings = await settingsOf(db, environment);
		limits = storageLimits(settings);
		targets = targetsFrom(settings, signer);
	};
	await loadSettings();
	const disk = await Disk.watch(folder, () => limits.reserveBytes);
	// Where the database is away just then, those that were known hold on.
	onSettingsChanged(() => {
		loadSettings().catch((error: Error) => console.error(`Settings: ${error.message}`));
	});
	let stop = () => Promise.resolve();
	let stopListening: (() => Promise<void>) | null = null;
	const services: Services = {
		db,
		vault: new Vault(join(folder, 'vault')),
		disk,
		get limits() {
			return limits;
		},
		pool,
		queue,
		reads,
		pages: new PageAsker(db, queue, reads),
		get targets() {
			return targets;
		},
		async settingsChanged() {
			await loadSettings();
			tellSettingsChanged();
		},
		signer,
		derived,
		get uploads() {
			return uploads;
		},
		async close() {
			await stop();
			await stopListening?.();
			await queue.stop();
			// Ends what the queue's jobs wait for.
			await pool.close();
			await queue.idle();
			await services.pages.stop();
			disk.close();
			// Whoever lives on in this process hears of changes without a connection that is gone.
			connectEvents(null);
			await db.close();
			await unlock?.();
		}
	};
	const uploads = new Uploads(services, uploadFolder);
	const works = !url || environment.MEMBRANA_JOBS !== 'off';
	await queue.start(works ? handlers(services) : null, () => !disk.isLow());
	if (works) await resumePending(services);
	else await services.uploads.settleAll();
	stop = keepUp(services, { embedded: !url, works });
	stopListening = url
		? null
		: await listenForCommands(folder, (command) =>
				runCommand(db, folder, command, {
					lacking: (packets) => void askAll(services, packets)
				})
			);
	return services;
}

/** Brings the database up to this version; what an embedded one was before is kept beside it. */
async function upgrade(db: Database, folder: string, isEmbedded: boolean): Promise<void> {
	const before = await migrationsOf(db);
	const isOld = before.length > 0 && MIGRATIONS.some((name) => !before.includes(name));
	if (isOld && isEmbedded) {
		const last = before.at(-1)!.replace(/\.sql$/, '');
		const path = join(folder, `database as of ${last}.tar`);
		await makeBackup(db, folder, path, { files: false });
		console.error(`The database is brought up to this version. As it was, it is kept in ${path}.`);
	}
	await migrate(db);
}

function targetsFrom({ portal, mailServer, mailFrom, folder }: Settings, signer: Signer): Targets {
	return {
		portal: portal ? new Portal(portal, signer.publicKey) : null,
		mail: mailServer ? new Mail(mailServer, mailFrom ?? 'membrana@localhost') : null,
		folder: folder ? new Folder(resolve(folder)) : null
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

let opened: Promise<Services> | null = null;

/** The services of this process, opened once. */
export function services(): Promise<Services> {
	opened ??= openServices();
	return opened;
}

export function closeServices(): Promise<void> {
	const closing = opened?.then((h) => h.close()) ?? Promise.resolve();
	opened = null;
	return closing;
}
