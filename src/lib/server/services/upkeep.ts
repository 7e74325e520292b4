import type { Database } from '../store/database';
import { unmadeBundles } from '../store/bundles';
import { openDeliveries } from '../store/deliveries';
import { referredFiles, unreadPictures } from '../store/sources';
import type { Services } from './services';

/**
 * Finds what was acknowledged but not finished when the process last ended, and asks for it. What cannot be resumed is
 * logged and left, so that one bad row or file never keeps the rest waiting.
 */
export async function resumePending(services: Services): Promise<void> {
	const { db, queue } = services;
	await attempt('uploads', () => services.uploads.settleAll());
	await attempt('sources', async () => {
		const waiting = await db.query<{ id: string; packetId: string }>(
			`select id, packet_id as "packetId" from source where state = 'waiting'`
		);
		const jobs = waiting.map(({ id, packetId }) => ({ data: { sourceId: id }, packetId }));
		await queue.addAll('take-in', jobs);
	});
	await attempt('pictures', async () => {
		if (!services.reads) return;
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
	await attempt('bundles', async () => {
		for (const { id, kind } of await unmadeBundles(db)) await queue.add(`make-${kind}`, { bundleId: id });
	});
	await attempt('deliveries', async () => {
		for (const { id, target } of await openDeliveries(db)) {
			await queue.add(`deliver-${target}`, { deliveryId: id });
		}
	});
	await attempt('originals', () => reportStrays(services));
	// A packet's pages are asked for one packet after another, beside what people do by then.
	void attempt('pages', async () => {
		const all = await db.query<{ id: string }>('select id from packet');
		await askAll(
			services,
			all.map(({ id }) => id)
		);
	});
}

/** Asks for what the pages of packets lack, of one packet after another. */
export async function askAll({ pages }: Services, packets: readonly string[]): Promise<void> {
	for (const id of packets) await attempt(`packet ${id}`, () => pages.ensure(id));
}

/** Milliseconds between two looks at how large the tables of the embedded database are. */
const TAKE_STOCK = 5 * 60_000;
/** And before the first: what is known of them outlives a restart, and at the start everybody waits. */
const FIRST_STOCK = 20_000;
/** Milliseconds between two looks for pages that nobody asked for, since the database was away at that moment. */
const SWEEP = 120_000;

/**
 * What is done from time to time while the services are open.
 *
 * @param of whether the database is the embedded one, and whether jobs are done here
 * @returns how to stop
 */
export function keepUp(
	services: Services,
	of: { readonly embedded: boolean; readonly works: boolean }
): () => Promise<void> {
	const timers: NodeJS.Timeout[] = [];
	let isStopped = false;
	let looking = Promise.resolve();
	if (of.embedded) {
		const look = () => {
			looking = attempt('statistics', () => takeStock(services.db, () => isStopped));
		};
		timers.push(setTimeout(look, FIRST_STOCK), setInterval(look, TAKE_STOCK));
	}
	if (of.works) timers.push(setInterval(() => void attempt('sweep', () => askAgain(services)), SWEEP));
	return () => {
		isStopped = true;
		timers.forEach(clearInterval);
		return looking;
	};
}

/** The embedded database has nobody who looks how its tables have grown; without, it plans as if they were empty. */
async function takeStock(db: Database, isStopped: () => boolean): Promise<void> {
	const tables = await db.query<{ name: string }>(
		`select format('%I.%I', schemaname, tablename) as name from pg_tables where schemaname in ('public', 'pgboss')`
	);
	// One by one: the database does one thing at a time, and people come between.
	for (const { name } of tables) if (!isStopped()) await db.script(`analyze ${name}`);
}

async function askAgain({ db, pages }: Services): Promise<void> {
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
async function reportStrays({ db, vault }: Services): Promise<void> {
	const referred = await referredFiles(db);
	const strays = (await vault.list()).filter((sha256) => !referred.has(sha256));
	if (strays.length === 0) return;
	console.error(
		`${strays.length} originals in the vault belong to nothing, such as ${strays[0]}. They are kept.`
	);
}
