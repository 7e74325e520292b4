import type { Database } from './database';

/** Rows read, and written, at once. */
const AT_ONCE = 500;

/** A table of a dump: its rows as JSON, one text each. */
export interface DumpedTable {
	readonly name: string;
	rows(): AsyncIterable<string>;
}

/** Names of our own tables; the queue's are its own, and what it lacks is asked for again at the start. */
async function ownTables(db: Database): Promise<string[]> {
	const rows = await db.query<{ name: string }>(
		`select table_name as name from information_schema.tables
		where table_schema = 'public' and table_type = 'BASE TABLE' order by table_name`
	);
	return rows.map((row) => row.name);
}

/**
 * Reads every row of one moment.
 * @param write called with some rows of a table at a time, one table after another
 */
export async function dumpDatabase(
	db: Database,
	write: (table: string, rows: readonly string[]) => Promise<void>
): Promise<void> {
	await db.transaction(async (tx) => {
		await tx.query('set transaction isolation level repeatable read');
		for (const table of await ownTables(tx)) {
			await write(table, []);
			await tx.query(
				`declare dumped no scroll cursor for select row_to_json(t)::text as row from "${table}" t`
			);
			for (;;) {
				const rows = await tx.query<{ row: string }>(`fetch ${AT_ONCE} from dumped`);
				if (rows.length === 0) break;
				await write(
					table,
					rows.map((r) => r.row)
				);
			}
			await tx.query('close dumped');
		}
	});
}

/**
 * Fills a database whose tables are there and hold nothing but the names of migrations. What rows refer to is checked
 * when all are in.
 */
export async function loadDatabase(db: Database, tables: AsyncIterable<DumpedTable>): Promise<void> {
	await db.transaction(async (tx) => {
		const references = await tx.query<{ table: string; name: string; text: string }>(
			`select conrelid::regclass::text as table, conname as name, pg_get_constraintdef(oid) as text
			from pg_constraint where contype = 'f' and connamespace = 'public'::regnamespace`
		);
		for (const { table, name } of references)
			await tx.query(`alter table ${table} drop constraint "${name}"`);
		const known = new Set(await ownTables(tx));
		for await (const { name, rows } of tables) {
			if (!known.has(name)) throw new Error(`This version has no table ${name}.`);
			if (name === 'migration') continue;
			// A migration may have put a row there that the backup holds as it became.
			await tx.query(`delete from "${name}"`);
			await loadTable(tx, name, rows);
		}
		for (const { table, name, text } of references) {
			await tx.query(`alter table ${table} add constraint "${name}" ${text}`);
		}
	});
}

async function loadTable(db: Database, table: string, rows: () => AsyncIterable<string>): Promise<void> {
	const columns = await db.query<{ name: string; counts: boolean }>(
		`select column_name as name, is_identity = 'YES' as counts from information_schema.columns
		where table_schema = 'public' and table_name = $1 and is_generated = 'NEVER' order by ordinal_position`,
		[table]
	);
	const names = columns.map((c) => `"${c.name}"`).join(', ');
	let some: string[] = [];
	const put = async () => {
		if (some.length === 0) return;
		// The rows go in as the text they came out as: no number or time passes through a program's own.
		await db.query(
			`insert into "${table}" (${names}) overriding system value
			select ${names} from jsonb_populate_recordset(null::"${table}", $1::jsonb)`,
			[`[${some.join(',')}]`]
		);
		some = [];
	};
	// Begun only here: lines that come while nobody waits for them are lost.
	for await (const row of rows()) {
		some.push(row);
		if (some.length === AT_ONCE) await put();
	}
	await put();
	for (const { name } of columns.filter((c) => c.counts)) {
		await db.query(
			`select setval(pg_get_serial_sequence('"${table}"', $1), coalesce((select max("${name}") from "${table}"), 0) + 1, false)`,
			[name]
		);
	}
}
