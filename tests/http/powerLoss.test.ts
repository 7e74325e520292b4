import { createHash } from 'node:crypto';
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Vault } from '../../src/lib/server/vault/vault';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const root = mkdtempSync(join(tmpdir(), 'membrana-power-'));
const [data, synced] = [join(root, 'data'), join(root, 'synced')];

let app: RunningApp;
let after: RunningApp | undefined;
let ilka: Client;
let packet: string;

beforeAll(async () => {
	const { assignment } = await seed(data);
	// What lies there before it starts is on the disk.
	cpSync(data, synced, { recursive: true });
	app = await startApp(data, await freePort(), undefined, 'off', {
		NODE_OPTIONS: `--require ${resolve('tests/support/onlySynced.cjs')}`,
		SYNCED_OF: data,
		SYNCED_TO: synced
	});
	ilka = await Client.signIn(app.address, 'ilka');
	packet = await ilka.openPacket(assignment);
});
afterAll(async () => {
	await app?.kill('SIGKILL');
	await after?.kill('SIGKILL');
	rmSync(root, { recursive: true, force: true });
});

describe('what was acknowledged outlives a power cut', () => {
	const pictures: Buffer[] = [];
	const names: string[] = [];

	it.each([0, 1, 2])(
		'with every write taken back that was not synced, all of it is there (cut %i)',
		async (i) => {
			const bytes = await jpeg(testPhotograph(testPage(20 + i), { seed: i, size: [600, 800] }).picture, 90);
			await ilka.continueUpload(await ilka.beginUpload(packet, `p${i}.jpg`, bytes.length), bytes, 0);
			pictures.push(bytes);
			for (let n = 0; n < 20; n++) {
				const name = `edit-${i}-${n}`;
				await until(async () => {
					const { version } = await ilka.json<PacketView>(`/api/packets/${packet}`);
					const change = { kind: 'setFileName', name };
					const body = { kind: 'edit', base: version, change };
					return (await ilka.send(`/api/packets/${packet}/changes`, body)).status === 200;
				});
				names.push(name);
			}
			// Its copy is what would be found.
			const found = join(root, `found ${i}`);
			// It stands still while that is made, so that all files are of one moment.
			app.process.kill('SIGSTOP');
			cpSync(synced, found, { recursive: true });
			app.process.kill('SIGCONT');
			after = await startApp(found, await freePort());
			const client = new Client(after.address, ilka.cookie);
			const view = await client.json<PacketView>(`/api/packets/${packet}`);
			expect(view.sources.map((s) => s.name).sort()).toEqual(pictures.map((_, p) => `p${p}.jpg`));
			expect(view.sources.every((s) => s.state !== 'refused')).toBe(true);
			const log = await client.json<{ change: { name?: string } }[]>(`/api/packets/${packet}/log`);
			const kept = new Set(log.map((l) => l.change.name));
			for (const name of names) expect(kept, name).toContain(name);
			const vault = new Vault(join(found, 'vault'));
			for (const picture of pictures) {
				const sha256 = createHash('sha256').update(picture).digest('hex');
				expect(readFileSync(vault.pathOf(sha256)).equals(picture)).toBe(true);
			}
			// Its pages are prepared from what was found.
			await until(async () => {
				const now = await client.json<PacketView>(`/api/packets/${packet}`);
				return Object.values(now.pages).filter((p) => p.prepared).length === i + 1;
			});
			await after.kill('SIGTERM');
		}
	);
});
