import type { PageReading } from '../../core/reading/pageReading';
import type { LinesToRead } from '../../core/reading/readLine';
import type { Database } from './database';
import { newOfPage } from './pageKeys';

/**
 * @param toRead what is still to be read; nothing where the whole text is known
 * @returns the packets in which it is new
 */
export async function addReading(
	db: Database,
	key: string,
	reading: PageReading,
	toRead: LinesToRead | null = null
): Promise<string[]> {
	await db.query(
		`insert into reading (key, reading, lines) values ($1, $2::jsonb, $3::jsonb)
		on conflict (key) do update set reading = excluded.reading, lines = excluded.lines`,
		[key, JSON.stringify(reading), toRead && JSON.stringify(toRead)]
	);
	return newOfPage(db, { readings: [key] });
}

/** What is still to be read of a page of which only the beginnings of lines were read; null where that is not known. */
export async function linesToRead(db: Database, key: string): Promise<LinesToRead | null> {
	const [row] = await db.query<{ lines: LinesToRead | null }>('select lines from reading where key = $1', [
		key
	]);
	return row?.lines ?? null;
}
