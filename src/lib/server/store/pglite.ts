import { PGlite, type Transaction } from '@electric-sql/pglite';
import type { Database } from './database';

/** PostgreSQL inside this process, in a folder. The folder must be locked first (lockFolder). */
export async function openPGlite(folder: string): Promise<Database> {
	const pg = await PGlite.create(folder);
	return {
		...wrap(pg),
		transaction: (work) =>
			pg.transaction((tx) =>
				work({
					...wrap(tx),
					transaction: () => Promise.reject(new Error('Transactions do not nest.')),
					close: () => Promise.reject(new Error('A transaction cannot close the database.'))
				})
			),
		close: () => pg.close()
	};
}

function wrap(pg: PGlite | Transaction): Pick<Database, 'query' | 'script'> {
	return {
		query: async <Row>(sql: string, parameters: readonly unknown[] = []) =>
			(await pg.query<Row>(sql, [...parameters])).rows,
		script: async (sql) => ((await pg.exec(sql)).at(-1)?.rows ?? []) as Record<string, unknown>[]
	};
}
