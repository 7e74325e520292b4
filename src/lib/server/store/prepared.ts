import type { PageFacts } from '../../core/page/preparePage';
import type { Database } from './database';
import { newOfPage } from './pageKeys';

export interface PreparedRow {
	readonly key: string;
	readonly facts: PageFacts;
	readonly bytes: number;
}

/** @returns the packets in which it is new */
export async function addPrepared(db: Database, { key, facts, bytes }: PreparedRow): Promise<string[]> {
	await db.query(
		`insert into prepared (key, facts, bytes) values ($1, $2::jsonb, $3)
		on conflict (key) do update set facts = excluded.facts, bytes = excluded.bytes`,
		[key, JSON.stringify(facts), bytes]
	);
	return newOfPage(db, { prepared: key });
}

/** Forgets that a page was prepared, when its pictures are gone. */
export async function forgetPrepared(db: Database, key: string): Promise<void> {
	await db.query('delete from prepared where key = $1', [key]);
	await newOfPage(db, { prepared: key });
}
