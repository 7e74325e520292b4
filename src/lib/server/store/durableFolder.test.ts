import { mkdirSync, mkdtempSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { beforeEach, describe, expect, it } from 'vitest';
import { isEmptyFolder, settle, syncFolder } from './durableFolder';

let root: string;
const at = (...names: string[]) => join(root, ...names);
beforeEach(() => {
	root = mkdtempSync(join(tmpdir(), 'membrana-durable-'));
});

describe('an unpacked folder', () => {
	it('takes its place with all that lies in it, and nothing of what was there', async () => {
		mkdirSync(at('unpacked', 'base'), { recursive: true });
		writeFileSync(at('unpacked', 'base', 'one'), 'new');
		mkdirSync(at('there'));
		writeFileSync(at('there', 'left'), 'old');
		await settle(at('unpacked'), at('there'));
		expect(readFileSync(at('there', 'base', 'one'), 'utf8')).toBe('new');
		expect([readdirSync(at('there')), readdirSync(root)]).toEqual([['base'], ['there']]);
	});

	it('takes a place where nothing was', async () => {
		mkdirSync(at('unpacked'));
		await settle(at('unpacked'), at('there'));
		expect(readdirSync(root)).toEqual(['there']);
	});

	it('that is not there leaves what is there as it is', async () => {
		mkdirSync(at('there'));
		writeFileSync(at('there', 'left'), 'old');
		await expect(settle(at('unpacked'), at('there'))).rejects.toThrow(/ENOENT/);
		expect(readFileSync(at('there', 'left'), 'utf8')).toBe('old');
	});
});

describe('a folder', () => {
	it('is empty where it is not there, or holds nothing; what is no folder is an error', async () => {
		mkdirSync(at('bare'));
		mkdirSync(at('full', 'inner'), { recursive: true });
		writeFileSync(at('file'), '');
		expect(await isEmptyFolder(at('bare'))).toBe(true);
		expect(await isEmptyFolder(at('not there'))).toBe(true);
		expect(await isEmptyFolder(at('full'))).toBe(false);
		await expect(isEmptyFolder(at('file'))).rejects.toThrow(/ENOTDIR/);
	});

	it('comes to the disk as it is, also where a link in it leads nowhere', async () => {
		mkdirSync(at('a', 'b'), { recursive: true });
		writeFileSync(at('a', 'b', 'c'), 'kept');
		symlinkSync('nowhere', at('a', 'link'));
		await syncFolder(at('a'));
		expect(readFileSync(at('a', 'b', 'c'), 'utf8')).toBe('kept');
	});
});
