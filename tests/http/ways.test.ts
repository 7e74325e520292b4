import { mkdtempSync } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Destinations } from '../../src/lib/server/delivery/destinations';
import type { PacketView } from '../../src/lib/server/view/packetView';
import type { DeliveryRow, FileRow } from '../../src/lib/server/store/deliveries';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { answerWith, makeFile } from '../support/handIn';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const root = mkdtempSync(join(tmpdir(), 'membrana-ways-'));
let app: RunningApp;
/** A portal that takes every request and never answers. */
let silent: Server;
let ilka: Client;
let packet: string;
let file: FileRow;

beforeAll(async () => {
	silent = createServer(() => undefined);
	await new Promise<void>((done) => silent.listen(0, '127.0.0.1', done));
	const { assignment } = await seed(join(root, 'data'));
	app = await startApp(
		join(root, 'data'),
		await freePort(),
		`http://127.0.0.1:${(silent.address() as AddressInfo).port}`,
		'off',
		{ MEMBRANA_HAND_IN_FOLDER: join(root, 'folder') }
	);
	ilka = await Client.signIn(app.address, 'ilka');
	const bytes = await jpeg(testPhotograph(testPage(2), { seed: 2, size: [900, 1200] }).picture, 90);
	const answered = await answerWith(ilka, assignment, bytes);
	packet = answered.packet;
	file = await makeFile(ilka, packet, answered.version);
});
afterAll(async () => {
	await app.kill('SIGTERM');
	silent.closeAllConnections();
	silent.close();
});

it('a portal that never answers holds up neither the list of destinations nor what goes elsewhere', async () => {
	const hand = (target: string, key: string) =>
		ilka.send(`/api/packets/${packet}/deliveries`, { file: file.id, key: key.padEnd(20, 'k'), target });
	const toPortal = (await (await hand('portal', 'portal')).json()) as DeliveryRow;
	const began = Date.now();
	const list = await ilka.json<Destinations>(`/api/packets/${packet}/destinations`);
	expect(list).toMatchObject({ portal: { list: null, asking: true }, folder: { path: null } });
	expect(list.own.title).toBe('Worksheet 9');
	const { id } = (await (await hand('folder', 'folder')).json()) as DeliveryRow;
	const received = await until(async () => {
		const { deliveries } = await ilka.json<PacketView>(`/api/packets/${packet}`);
		return deliveries.find((d) => d.id === id && d.state === 'received');
	});
	expect(received.receipt?.sha256).toBe(file.sha256);
	// The portal is silent for half a minute before it is given up; nothing of that was waited for.
	expect(Date.now() - began).toBeLessThan(20_000);
	expect(await readdir(join(root, 'folder', 'HY-2', 'Worksheet 9'))).toHaveLength(1);
	const { deliveries } = await ilka.json<PacketView>(`/api/packets/${packet}`);
	expect(deliveries.find((d) => d.id === toPortal.id)?.state).toBe('sending');
	// What was handed in can be proved although nobody received it, here and by whoever holds the proof.
	const proof = await ilka.json<object>(`/api/packets/${packet}/deliveries/${toPortal.id}/proof`);
	const nobody = new Client(app.address, '');
	const check = async (given: object) =>
		((await (await nobody.send('/api/proof', given)).json()) as { genuine: boolean }).genuine;
	expect(await check(proof)).toBe(true);
	const { statement } = proof as { statement: string };
	expect(JSON.parse(statement)).toMatchObject({ sha256: file.sha256, delivery: toPortal.id });
	expect(await check({ ...proof, statement: statement.replace('Worksheet 9', 'Worksheet 8') })).toBe(false);
});

it('keys that are no keys are refused where they come in', async () => {
	for (const key of ['short', 'with blanks in it, long', 'x'.repeat(81), 'käse'.repeat(8)]) {
		const answer = await ilka.send(`/api/packets/${packet}/deliveries`, { file: file.id, key });
		expect([key, answer.status]).toEqual([key, 400]);
	}
});
