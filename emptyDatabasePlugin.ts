import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import type { Plugin } from 'vite';
import { keptFile } from './keptFile.ts';

const NAME = 'virtual:empty-database';
const FILE = 'empty-database.tar.gz';

/**
 * `import { emptyDatabase } from 'virtual:empty-database'`: the name of a file, an empty database's folder as a gzipped
 * tar; a build has it beside its code. To unpack it takes a tenth of the time that a new database takes.
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

/** Made once for each version of PGlite. */
async function madeOnce(): Promise<string> {
	const main = createRequire(import.meta.url).resolve('@electric-sql/pglite');
	const { version } = JSON.parse(readFileSync(join(dirname(main), '../package.json'), 'utf8')) as {
		version: string;
	};
	return keptFile(`membrana-database/${version}.tar.gz`, async () => {
		const database = await PGlite.create();
		await database.exec('checkpoint');
		const packed = await database.dumpDataDir('gzip');
		await database.close();
		return new Uint8Array(await packed.arrayBuffer());
	});
}
