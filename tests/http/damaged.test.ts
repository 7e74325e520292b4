import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, pause, seed, startApp, until, type RunningApp } from '../support/app';
import { damage, damaged, KINDS, noise, soundFiles } from '../support/damaged';

const data = mkdtempSync(join(tmpdir(), 'membrana-damaged-'));
let app: RunningApp;
let assignment: string;

beforeAll(async () => {
	({ assignment } = await seed(data));
	app = await startApp(data, await freePort());
});
afterAll(() => app.kill('SIGTERM'));

const FILES = 120;
const FIRST_SEED = 20_261;

/** Memory that the server holds, in megabytes. */
function held(): number {
	const status = readFileSync(`/proc/${app.process.pid}/status`, 'utf8');
	return Number(/VmRSS:\s+(\d+)/.exec(status)![1]) / 1024;
}

async function send(client: Client, packet: string, name: string, bytes: Buffer): Promise<void> {
	const path = await client.beginUpload(packet, name, bytes.length, { key: name.replace('.', '') });
	if (bytes.length > 0) await client.continueUpload(path, bytes, 0);
}

it('damaged files of every kind are refused with a sentence or become pages, and the server goes on as before', async () => {
	const ilka = await Client.signIn(app.address, 'ilka');
	const packet = await ilka.openPacket(assignment);
	const sound = await soundFiles();
	const cases = fc.sample(damage, { numRuns: FILES, seed: FIRST_SEED }).filter((how) => how.cut > 0);
	const settled = (view: PacketView, from: number, to: number) => {
		const names = new Set(cases.slice(from, to).map((how, i) => `d${from + i}.${how.kind}`));
		const mine = view.sources.filter((s) => names.has(s.name));
		return mine.length === names.size && mine.every((s) => s.state !== 'waiting');
	};
	const look = () => ilka.json<PacketView>(`/api/packets/${packet}`);
	const half = Math.floor(cases.length / 2);
	const memory: number[] = [];
	for (const [from, to] of [
		[0, half],
		[half, cases.length]
	] as const) {
		for (let i = from; i < to; i++) {
			await send(ilka, packet, `d${i}.${cases[i]!.kind}`, damaged(sound, cases[i]!));
		}
		await until(async () => settled(await look(), from, to));
		memory.push(held());
	}
	const view = await look();
	for (const source of view.sources) {
		expect(['ready', 'refused', 'repeat']).toContain(source.state);
		// A sentence for people: no class names, no paths, no codes.
		if (source.state === 'refused') {
			expect(source.problem, source.name).toMatch(/^\p{Lu}[^{}<>]*[.!?]$/u);
			expect(source.problem, source.name).not.toMatch(/Error\b|undefined|null|\/tmp|node_modules| at /);
		}
	}
	const refused = view.sources.filter((s) => s.state === 'refused');
	expect(new Set(refused.map((s) => s.name.split('.')[1]))).toEqual(new Set(KINDS));
	// The second half is taken in by threads that are warm: whatever is kept of each file would show.
	expect(memory[1]! - memory[0]!).toBeLessThan(80);

	// A sound picture after all this becomes a page.
	const before = view.packet.strip.length;
	await send(ilka, packet, 'sound.jpg', await noise(400, 520).jpeg().toBuffer());
	const after = await until(async () => {
		const now = await look();
		return now.packet.strip.length === before + 1 && now;
	});
	expect(after.sources.find((s) => s.name === 'sound.jpg')).toMatchObject({ state: 'ready' });
	expect(app.process.exitCode).toBeNull();
	expect(app.output()).not.toMatch(/Unhandled|FATAL|heap out of memory/i);
});

it('what is not an upload is refused at the door, with a reason', async () => {
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	await fc.assert(
		fc.asyncProperty(
			fc.record({
				length: fc.constantFrom('-1', '0.5', 'many', '99999999999999', ''),
				metadata: fc.constantFrom(
					'',
					'packet',
					'packet !!!',
					`packet ${btoa('nobody')}`,
					`name ${btoa('x.jpg')}`
				)
			}),
			async ({ length, metadata }) => {
				const answer = await fetch(`${app.address}/api/uploads`, {
					method: 'POST',
					headers: {
						cookie: tobias.cookie,
						origin: app.address,
						'tus-resumable': '1.0.0',
						'upload-length': length,
						'upload-metadata': metadata
					}
				});
				const text = await answer.text();
				expect(answer.status).toBeGreaterThanOrEqual(400);
				expect(answer.status).toBeLessThan(500);
				expect(text.trim()).not.toBe('');
				expect(text).not.toMatch(/ at .*\.js|node_modules/);
			}
		),
		{ numRuns: 40, seed: FIRST_SEED }
	);
	await pause(50);
	expect((await tobias.json<PacketView>(`/api/packets/${packet}`)).sources).toEqual([]);
});
