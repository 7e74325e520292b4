import type { PageReading } from '../../core/reading/pageReading';
import type { Database } from './database';

export async function readingsByKeys(
	db: Database,
	keys: readonly string[]
): Promise<Map<string, PageReading>> {
	if (keys.length === 0) return new Map();
	const rows = await db.query<{ key: string; reading: PageReading }>(
		'select key, reading from reading where key in (select jsonb_array_elements_text($1::jsonb))',
		[JSON.stringify(keys)]
	);
	return new Map(rows.map((r) => [r.key, r.reading]));
}

export async function addReading(db: Database, key: string, reading: PageReading): Promise<void> {
	await db.query(
		`insert into reading (key, reading) values ($1, $2::jsonb)
		on conflict (key) do update set reading = excluded.reading`,
		[key, JSON.stringify(reading)]
	);
}
