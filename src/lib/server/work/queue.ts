import PgBoss from 'pg-boss';
import type { Database } from '../store/database';

/** Every kind of job with its data. */
export interface Jobs {
	'take-in': { sourceId: string };
	'prepare-page': { packetId: string; pageId: string; key: string };
	'read-picture': { packetId: string; sourceId: string; index: number };
	'read-page': { packetId: string; pageId: string; key: string };
	'weigh-page': { packetId: string; pageId: string; key: string };
	'make-file': { fileId: string };
	deliver: { deliveryId: string };
}
export type JobName = keyof Jobs;

export type Handlers = { [Name in JobName]: (data: Jobs[Name]) => Promise<void> };

/** How many jobs of a kind run at once. Preparing keeps two cores busy; the rest is quick. */
const WORKERS: Record<JobName, number> = {
	'take-in': 2,
	'prepare-page': 2,
	'read-picture': 1,
	'read-page': 1,
	'weigh-page': 1,
	'make-file': 1,
	deliver: 2
};

/** Jobs in the database: what was asked for is done, also after the process was killed. */
export class Queue {
	readonly #boss: PgBoss;
	readonly #workers = new Map<JobName, string[]>();

	constructor(db: Database) {
		this.#boss = new PgBoss({
			db: {
				executeSql: async (text: string, values: unknown[] = []) => {
					const rows = values.length > 0 ? await db.query(text, values) : await db.script(text);
					return { rows };
				}
			},
			schedule: false
		});
		this.#boss.on('error', (error) => console.error('Queue:', error));
	}

	/**
	 * Starts taking jobs.
	 * @param sole whether no other process works on this database: then whatever was being done when the
	 *   last one died can be taken up again at once, instead of after its time has run out
	 */
	async start(db: Database, handlers: Handlers, sole: boolean): Promise<void> {
		await this.#boss.start();
		const names = Object.keys(WORKERS) as JobName[];
		for (const name of names) await this.#boss.createQueue(name);
		if (sole) {
			await db.query(`update pgboss.job set state = 'retry', start_after = now() where state = 'active'`);
		}
		for (const name of names) {
			const ids: string[] = [];
			for (let i = 0; i < WORKERS[name]; i++) {
				const handler = handlers[name] as (data: object) => Promise<void>;
				const id = await this.#boss.work<object>(
					name,
					{ batchSize: 1, pollingIntervalSeconds: 1, priority: true },
					async ([job]) => {
						if (job) await handler(job.data);
					}
				);
				ids.push(id);
			}
			this.#workers.set(name, ids);
		}
	}

	async add<Name extends JobName>(
		name: Name,
		data: Jobs[Name],
		{ priority = 0, afterSeconds = 0 } = {}
	): Promise<void> {
		await this.#boss.send(name, data, {
			priority,
			startAfter: afterSeconds,
			retryLimit: 4,
			retryDelay: 1,
			expireInMinutes: 10
		});
		for (const id of this.#workers.get(name) ?? []) this.#boss.notifyWorker(id);
	}

	stop(): Promise<void> {
		return this.#boss.stop({ graceful: true, wait: true, timeout: 5000 });
	}
}
