import PgBoss from 'pg-boss';
import type { Database } from '../store/database';
import { NAMES } from './kinds';

/** The tables of the queue on a database. */
export function bossOn(db: Pick<Database, 'query' | 'script'>): PgBoss {
	return new PgBoss({
		db: {
			executeSql: async (text: string, values: unknown[] = []) => {
				const rows = values.length > 0 ? await db.query(text, values) : await db.script(text);
				return { rows };
			}
		},
		schedule: false
	});
}

/** Starts it; what it lacks of tables is made: each kind of job has one. */
export async function startBoss(boss: PgBoss): Promise<void> {
	await boss.start();
	for (const name of NAMES) await boss.createQueue(name);
}
