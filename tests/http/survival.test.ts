import { mkdtempSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import type { LogLine } from '../../src/lib/server/store/packets';
import { Vault } from '../../src/lib/server/vault/vault';
import { Random } from '../../demo/generator/random';
import { Client, freePort, pause, seed, startApp, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-survival-'));
let app: RunningApp;
let port: number;
let assignment: string;

beforeAll(async () => {
	({ assignment } = await seed(data));
	port = await freePort();
	app = await startApp(data, port);
});
afterAll(() => app.kill('SIGTERM'));

const FILES = 6;
const KILLS = 5;

it('kill -9 again and again during uploads, preparation and editing loses nothing acknowledged', async () => {
	const random = new Random(11);
	const ilka = await Client.signIn(app.address, 'ilka');
	const packet = await ilka.openPacket(assignment);
	const pictures = await Promise.all(
		Array.from({ length: FILES }, (_, i) =>
			jpeg(testPhotograph(testPage(60 + i), { seed: i, size: [900, 1200], noise: 3 }).picture, 92)
		)
	);

	let over = false;
	/** Tries until it works: the server is gone half of the time. */
	const insist = async <T>(work: () => Promise<T>): Promise<T> => {
		for (;;) {
			try {
				return await work();
			} catch (error) {
				if (over) throw error;
				await pause(50);
			}
		}
	};

	const uploads = pictures.map(async (bytes, i) => {
		const path = await insist(() => ilka.beginUpload(packet, `p${i}.jpg`, bytes.length));
		let offset = 0;
		while (offset < bytes.length) {
			await pause(random.between(50, 400));
			offset = await insist(async () => {
				const there = await ilka.uploadOffset(path);
				return there >= bytes.length ? there : ilka.continueUpload(path, bytes, there, 40_000);
			});
		}
	});

	const acknowledged: string[] = [];
	const editing = (async () => {
		for (let n = 0; !over; n++) {
			const name = `edit-${n}`;
			await insist(async () => {
				const { version } = await ilka.json<PacketView>(`/api/packets/${packet}`);
				const change = { kind: 'setFileName', name };
				const response = await ilka.send(`/api/packets/${packet}/changes`, {
					kind: 'edit',
					base: version,
					change
				});
				if (response.status !== 200) throw new Error('again');
				acknowledged.push(name);
			}).catch(() => undefined);
			await pause(40);
		}
	})();

	for (let k = 0; k < KILLS; k++) {
		await pause(random.between(300, 1800));
		await app.kill('SIGKILL');
		app = await startApp(data, port);
	}
	await Promise.all(uploads);
	over = true;
	await editing;
	await app.kill('SIGKILL');
	app = await startApp(data, port);

	let view!: PacketView;
	for (let i = 0; i < 600; i++) {
		view = await ilka.json<PacketView>(`/api/packets/${packet}`);
		if (Object.values(view.pages).filter((p) => p.prepared).length === FILES) break;
		await pause(100);
	}
	expect(view.sources.map((s) => [s.name, s.state]).sort()).toEqual(
		pictures.map((_, i) => [`p${i}.jpg`, 'ready'])
	);
	expect(view.packet.strip).toHaveLength(FILES);
	expect(Object.values(view.pages).every((p) => p.prepared !== null)).toBe(true);

	const vault = new Vault(join(data, 'vault'));
	for (const bytes of pictures) {
		const sha256 = createHash('sha256').update(bytes).digest('hex');
		expect((await readFile(vault.pathOf(sha256))).equals(bytes)).toBe(true);
	}

	const log = await ilka.json<LogLine[]>(`/api/packets/${packet}/log`);
	expect(log.map((l) => l.version)).toEqual(log.map((_, i) => log[0]!.version - i));
	const kept = log.flatMap((l) => (l.change.kind === 'setFileName' ? [l.change.name] : []));
	expect(acknowledged.length).toBeGreaterThan(5);
	// The log goes back 200 lines; machine lines and repeated edits are fewer than fifty of them.
	for (const name of acknowledged.slice(-150)) expect(kept).toContain(name);
});
