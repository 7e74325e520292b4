import type { PageFacts } from '../../core/page/preparePage';
import type { Database } from './database';

export interface PreparedRow {
	readonly key: string;
	readonly facts: PageFacts;
	readonly bytes: number;
}

export async function preparedByKeys(
	db: Database,
	keys: readonly string[]
): Promise<Map<string, PreparedRow>> {
	if (keys.length === 0) return new Map();
	const rows = await db.query<PreparedRow>(
		'select key, facts, bytes from prepared where key in (select jsonb_array_elements_text($1::jsonb))',
		[JSON.stringify(keys)]
	);
	return new Map(rows.map((r) => [r.key, r]));
}

export async function addPrepared(db: Database, row: PreparedRow): Promise<void> {
	await db.query(
		`insert into prepared (key, facts, bytes) values ($1, $2::jsonb, $3)
		on conflict (key) do update set facts = excluded.facts, bytes = excluded.bytes`,
		[row.key, JSON.stringify(row.facts), row.bytes]
	);
}
