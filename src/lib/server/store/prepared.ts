import type { PageFacts } from '../../core/page/preparePage';
import type { ToneName } from '../../core/tone/tone';
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

/** Forgets that a page was prepared, when its pictures are gone. @returns the packets in which it lies */
export async function forgetPrepared(db: Database, key: string): Promise<string[]> {
	await db.query('delete from prepared where key = $1', [key]);
	return newOfPage(db, { prepared: key });
}

/** Every page of a packet that was prepared, with the tone that tells which pictures it has. */
export function preparedPictures(db: Database): Promise<{ key: string; tone: ToneName }[]> {
	return db.query(
		`select distinct k.prepared_key as key, k.tone from packet_page k join prepared m on m.key = k.prepared_key`
	);
}
