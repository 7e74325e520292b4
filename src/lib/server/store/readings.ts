import type { PageReading } from '../../core/reading/pageReading';
import type { Quadrilateral } from '../../core/sheet/geometry';
import type { Database } from './database';
import { newOfPage } from './pageKeys';

/**
 * @param lines where the lines lie that are still to be read; none where the whole text is known
 * @returns the packets in which it is new
 */
export async function addReading(
	db: Database,
	key: string,
	reading: PageReading,
	lines: readonly Quadrilateral[] | null = null
): Promise<string[]> {
	await db.query(
		`insert into reading (key, reading, lines) values ($1, $2::jsonb, $3::jsonb)
		on conflict (key) do update set reading = excluded.reading, lines = excluded.lines`,
		[key, JSON.stringify(reading), lines && JSON.stringify(lines)]
	);
	return newOfPage(db, { readings: [key] });
}

/** Where the lines lie of a page of which only their beginnings were read; null where that is not known. */
export async function linesToRead(db: Database, key: string): Promise<Quadrilateral[] | null> {
	const [row] = await db.query<{ lines: Quadrilateral[] | null }>(
		'select lines from reading where key = $1',
		[key]
	);
	return row?.lines ?? null;
}
