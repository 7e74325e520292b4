import pg from 'pg';
import type { Database } from './database';

/** A PostgreSQL server, for when one machine is not enough. */
export function openPostgres(url: string): Database {
	const pool = new pg.Pool({ connectionString: url });
	// A connection that is lost while nobody uses it: the pool opens another when one is wanted.
	pool.on('error', (error) => console.error(`Database: ${error.message}`));
	return {
		...wrap(pool),
		transaction: async (work) => {
			const client = await pool.connect();
			try {
				await client.query('begin');
				const result = await work({
					...wrap(client),
					transaction: () => Promise.reject(new Error('Transactions do not nest.')),
					close: () => Promise.reject(new Error('A transaction cannot close the database.'))
				});
				await client.query('commit');
				return result;
			} catch (error) {
				await client.query('rollback');
				throw error;
			} finally {
				client.release();
			}
		},
		close: () => pool.end()
	};
}

function wrap(client: pg.Pool | pg.PoolClient): Pick<Database, 'query' | 'script'> {
	return {
		query: async <Row>(sql: string, parameters: readonly unknown[] = []) =>
			(await client.query(sql, [...parameters])).rows as Row[],
		script: async (sql) => {
			const results: pg.QueryResult | pg.QueryResult[] = await client.query(sql);
			return (Array.isArray(results) ? results.at(-1)?.rows : results.rows) ?? [];
		}
	};
}
