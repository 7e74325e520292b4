import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { FileRow } from '../../src/lib/server/store/deliveries';
import type { PacketView } from '../../src/lib/server/packetView';
import { startPortal } from '../../standins/portal/portal';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-delivery-'));
const portalFolder = mkdtempSync(join(tmpdir(), 'membrana-delivery-portal-'));
let app: RunningApp;
let assignment: string;
let portalPort: number;
let port: number;

beforeAll(async () => {
	({ assignment } = await seed(data));
	portalPort = await freePort();
	port = await freePort();
	app = await startApp(data, port, `http://127.0.0.1:${portalPort}`);
});
afterAll(() => app.kill('SIGTERM'));

it('a file handed in while the portal is down arrives once when it is back, over a kill -9, and only when nothing blocks', async () => {
	const ilka = await Client.signIn(app.address, 'ilka');
	const packet = await ilka.openPacket(assignment);
	const view = () => ilka.json<PacketView>(`/api/packets/${packet}`);
	const bytes = await jpeg(testPhotograph(testPage(70), { size: [900, 1200] }).picture);
	await ilka.continueUpload(await ilka.beginUpload(packet, 'page.jpg', bytes.length), bytes, 0);
	const ready = await until(async () => {
		const now = await view();
		return Object.values(now.pages).some((p) => p.prepared) && now;
	});

	const make = async (version: number) => {
		const post = () => ilka.send(`/api/packets/${packet}/file`, { version, type: 'pdf' });
		return until(async () => {
			const file = (await (await post()).json()) as FileRow;
			return file.state === 'ready' && file;
		});
	};
	const first = await make(ready.version);
	const key = 'one-wish-to-hand-in';
	const blocked = await ilka.send(`/api/packets/${packet}/deliveries`, { file: first.id, key });
	expect(blocked.status).toBe(422);
	expect(((await blocked.json()) as { message: string }).message).toContain('No question has been placed');

	const seam = { id: 's1', page: ready.packet.strip[0]!, y: 0, questions: ['1'] };
	const change = { kind: 'setSeam', seam };
	expect(
		(await ilka.send(`/api/packets/${packet}/changes`, { kind: 'edit', base: ready.version, change })).status
	).toBe(200);
	const stale = await ilka.send(`/api/packets/${packet}/deliveries`, { file: first.id, key });
	expect(stale.status).toBe(409);

	const file = await make(ready.version + 1);
	for (let click = 0; click < 3; click++) {
		expect((await ilka.send(`/api/packets/${packet}/deliveries`, { file: file.id, key })).status).toBe(200);
	}
	const waiting = await until(async () => (await view()).deliveries.find((d) => d.tries > 0));
	expect(waiting).toMatchObject({
		state: 'sending',
		problem: 'The grading portal does not answer.',
		receipt: null
	});
	expect((await view()).deliveries).toHaveLength(1);

	await app.kill('SIGKILL');
	const portal = await startPortal({ folder: portalFolder, port: portalPort, maxBytes: 20_000_000 });
	app = await startApp(data, port, portal.address);
	const received = await until(async () => (await view()).deliveries.find((d) => d.state === 'received'));
	expect(received.receipt).toMatchObject({ sha256: file.sha256, bytes: file.bytes, late: false });
	const arrived = (await (await fetch(`${portal.address}/api/submissions`)).json()) as { sha256: string }[];
	expect(arrived.map((s) => s.sha256)).toEqual([file.sha256]);

	expect(
		(await ilka.fetch(`/api/packets/${packet}/deliveries/${received.id}`, { method: 'DELETE' })).status
	).toBe(200);
	await until(async () => (await view()).deliveries.some((d) => d.state === 'recalled'));
	await portal.close();
});
