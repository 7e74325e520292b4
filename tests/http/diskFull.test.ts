import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, statfsSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, pause, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const root = mkdtempSync(join(tmpdir(), 'membrana-disk-'));
const disk = join(root, 'disk');
const data = join(disk, 'data');
const MEGABYTES = 220;
/** A disk of its own, small enough to fill. Whoever may not mount one gets a name space in which they may. */
const sudo = process.getuid?.() === 0 ? [] : ['sudo', '-n'];
const run = (...command: string[]) =>
	execFileSync([...sudo, ...command][0]!, [...sudo, ...command].slice(1), { stdio: 'pipe' });
let app: RunningApp;
let port: number;
let assignment: string;

beforeAll(async () => {
	mkdirSync(disk);
	run('mount', '-t', 'tmpfs', '-o', `size=${MEGABYTES}m,mode=0777`, 'tmpfs', disk);
	({ assignment } = await seed(data));
	port = await freePort();
	app = await startApp(data, port, undefined, 'off', { MEMBRANA_RESERVE_MB: '40' });
});
afterAll(async () => {
	await app?.kill('SIGKILL');
	run('umount', disk);
	rmSync(root, { recursive: true, force: true });
});

const free = () => {
	const { bavail, bsize } = statfsSync(disk);
	return bavail * bsize;
};
const ballast = join(disk, 'ballast');
/** Leaves so many bytes free, or fewer where the application writes meanwhile. */
const leave = (bytes: number) => {
	try {
		writeFileSync(ballast, Buffer.alloc(Math.max(0, free() - bytes)));
	} catch (error) {
		if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error;
	}
};

const edit = async (client: Client, packet: string, name: string) => {
	const { version } = await client.json<PacketView>(`/api/packets/${packet}`);
	return client.send(`/api/packets/${packet}/changes`, {
		kind: 'edit',
		base: version,
		change: { kind: 'setFileName', name }
	});
};

it('takes no files in while the reserve is all that is left, says so, keeps edits, and goes on by itself', async () => {
	const ilka = await Client.signIn(app.address, 'ilka');
	const packet = await ilka.openPacket(assignment);
	const bytes = await jpeg(testPhotograph(testPage(8), { seed: 8, size: [900, 1200] }).picture, 90);
	const begun = await ilka.beginUpload(packet, 'begun.jpg', bytes.length);
	leave(30e6);
	await pause(1_500);
	const refused = await ilka.fetch('/api/uploads', {
		method: 'POST',
		headers: {
			'tus-resumable': '1.0.0',
			'upload-length': '10',
			'upload-metadata': `packet ${btoa(packet)},name ${btoa('new.jpg')}`
		}
	});
	expect([refused.status, await refused.text()]).toEqual([507, expect.stringContaining('nearly full')]);
	await expect(ilka.continueUpload(begun, bytes, 0)).rejects.toThrow('507');
	for (let i = 0; i < 20; i++) expect((await edit(ilka, packet, `edit-${i}`)).status).toBe(200);
	rmSync(ballast);
	await until(() => ilka.continueUpload(begun, bytes, 0));
	await until(async () => {
		const view = await ilka.json<PacketView>(`/api/packets/${packet}`);
		return Object.values(view.pages).some((p) => p.prepared);
	});
});

it('stays up when there is no byte left, and keeps what it acknowledged', async () => {
	const ilka = await Client.signIn(app.address, 'ilka');
	const packet = await ilka.openPacket(assignment);
	const acknowledged: string[] = [];
	const statuses = new Set<number>();
	// Somebody else fills the disk to its end while edits go on.
	for (let round = 0; round < 4; round++) {
		leave(round * 60_000);
		for (let i = 0; i < 40; i++) {
			const name = `round-${round}-${i}-${'x'.repeat(100)}`;
			const answer = await edit(ilka, packet, name).catch(() => null);
			if (answer) statuses.add(answer.status);
			if (answer?.status === 200) acknowledged.push(name);
		}
		rmSync(ballast);
		await until(async () => (await edit(ilka, packet, `space again ${round}`)).status === 200);
	}
	expect(app.process.exitCode).toBeNull();
	expect([...statuses].every((s) => s === 200 || s >= 500)).toBe(true);
	const log = await ilka.json<{ change: { name?: string } }[]>(`/api/packets/${packet}/log`);
	const kept = new Set(log.map((l) => l.change.name));
	for (const name of acknowledged.slice(-100)) expect(kept).toContain(name);
	// Killed now, it finds everything again.
	await app.kill('SIGKILL');
	app = await startApp(data, port, undefined, 'off', { MEMBRANA_RESERVE_MB: '40' });
	const after = await ilka.json<{ change: { name?: string } }[]>(`/api/packets/${packet}/log`);
	expect(after.map((l) => l.change.name)).toEqual(log.map((l) => l.change.name));
});
