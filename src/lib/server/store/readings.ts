import type { PageReading } from '../../core/reading/pageReading';
import type { Database } from './database';
import { newOfPage } from './pageKeys';

/** @returns the packets in which it is new */
export async function addReading(db: Database, key: string, reading: PageReading): Promise<string[]> {
	await db.query(
		`insert into reading (key, reading) values ($1, $2::jsonb)
		on conflict (key) do update set reading = excluded.reading`,
		[key, JSON.stringify(reading)]
	);
	return newOfPage(db, { readings: [key] });
}
