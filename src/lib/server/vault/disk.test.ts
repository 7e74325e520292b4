import { mkdtempSync, rmSync } from 'node:fs';
import { statfs } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Disk } from './disk';

let folder: string;
let disk: Disk;
let said: string[];
let reserve = 0;

beforeEach(async () => {
	folder = mkdtempSync(join(tmpdir(), 'membrana-disk-'));
	said = [];
	reserve = 0;
	vi.spyOn(console, 'error').mockImplementation((line) => void said.push(String(line)));
	disk = await Disk.watch(folder, () => reserve);
});
afterEach(() => {
	disk.close();
	vi.restoreAllMocks();
});

describe('the disk', () => {
	it('is as free as the system says, from the first moment on', async () => {
		const { bavail, bsize } = await statfs(folder);
		// Others write beside it.
		expect(Math.abs(disk.freeBytes - bavail * bsize)).toBeLessThan(0.2 * bavail * bsize);
	});

	it('is low where a file would reach into what is left for the database', () => {
		expect([disk.isLow(), disk.isLow(disk.freeBytes - 1), disk.isLow(disk.freeBytes + 1)]).toEqual([
			false,
			false,
			true
		]);
		reserve = disk.freeBytes / 2;
		expect([disk.isLow(), disk.isLow(disk.freeBytes / 4), disk.isLow((3 * disk.freeBytes) / 4)]).toEqual([
			false,
			false,
			true
		]);
	});

	it('says once that it is nearly full, and once that it is free again', async () => {
		reserve = Infinity;
		await vi.waitFor(() => expect(said).toHaveLength(1), { timeout: 60_000 });
		expect(said[0]).toMatch(/^Disk: only \d+ MB are free; no more files are taken in\.$/);
		await new Promise((resolve) => setTimeout(resolve, 2_500));
		expect(said).toHaveLength(1);
		reserve = 0;
		await vi.waitFor(() => expect(said).toHaveLength(2), { timeout: 60_000 });
		expect(said[1]).toMatch(/MB are free again/);
	});

	it('is as it was last seen where it cannot be looked at', async () => {
		const before = disk.freeBytes;
		rmSync(folder, { recursive: true });
		await vi.waitFor(() => expect(said[0]).toMatch(/ENOENT/), { timeout: 60_000 });
		expect(disk.freeBytes).toBe(before);
	});
});
