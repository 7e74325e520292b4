import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { FileRow } from '../../src/lib/server/store/deliveries';
import type { PacketView } from '../../src/lib/server/view/packetView';
import sharp from 'sharp';
import { Portal } from '../../src/lib/server/delivery/portal';
import { NO_FAULTS, type Faults } from '../../standins/portal/faults';
import { startPortal } from '../../standins/portal/portal';
import type { PortalSubmission } from '../../standins/portal/submissions';
import { Client, freePort, pause, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-delivery-'));
const portalFolder = mkdtempSync(join(tmpdir(), 'membrana-delivery-portal-'));
let app: RunningApp;
let assignment: string;
let portalPort: number;
let port: number;
let wishes = 0;

/** What a reader finds written in a PDF; throws when it cannot be opened. */
function textOf(pdf: ArrayBuffer, password?: string): string {
	const path = join(data, 'to-read.pdf');
	writeFileSync(path, Buffer.from(pdf));
	return execFileSync('pdftotext', [...(password ? ['-upw', password] : []), path, '-'], {
		encoding: 'utf8',
		stdio: ['ignore', 'pipe', 'pipe']
	});
}

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

	// The proof is drawn from the file; its contents, its receipt and a locked copy can be had.
	const at = `/api/packets/${packet}/files/${file.id}`;
	const proof = await sharp(Buffer.from(await (await ilka.fetch(`${at}/pages/1`)).arrayBuffer())).metadata();
	expect(proof).toMatchObject({ format: 'jpeg' });
	expect((await ilka.fetch(`${at}/pages/2`)).status).toBe(404);
	const rows = (await (await ilka.fetch(`${at}/manifest?as=csv`)).text()).trim().split('\n');
	expect(rows[0]).toContain('position,question,top,bottom,source');
	expect(rows[1]).toMatch(/^1,1,0.0000,1.0000,page.jpg,0,/);
	expect(await ilka.json(`${at}/manifest`)).toMatchObject({
		file: { sha256: file.sha256 },
		map: [{ question: '1', confidence: 1 }]
	});
	const receipt = await ilka.fetch(`/api/packets/${packet}/deliveries/${received.id}/receipt`);
	expect(textOf(await receipt.arrayBuffer())).toContain(received.receipt!.number);
	expect((await ilka.send(at, { password: 'abc' })).status).toBe(400);
	const locked = await (await ilka.send(at, { password: 'reed mace' })).arrayBuffer();
	expect(() => textOf(locked)).toThrow();
	expect(() => textOf(locked, 'reed mace')).not.toThrow();

	// Nothing of it is reached through another student's own packet.
	const tobias = await Client.signIn(app.address, 'tobias');
	const own = await tobias.openPacket(assignment);
	for (const path of [
		`files/${file.id}`,
		`files/${file.id}/pages/1`,
		`files/${file.id}/manifest`,
		`deliveries/${received.id}/receipt`
	]) {
		expect([path, (await tobias.fetch(`/api/packets/${own}/${path}`)).status]).toEqual([path, 404]);
	}
	const steal = { file: file.id, key: 'a-wish-of-somebody-else' };
	expect((await tobias.send(`/api/packets/${own}/deliveries`, steal)).status).toBe(404);
	const notHis = `/api/packets/${own}/deliveries/${received.id}`;
	expect((await tobias.fetch(notHis, { method: 'DELETE' })).status).toBe(404);

	// Another assignment, an address that nobody approved, a way that is not there.
	const elsewhere = { id: 'hb-2', title: 'Herbarium 2', course: 'BO-1', due: null, grace: 0, strict: true };
	await new Portal(portal.address).publish(elsewhere);
	const send = (more: object) =>
		ilka.send(`/api/packets/${packet}/deliveries`, {
			file: file.id,
			key: `another-wish-to-${++wishes}`,
			...more
		});
	const wrong = await send({ to: 'hb-2' });
	expect(wrong.status).toBe(422);
	expect(((await wrong.json()) as { message: string }).message).toMatch(
		/Worksheet 9.*HY-2.*Herbarium 2.*BO-1/
	);
	expect((await send({ to: 'hb-2', confirmed: 'Worksheet 9' })).status).toBe(422);
	expect((await send({ to: 'nothing' })).status).toBe(404);
	expect((await send({ target: 'mail', to: 'someone@elsewhere.example' })).status).toBe(422);
	expect((await send({ target: 'folder' })).status).toBe(422);
	expect((await send({ to: 'hb-2', confirmed: 'Herbarium 2' })).status).toBe(200);
	await until(async () => (await view()).deliveries.filter((d) => d.state === 'received').length === 2);

	expect(
		(await ilka.fetch(`/api/packets/${packet}/deliveries/${received.id}`, { method: 'DELETE' })).status
	).toBe(200);
	await until(async () => (await view()).deliveries.some((d) => d.state === 'recalled'));
	await portal.close();
});

it('a server that is killed at any moment of a delivery finishes it after its restart, once', async () => {
	const portal = await startPortal({ folder: portalFolder, port: portalPort, maxBytes: 20_000_000 });
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	const view = () => tobias.json<PacketView>(`/api/packets/${packet}`);
	const bytes = await jpeg(testPhotograph(testPage(71), { size: [900, 1200] }).picture);
	await tobias.continueUpload(await tobias.beginUpload(packet, 'page.jpg', bytes.length), bytes, 0);
	await until(async () => Object.values((await view()).pages).some((p) => p.prepared));
	const edit = async (change: object) => {
		const { version } = await view();
		const done = await tobias.send(`/api/packets/${packet}/changes`, { kind: 'edit', base: version, change });
		expect(done.status).toBe(200);
	};
	const first = (await view()).packet.strip[0]!;
	await edit({ kind: 'setSeam', seam: { id: 's1', page: first, y: 0, questions: ['1'] } });

	/** Each with what the portal does, and how long after the click the server is killed. */
	const moments: [Partial<Faults>, number][] = [
		[{ slow: 700 }, 300],
		[{ slow: 350 }, 500],
		[{ loseAnswer: true }, 400],
		[{ cutAt: 2000 }, 600]
	];
	for (const [i, [faults, after]] of moments.entries()) {
		await edit({ kind: 'setFileName', name: `version ${i}` });
		const { version } = await view();
		const file = await until(async () => {
			const answer = await tobias.send(`/api/packets/${packet}/file`, { version, type: 'pdf' });
			const made = (await answer.json()) as FileRow;
			return made.state === 'ready' && made;
		});
		portal.faults.set({ ...NO_FAULTS, ...faults });
		const wish = { file: file.id, key: `one-wish-at-a-moment-${i}` };
		expect((await tobias.send(`/api/packets/${packet}/deliveries`, wish)).status).toBe(200);
		await pause(after);
		await app.kill('SIGKILL');
		portal.faults.set(NO_FAULTS);
		app = await startApp(data, port, portal.address);
		const received = await until(async () =>
			(await view()).deliveries.find((d) => d.fileId === file.id && d.state === 'received')
		);
		expect(received.receipt!.sha256).toBe(file.sha256);
		const there = (await (await fetch(`${portal.address}/api/submissions`)).json()) as PortalSubmission[];
		expect(there.filter((s) => s.key === received.idempotencyKey)).toHaveLength(1);
	}
	// Each took the place of the one before.
	const { deliveries } = await view();
	expect(deliveries.map((d) => d.state)).toEqual(['received', ...Array(3).fill('replaced')]);
	const changes = await tobias.json<Record<string, string[]>>(`/api/packets/${packet}/versions`);
	expect(changes[deliveries[0]!.id]).toEqual(['the file has another name']);
	await portal.close();
});
