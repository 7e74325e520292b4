import { existsSync, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { layEmptyDatabase } from './emptyDatabase';

const place = () => join(mkdtempSync(join(tmpdir(), 'membrana-empty-')), 'database');

it('lays a database down once, whole, over what an interrupted start left beside it', async () => {
	const folder = place();
	mkdirSync(`${folder}.part`);
	writeFileSync(join(`${folder}.part`, 'PG_VERSION'), 'half');
	expect(await layEmptyDatabase(folder)).toBe(true);
	expect(readFileSync(join(folder, 'PG_VERSION'), 'utf8')).toMatch(/^\d+\n$/);
	expect(existsSync(join(folder, 'global/pg_control'))).toBe(true);
	expect(existsSync(`${folder}.part`)).toBe(false);

	writeFileSync(join(folder, 'base/kept'), 'as it was');
	expect(await layEmptyDatabase(folder)).toBe(false);
	expect(readFileSync(join(folder, 'base/kept'), 'utf8')).toBe('as it was');
});

it('touches nothing in a folder that holds other files, and says so', async () => {
	const folder = place();
	mkdirSync(folder);
	writeFileSync(join(folder, 'letters.txt'), 'of somebody');
	await expect(layEmptyDatabase(folder)).rejects.toThrow(/holds files, but no database/);
	expect(readFileSync(join(folder, 'letters.txt'), 'utf8')).toBe('of somebody');
});
