import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
	existsSync,
	mkdtempSync,
	readdirSync,
	readFileSync,
	rmSync,
	statSync,
	truncateSync,
	writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const home = mkdtempSync(join(tmpdir(), 'membrana-backup-'));
const data = join(home, 'data');
const backup = join(home, 'backup.tar');

/** Runs `./membrana backup|restore|check` as built. */
function keep(folder: string, ...args: string[]) {
	const { status, stdout, stderr } = spawnSync(process.execPath, ['build-node/keep.js', ...args], {
		encoding: 'utf8',
		timeout: 60_000,
		env: { ...process.env, MEMBRANA_DATA: folder }
	});
	return { status, says: stdout + stderr };
}

const { picture } = testPhotograph(testPage(3), { size: [900, 1200] });

/** A photograph that differs from all others in a corner. */
function pagePicture(i: number): Promise<Buffer> {
	const data = picture.data.slice();
	data.fill(2 * i, 0, 300);
	return jpeg({ ...picture, data }, 80);
}

async function bringIn(client: Client, packet: string, name: string, bytes: Buffer): Promise<void> {
	const path = await client.beginUpload(packet, name, bytes.length);
	await client.continueUpload(path, bytes, 0);
}

describe('a backup', () => {
	let app: RunningApp;
	/** Names that were acknowledged before the backup was asked for. */
	const before = new Set<string>();
	let packet: string;

	beforeAll(async () => {
		const { assignment } = await seed(data);
		app = await startApp(data, await freePort());
		const ilka = await Client.signIn(app.address, 'ilka');
		packet = await ilka.openPacket(assignment);
		const acknowledged: string[] = [];
		let going = true;
		const coming = (async () => {
			for (let i = 0; going; i++) {
				await bringIn(ilka, packet, `page ${i}.jpg`, await pagePicture(i)).catch(() => (going = false));
				if (going) acknowledged.push(`page ${i}.jpg`);
			}
		})();
		await until(async () => acknowledged.length >= 6);
		for (const name of acknowledged) before.add(name);
		const made = keep(data, 'backup', backup);
		expect(made).toMatchObject({ status: 0, says: expect.stringMatching(/1 packet of 5 people, \d+ files/) });
		await app.kill('SIGKILL');
		going = false;
		await coming;
	});
	afterAll(() => app.kill('SIGTERM'));

	it('made while files come in holds all that was acknowledged before, every file with its hash', async () => {
		const restored = join(home, 'restored');
		expect(keep(restored, 'restore', backup)).toMatchObject({
			status: 0,
			says: expect.stringContaining('Restored into')
		});
		expect(keep(restored, 'check')).toMatchObject({
			status: 0,
			says: expect.stringContaining('every one is what it should be')
		});
		app = await startApp(restored, await freePort());
		const ilka = await Client.signIn(app.address, 'ilka');
		const { sources } = await ilka.json<PacketView>(`/api/packets/${packet}`);
		const names = new Set(sources.map((s) => s.name));
		for (const name of before) expect(names).toContain(name);
		expect(readFileSync(join(restored, 'signing-key.pem'), 'utf8')).toBe(
			readFileSync(join(data, 'signing-key.pem'), 'utf8')
		);
		// Work goes on in it: what was taken in and not prepared is prepared now.
		await until(async () => {
			const view = await ilka.json<PacketView>(`/api/packets/${packet}`);
			return (
				Object.values(view.pages).length >= before.size && Object.values(view.pages).every((p) => p.prepared)
			);
		});
		await bringIn(ilka, packet, 'afterwards.jpg', await pagePicture(99));
		const again = keep(restored, 'check');
		expect(again.status).toBe(0);
	});

	it('is not restored over anything, and leaves nothing behind where it cannot be restored', () => {
		expect(keep(data, 'restore', backup).says).toContain('There is something in');
		const target = join(home, 'never');
		const bytes = readFileSync(backup);
		const cut = join(home, 'cut.tar');
		for (const length of [0, 100, 700, bytes.length >> 1, bytes.length - 2048]) {
			writeFileSync(cut, bytes.subarray(0, length));
			const { status, says } = keep(target, 'restore', cut);
			expect([length, status]).toEqual([length, 1]);
			expect(says).toMatch(/cut short|no backup/);
		}
		const other = Buffer.from(bytes);
		const at = other.indexOf('"migrations":["0001-begin.sql"');
		other.write('"migrations":["9001-begin.sql"', at);
		writeFileSync(cut, other);
		expect(keep(target, 'restore', cut).says).toContain('of a newer version of Membrana');
		const broken = Buffer.from(bytes);
		broken[broken.lastIndexOf(Buffer.from([0xff, 0xd8, 0xff])) + 40]! ^= 0xff;
		writeFileSync(cut, broken);
		expect(keep(target, 'restore', cut).says).toContain('in this backup is damaged');
		expect(keep(target, 'restore', join(home, 'nowhere.tar')).says).toContain('There is no file');
		writeFileSync(cut, 'plain words');
		expect(keep(target, 'restore', cut).status).toBe(1);
		for (const name of ['never', 'never.restoring']) expect(existsSync(join(home, name))).toBe(false);
		expect(readdirSync(home).filter((name) => name.startsWith('backup.tar.'))).toEqual([]);
	});

	it('of a folder in which there is nothing is refused', () => {
		expect(keep(join(home, 'empty'), 'backup', join(home, 'x.tar')).says).toContain(
			'There is no Membrana in'
		);
		expect(keep(data).says).toContain('Use: ./membrana backup FILE');
	});

	it('a check names every file that is missing or is not what it was', () => {
		const restored = join(home, 'damaged');
		keep(restored, 'restore', backup);
		const files = readdirSync(join(restored, 'vault'), { recursive: true, encoding: 'utf8' })
			.map((name) => join(restored, 'vault', name))
			.filter((path) => statSync(path).isFile());
		rmSync(files[0]!);
		truncateSync(files[1]!, 10);
		const { status, says } = keep(restored, 'check');
		expect(status).toBe(1);
		const name = (path: string) => path.split('/').at(-1)!;
		expect(says).toContain(`missing ${name(files[0]!)}`);
		expect(says).toContain(`damaged ${name(files[1]!)}`);
		expect(createHash('sha256').update(readFileSync(files[2]!)).digest('hex')).toBe(name(files[2]!));
	});
});
