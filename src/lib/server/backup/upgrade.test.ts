import { existsSync, mkdtempSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { openServices } from '../services/services';
import { migrationsOf } from '../store/applyMigrations';
import { migrate, MIGRATIONS } from '../store/migrate';
import { openPGlite } from '../store/pglite';
import { schoolOf } from '../store/school';
import { fillDatabase, unpackBackup } from './restore';

const folder = mkdtempSync(join(tmpdir(), 'membrana-upgrade-'));
const OLD = MIGRATIONS.slice(0, 6);

it('a database of an older version is kept as it was, then brought up; what was kept comes back the same way', async () => {
	const data = join(folder, 'data');
	await mkdir(data);
	const old = await openPGlite(join(data, 'database'), false);
	await migrate(old, OLD);
	await old.query(
		`insert into person (login, given, family, password_hash)
		select 'p' || i, 'Given “' || i || '”', $1, 'x' from generate_series(1, 1203) i`,
		['Family\\n']
	);
	await old.close();

	const services = await openServices({ MEMBRANA_DATA: data, MEMBRANA_READER: 'off' });
	expect(await migrationsOf(services.db)).toEqual(MIGRATIONS);
	expect(await schoolOf(services.db)).toMatchObject({ kind: 'school' });
	await services.close();
	const kept = join(data, 'database as of 0006-pages.tar');
	expect(existsSync(kept)).toBe(true);

	const unpacked = join(folder, 'unpacked');
	const { migrations, tables, files } = await unpackBackup(kept, unpacked);
	expect([migrations, tables.person, files]).toEqual([OLD, 1203, 0]);
	const db = await openPGlite(join(unpacked, 'database'), false);
	await fillDatabase(db, unpacked, migrations);
	const [count] = await db.query(`select count(*)::int as all, count(distinct given)::int as names,
		bool_and(family = 'Family\\n') as same from person`);
	expect(count).toEqual({ all: 1203, names: 1203, same: true });
	expect(await schoolOf(db)).toMatchObject({ kind: 'school' });
	await expect(fillDatabase(db, unpacked, migrations)).rejects.toThrow(
		'There is something in this database already'
	);
	await db.close();
});
