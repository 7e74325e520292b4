import { createHash } from 'node:crypto';
import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { PGlite, type Transaction } from '@electric-sql/pglite';
import type { Plugin } from 'vite';
import { keptFile } from './keptFile.ts';
import { applyMigrations } from './src/lib/server/store/applyMigrations.ts';
import { bossOn, startBoss } from './src/lib/server/work/boss.ts';
import { NAMES } from './src/lib/server/work/kinds.ts';

const NAME = 'virtual:empty-database';
const FILE = 'empty-database.tar.gz';
const MIGRATIONS = fileURLToPath(new URL('src/lib/server/store/migrations', import.meta.url));

/**
 * `import { emptyDatabase } from 'virtual:empty-database'`: the name of a file, the folder of a database with all tables
 * and nothing in them as a gzipped tar; a build has it beside its code.
 */
export const emptyDatabasePlugin: Plugin = {
	name: 'membrana-empty-database',
	resolveId: (id) => (id === NAME ? `\0${NAME}` : null),
	async load(id) {
		if (id !== `\0${NAME}`) return null;
		const path = await madeOnce();
		const isBuild = this.environment.config.command === 'build';
		if (isBuild) this.emitFile({ type: 'asset', fileName: FILE, source: readFileSync(path) });
		return `export const emptyDatabase = ${JSON.stringify(isBuild ? FILE : path)};`;
	}
};

/** Made once for each version of its packages, each set of migrations and of kinds of jobs. */
async function madeOnce(): Promise<string> {
	const migrations = new Map(
		readdirSync(MIGRATIONS)
			.sort()
			.map((name) => [name, readFileSync(join(MIGRATIONS, name), 'utf8')])
	);
	const madeFrom = [versionOf('@electric-sql/pglite'), versionOf('pg-boss'), NAMES, [...migrations]];
	const key = createHash('sha256').update(JSON.stringify(madeFrom)).digest('hex').slice(0, 16);
	return keptFile(`membrana-database/${key}.tar.gz`, async () => {
		const database = await PGlite.create();
		const statements = statementsOf(database);
		await applyMigrations(
			{ ...statements, transaction: (work) => database.transaction((tx) => work(statementsOf(tx))) },
			migrations
		);
		const boss = bossOn(statements);
		await startBoss(boss);
		await boss.stop({ graceful: false });
		await database.exec('checkpoint');
		const packed = await database.dumpDataDir('gzip');
		await database.close();
		return new Uint8Array(await packed.arrayBuffer());
	});
}

function versionOf(name: string): string {
	const { packages } = JSON.parse(readFileSync(new URL('package-lock.json', import.meta.url), 'utf8')) as {
		packages: Record<string, { version: string }>;
	};
	return packages[`node_modules/${name}`]!.version;
}

function statementsOf(on: PGlite | Transaction) {
	return {
		query: async <Row>(sql: string, parameters: readonly unknown[] = []) =>
			(await on.query(sql, [...parameters])).rows as Row[],
		script: async (sql: string) => ((await on.exec(sql)).at(-1)?.rows ?? []) as Record<string, unknown>[]
	};
}
