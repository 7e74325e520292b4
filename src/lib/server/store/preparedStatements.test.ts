import { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { parsed } from './pgliteProtocol';
import { PreparedStatements } from './preparedStatements';

let pg: PGlite;
let statements: PreparedStatements;

beforeAll(async () => {
	pg = await PGlite.create();
	await pg.exec(
		`create table page (id int primary key, name text, at timestamptz, facts jsonb, bytes bigint, tags text[], big boolean);
		insert into page select i, 'p' || i, '2026-01-01', '{"a": [1, null]}', i * 3000000000, array['x', null], i > 5
			from generate_series(1, 10) i`
	);
	statements = new PreparedStatements(pg);
});
afterAll(() => pg.close());

/** Rows as they are on the other side of the thread. */
const query = async (sql: string, parameters: readonly unknown[]) =>
	parsed(structuredClone(await statements.query(sql, parameters)));

/** How many statements PostgreSQL itself holds. */
const heldByPostgres = async () =>
	(await pg.query<{ n: number }>('select count(*)::int as n from pg_prepared_statements')).rows[0]!.n;

/** The name under which it holds one: another after it was prepared anew. */
async function nameOf(statement: string): Promise<string> {
	const sql = 'select name from pg_prepared_statements where statement = $1';
	const { rows } = await pg.query<{ name: string }>(sql, [statement]);
	return rows[0]!.name;
}

describe('statements that stay prepared', () => {
	it('give rows and take parameters of every type as a statement by itself does, each time', async () => {
		const sql = `select id, name, at, facts, bytes, tags, big, $4::text as nothing from page
			where id <= $1 and at > $2::timestamptz and facts @> $3::jsonb and tags @> $5::text[] and big = $6 order by id`;
		const parameters = [8, new Date('2025-06-01'), '{"a": [1]}', null, ['x'], true];
		const { rows } = await pg.query(sql, parameters);
		expect(rows).toHaveLength(3);
		for (let i = 0; i < 8; i++) expect(await query(sql, parameters)).toEqual(rows);
		expect(statements.size).toBe(1);
	});

	it('answer with no rows to what returns none', async () => {
		expect(await query('update page set name = name where id = $1', [3])).toEqual([]);
		expect(await query('select 1 where false', [])).toEqual([]);
	});

	it('say what PostgreSQL says where it says no, and go on', async () => {
		const double = "insert into page (id, name) values ($1, 'twice')";
		await expect(query(double, [1])).rejects.toMatchObject({ code: '23505' });
		await expect(query('select * from nowhere', [])).rejects.toMatchObject({ code: '42P01' });
		await expect(query('select 1 / $1::int as one', [0])).rejects.toMatchObject({ code: '22012' });
		expect(await query('select 1 / $1::int as one', [1])).toEqual([{ one: 1 }]);
		expect(await query(double + ' returning id', [11])).toEqual([{ id: 11 }]);
	});

	it('are rolled back with a transaction, and stay prepared', async () => {
		const insert = 'insert into page (id) values ($1)';
		const undone = pg.transaction(async () => {
			await query(insert, [21]);
			expect(await query('select id from page where id = 21', [])).toEqual([{ id: 21 }]);
			await query(insert, [21]);
		});
		await expect(undone).rejects.toMatchObject({ code: '23505' });
		expect(await query('select id from page where id = 21', [])).toEqual([]);
		expect(await query(insert + ' returning id', [21])).toEqual([{ id: 21 }]);
	});

	it('are prepared anew after a table was changed', async () => {
		const all = 'select * from page where id = $1';
		const [before] = (await query(all, [1])) as object[];
		const change = 'alter table page add column turn int not null default 2';
		await pg.exec(change);
		await statements.ranScript(change);
		expect(statements.size).toBe(0);
		expect(await query(all, [1])).toEqual([{ ...before, turn: 2 }]);
	});

	it('make room for each other, and are planned anew from time to time: PostgreSQL holds no more than are known', async () => {
		for (let i = 0; i < 230; i++) expect(await query(`select ${i} as n`, [])).toEqual([{ n: i }]);
		expect(statements.size).toBe(200);
		expect(await heldByPostgres()).toBe(200);
		const plans = new Set<string>();
		for (let i = 0; i < 450; i++) {
			await query('select $1::int as n', [i]);
			if (i % 100 === 0) plans.add(await nameOf('select $1::int as n'));
		}
		// Two hundred uses each.
		expect(plans.size).toBe(3);
		expect(statements.size).toBe(200);
		expect(await heldByPostgres()).toBe(200);
	});
});
