import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { hugePicture, nestedForms } from '../support/hostilePdf';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-budgets-'));
let app: RunningApp;
let port: number;
let assignment: string;

beforeAll(async () => {
	({ assignment } = await seed(data));
	port = await freePort();
	app = await start();
});
afterAll(() => app.kill('SIGTERM'));

/** Less time for each step than anybody gets, so that the test does not take minutes. */
const start = () => startApp(data, port, undefined, 'off', { MEMBRANA_BUDGET_SCALE: '0.1' });

async function send(client: Client, packet: string, name: string, bytes: Buffer): Promise<void> {
	await client.continueUpload(await client.beginUpload(packet, name, bytes.length), bytes, 0);
}

/** Processes that the server started, with the memory of each in megabytes. */
function workers(): number[] {
	const children = readFileSync(`/proc/${app.process.pid}/task/${app.process.pid}/children`, 'utf8');
	return children
		.trim()
		.split(/\s+/)
		.flatMap((pid) => {
			try {
				const status = readFileSync(`/proc/${pid}/status`, 'utf8');
				return [Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024];
			} catch {
				return [];
			}
		});
}

it('PDFs that never come to an end stop nobody else, are stopped twice and no more, and say why', async () => {
	const ilka = await Client.signIn(app.address, 'ilka');
	const tobias = await Client.signIn(app.address, 'tobias');
	const [hers, his] = [await ilka.openPacket(assignment), await tobias.openPacket(assignment)];
	// Drawn before: drawing takes as long as some of the others' time does.
	const photograph = await jpeg(testPhotograph(testPage(3), { seed: 3, size: [900, 1200] }).picture, 90);
	for (const n of [1, 2]) await send(ilka, hers, `bomb ${n}.pdf`, nestedForms(10 + n));
	const memory: number[] = [];
	const watch = setInterval(() => memory.push(Math.max(0, ...workers())), 200);
	// While all of them are at it, another student's photograph is prepared.
	await until(async () => (await ilka.json<PacketView>(`/api/packets/${hers}`)).packet.strip.length > 0);
	await send(tobias, his, 'mine.jpg', photograph);
	await until(async () => {
		const view = await tobias.json<PacketView>(`/api/packets/${his}`);
		return Object.values(view.pages).some((p) => p.prepared);
	});
	const stillGoing = await ilka.json<PacketView>(`/api/packets/${hers}`);
	expect(Object.values(stillGoing.pages).some((p) => !p.prepared && !p.problem)).toBe(true);

	let stopped!: PacketView;
	for (let i = 0; i < 180; i++) {
		stopped = await until(() => ilka.json<PacketView>(`/api/packets/${hers}`));
		const all = Object.values(stopped.pages);
		// What can be tried again is written down right behind what is wrong.
		if (all.length === 2 && all.every((p) => p.problem) && stopped.troubles.length >= 2) break;
		await new Promise((done) => setTimeout(done, 1_000));
	}
	clearInterval(watch);
	for (const page of Object.values(stopped.pages)) {
		expect(page.problem).toMatch(/could not be prepared.*(time|longer|memory).*stopped twice/);
	}
	expect(stopped.troubles.map((t) => t.job)).toEqual(['prepare-page', 'prepare-page']);
	expect(Math.max(...memory)).toBeLessThan(3_000);
	// Not taken up again by a restart, nor by opening the packet.
	await app.kill('SIGKILL');
	app = await start();
	const view = await ilka.json<PacketView>(`/api/packets/${hers}`);
	expect(view.troubles).toHaveLength(2);
	expect((await ilka.fetch(`/packets/${hers}/gather`)).status).toBe(200);
	await send(
		tobias,
		his,
		'more.jpg',
		await jpeg(testPhotograph(testPage(4), { seed: 4, size: [900, 1200] }).picture, 90)
	);
	await until(async () => {
		const now = await tobias.json<PacketView>(`/api/packets/${his}`);
		return Object.values(now.pages).filter((p) => p.prepared).length === 2;
	});
	// A person may try again; it ends the same way, and says so again.
	const trouble = view.troubles[0]!;
	expect((await ilka.send(`/api/packets/${hers}/troubles/${trouble.id}`, {})).status).toBe(200);
	const asked = await ilka.json<PacketView>(`/api/packets/${hers}`);
	expect(asked.troubles.map((t) => t.id)).not.toContain(trouble.id);
	expect(asked.pages[trouble.page!]!.problem).toBeNull();
	// SIGTERM does not wait for it.
	const before = Date.now();
	await app.kill('SIGTERM');
	expect(Date.now() - before).toBeLessThan(10_000);
	app = await start();
});

it('a PDF with a picture of hundreds of million pixels is refused before anything is decoded', async () => {
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	await send(tobias, packet, 'huge.pdf', hugePicture(26_000));
	const source = await until(async () => {
		const { sources } = await tobias.json<PacketView>(`/api/packets/${packet}`);
		return sources.find((s) => s.name === 'huge.pdf' && s.state === 'refused');
	});
	expect(source.problem).toContain('676 million pixels');
	expect(Math.max(...workers())).toBeLessThan(700);
});
