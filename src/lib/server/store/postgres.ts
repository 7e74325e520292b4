import pg from 'pg';
import type { Database, News } from './database';
import { DatabaseAwayError, DatabaseError } from './databaseError';

/** Milliseconds that a request waits for a connection before it is told that the database is away. */
const TIMEOUT = 5_000;
const CHANNEL = 'membrana';
/** Milliseconds before the line for news is opened again; twice as long each time in a row, up to the second. */
const BACKOFF = [200, 10_000] as const;

/** A PostgreSQL server, for when one machine is not enough. Connections that are lost are made again. */
export function openPostgres(url: string): Database {
	const pool = new pg.Pool({ connectionString: url, connectionTimeoutMillis: TIMEOUT, max: 12 });
	// A connection that is lost while nobody uses it: the pool opens another when one is wanted.
	pool.on('error', (error) => console.error(`Database: ${error.message}`));
	const news = new PostgresNews(url, pool);
	return {
		...wrap(pool),
		news,
		transaction: async (work) => {
			const client = await pool.connect().catch(rethrow);
			// One that is lost while it is used says so twice: to the statement, and here.
			const lost = (error: Error) => console.error(`Database: ${error.message}`);
			client.on('error', lost);
			let broken: Error | undefined;
			try {
				await client.query('begin').catch(rethrow);
				const result = await work({
					...wrap(client),
					news: null,
					transaction: () => Promise.reject(new Error('Transactions do not nest.')),
					close: () => Promise.reject(new Error('A transaction cannot close the database.'))
				});
				await client.query('commit').catch(rethrow);
				return result;
			} catch (error) {
				await client.query('rollback').catch((reason: Error) => (broken = reason));
				throw error;
			} finally {
				client.off('error', lost);
				client.release(broken);
			}
		},
		close: async () => {
			await news.close();
			await pool.end();
		}
	};
}

function wrap(client: pg.Pool | pg.PoolClient): Pick<Database, 'query' | 'script'> {
	return {
		query: async <Row>(sql: string, parameters: readonly unknown[] = []) =>
			(await client.query(sql, [...parameters]).catch(rethrow)).rows as Row[],
		script: async (sql) => {
			const results: pg.QueryResult | pg.QueryResult[] = await client.query(sql).catch(rethrow);
			return (Array.isArray(results) ? results.at(-1)?.rows : results.rows) ?? [];
		}
	};
}

/** PostgreSQL's own "I am going, or not there yet" (class 57P), and connections that fail (class 08). */
const AWAY = /^(57P0[1-5]|08...)$/;

/** Tells a database that says no from one that is not there. */
function rethrow(error: Error & { code?: string; severity?: string }): never {
	const said = error instanceof pg.DatabaseError;
	if (said && !AWAY.test(error.code ?? '')) throw new DatabaseError(error.message, error.code ?? null);
	throw new DatabaseAwayError(error.message);
}

/** LISTEN and NOTIFY on a connection of their own, which is made again whenever it is lost. */
class PostgresNews implements News {
	readonly #callbacks: ((message: string | null) => void)[] = [];
	/** What was told in this moment, so that the same thing goes out once. */
	readonly #told = new Set<string>();
	#client: pg.Client | null = null;
	#failures = 0;
	#closed = false;
	#timer: NodeJS.Timeout | null = null;

	constructor(
		readonly url: string,
		readonly pool: pg.Pool
	) {
		void this.#open();
	}

	tell(message: string): void {
		if (this.#told.size === 0) {
			setImmediate(() => {
				const messages = [...this.#told];
				this.#told.clear();
				this.pool
					.query('select pg_notify($1, m) from unnest($2::text[]) m', [CHANNEL, messages])
					.catch((error: Error) => console.error(`Database: ${error.message}`));
			});
		}
		this.#told.add(message);
	}

	hear(callback: (message: string | null) => void): void {
		this.#callbacks.push(callback);
	}

	async close(): Promise<void> {
		this.#closed = true;
		if (this.#timer) clearTimeout(this.#timer);
		await this.#client?.end().catch(() => undefined);
	}

	async #open(): Promise<void> {
		const client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: TIMEOUT });
		let isOver = false;
		const again = (error?: Error) => {
			if (isOver) return;
			isOver = true;
			this.#client = null;
			if (this.#closed) return;
			const [least, most] = BACKOFF;
			const milliseconds = Math.min(most, least * 2 ** this.#failures++);
			if (error) console.error(`Database: ${error.message} The line for news is opened again.`);
			this.#timer = setTimeout(() => void this.#open(), milliseconds);
		};
		client.on('error', again);
		client.on('end', () => again());
		client.on('notification', ({ payload }) => {
			for (const callback of this.#callbacks) callback(payload ?? '');
		});
		try {
			await client.connect();
			await client.query(`listen ${CHANNEL}`);
			this.#client = client;
			// While the line was down, things may have been told.
			if (this.#failures > 0) for (const callback of this.#callbacks) callback(null);
			this.#failures = 0;
		} catch (error) {
			await client.end().catch(() => undefined);
			again(error as Error);
		}
	}
}
