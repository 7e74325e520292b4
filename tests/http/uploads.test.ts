import { mkdtempSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Random } from '../../demo/generator/random';
import { blankPicture } from '../../src/lib/core/raster/picture';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Vault } from '../../src/lib/server/vault/vault';
import { UploadQueue, type QueuedFile, type QueueStore } from '../../src/lib/ui/packet/uploadQueue';
import { Client, freePort, pause, seed, startApp, until, type RunningApp } from '../support/app';
import { CuttingProxy } from '../support/cuttingProxy';
import { jpeg } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-uploads-'));
let app: RunningApp;
let port: number;
let assignment: string;
let line: CuttingProxy;

/** Uploads come by another address than the page's. */
const started = () => startApp(data, port, undefined, undefined, { ORIGIN: `http://127.0.0.1:${port}` });
beforeAll(async () => {
	({ assignment } = await seed(data));
	port = await freePort();
	app = await started();
	line = await CuttingProxy.start(port);
});
afterAll(async () => {
	line.close();
	await app.kill('SIGTERM');
});

const FILES = 60;

/** What a browser's database would hold, in memory. */
class MemoryStore implements QueueStore {
	readonly files = new Map<string, QueuedFile>();
	all = (packet: string) => Promise.resolve([...this.files.values()].filter((f) => f.packet === packet));
	put = (file: QueuedFile) => Promise.resolve(void this.files.set(file.key, { ...file }));
	delete = (key: string) => Promise.resolve(void this.files.delete(key));
}

/** Small noisy pictures: each a file of its own, quick to prepare. */
function pictures(): Promise<Buffer[]> {
	return Promise.all(
		Array.from({ length: FILES }, (_, i) => {
			const random = new Random(900 + i);
			const picture = blankPicture(260, 340);
			for (let k = 0; k < picture.data.length; k++) picture.data[k] = random.whole(150, 255);
			return jpeg(picture, 92);
		})
	);
}

it('60 files over a line that is cut and a server that is killed again and again: all there, none twice', async () => {
	const random = new Random(5);
	const bytes = await pictures();
	const ilka = await Client.signIn(app.address, 'ilka');
	const packet = await ilka.openPacket(assignment);
	const store = new MemoryStore();
	const safe = new Set<string>();
	const failed: string[] = [];
	const open = () =>
		new UploadQueue({
			store,
			// tus through the line that is cut.
			endpoint: `http://127.0.0.1:${line.port}/api/uploads`,
			headers: { cookie: ilka.cookie, origin: app.address },
			open: async (blob) => Buffer.from(await blob.arrayBuffer()),
			onProgress: (file, progress) => {
				if (progress.state === 'safe') safe.add(file.key);
				if (progress.state === 'failed') failed.push(`${file.name}: ${progress.problem}`);
			}
		});
	let queue = open();
	const files = bytes.map((b, i): QueuedFile => {
		const key = createHash('sha256').update(`${i}`).digest('hex').slice(0, 32);
		return { key, packet, name: `p${i}.jpg`, blob: new Blob([new Uint8Array(b)]), batch: 1, place: i };
	});
	await queue.add(files);

	for (let round = 0; round < 30 && safe.size < FILES; round++) {
		await pause(random.between(150, 600));
		// However slow the machine is, something gets through now and then.
		const before = safe.size;
		for (let i = 0; i < 600 && round % 5 === 4 && safe.size === before; i++) await pause(50);
		line.cut();
		if (round % 8 === 1) {
			await app.kill('SIGKILL');
			app = await started();
		}
		if (round % 6 === 3) {
			// The page is closed and opened again: what is unsent is in the store.
			queue.close();
			queue = open();
			await queue.resume(packet);
		}
		line.mend();
		queue.wake();
	}
	const acknowledged = new Set(safe);
	for (let i = 0; i < 900 && safe.size < FILES; i++) await pause(100);
	expect(failed).toEqual([]);
	expect(safe.size).toBe(FILES);
	expect(acknowledged.size).toBeGreaterThan(0);
	expect(store.files.size).toBe(0);

	const view = await ilka.json<PacketView>(`/api/packets/${packet}`);
	expect(view.sources.map((s) => s.clientKey).sort()).toEqual(files.map((f) => f.key).sort());
	const vault = new Vault(join(data, 'vault'));
	for (const b of bytes) {
		const sha256 = createHash('sha256').update(b).digest('hex');
		expect((await readFile(vault.pathOf(sha256))).equals(b)).toBe(true);
	}
	// Pages come in the order the files were given, each once.
	for (let i = 0; i < 1200; i++) {
		const { packet: state } = await ilka.json<PacketView>(`/api/packets/${packet}`);
		if (state.strip.length === FILES) break;
		await pause(100);
	}
	const after = await ilka.json<PacketView>(`/api/packets/${packet}`);
	const nameOf = new Map(after.sources.map((s) => [s.id, s.name]));
	expect(after.packet.strip.map((id) => nameOf.get(after.packet.pages[id]!.source))).toEqual(
		files.map((f) => f.name)
	);
	queue.close();
});

it('a file that is there already is said to be there, and one can be placed and put in the place of another', async () => {
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	const [a, b, c, d] = (await pictures()) as [Buffer, Buffer, Buffer, Buffer];
	const bring = async (bytes: Buffer, name: string, more: Record<string, string>) => {
		const path = await tobias.beginUpload(packet, name, bytes.length, more);
		await tobias.continueUpload(path, bytes, 0);
	};
	const until = async (done: (view: PacketView) => boolean): Promise<PacketView> => {
		for (let i = 0; i < 200; i++) {
			const view = await tobias.json<PacketView>(`/api/packets/${packet}`);
			if (done(view)) return view;
			await pause(100);
		}
		throw new Error('Waited in vain.');
	};
	await bring(a, 'a.jpg', { key: 'ka' });
	await bring(b, 'b.jpg', { key: 'kb' });
	const two = await until((v) => v.packet.strip.length === 2);
	const [first] = two.packet.strip;

	await bring(a, 'again.jpg', { key: 'kc' });
	const repeat = await until((v) => v.sources.length === 3);
	expect(repeat.sources.find((s) => s.name === 'again.jpg')).toMatchObject({ state: 'repeat' });
	expect(repeat.sources.find((s) => s.name === 'again.jpg')!.problem).toContain('a.jpg');

	await bring(c, 'c.jpg', { key: 'kd', after: first! });
	const three = await until((v) => v.packet.strip.length === 3);
	const names = (view: PacketView) =>
		view.packet.strip.map((id) => view.sources.find((s) => s.id === view.packet.pages[id]!.source)!.name);
	expect(names(three)).toEqual(['a.jpg', 'c.jpg', 'b.jpg']);

	await bring(d, 'd.jpg', { key: 'ke', replaces: 'key:ka' });
	const swapped = await until((v) => names(v).includes('d.jpg'));
	expect(names(swapped)).toEqual(['d.jpg', 'c.jpg', 'b.jpg']);
	expect(swapped.packet.strip[0]).toBe(first);
	// The old picture comes back with an undo.
	await tobias.send(`/api/packets/${packet}/changes`, { kind: 'undo', base: swapped.version });
	expect(names(await until((v) => !names(v).includes('d.jpg')))).toEqual(['a.jpg', 'c.jpg', 'b.jpg']);
});

it('a ZIP becomes its files, in its place, and is kept itself', async () => {
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	const [, , , , e, f] = (await pictures()) as Buffer[];
	const zip = Buffer.from(
		zipSync({
			'in/z 10.jpg': new Uint8Array(e!),
			'in/z 2.jpg': new Uint8Array(f!),
			'in/notes.txt': strToU8('hello')
		})
	);
	const before = (await tobias.json<PacketView>(`/api/packets/${packet}`)).packet.strip.length;
	const path = await tobias.beginUpload(packet, 'all.zip', zip.length, { key: 'kz', batch: '9', place: '0' });
	await tobias.continueUpload(path, zip, 0);
	let view!: PacketView;
	for (let i = 0; i < 200; i++) {
		view = await tobias.json<PacketView>(`/api/packets/${packet}`);
		if (view.sources.every((s) => s.state !== 'waiting') && view.packet.strip.length === before + 2) break;
		await pause(100);
	}
	const nameOf = new Map(view.sources.map((s) => [s.id, s.name]));
	expect(view.packet.strip.slice(-2).map((id) => nameOf.get(view.packet.pages[id]!.source))).toEqual([
		'z 2.jpg',
		'z 10.jpg'
	]);
	expect(view.sources.find((s) => s.name === 'all.zip')).toMatchObject({ state: 'ready' });
	expect(view.sources.find((s) => s.name === 'notes.txt')).toMatchObject({ state: 'refused' });
});

it('an edit sent twice under one key is carried out once', async () => {
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	const before = await tobias.json<PacketView>(`/api/packets/${packet}`);
	const edit = (base: number) =>
		tobias.send(`/api/packets/${packet}/changes`, { kind: 'undo', base, key: 'the-same-key' });
	await tobias.send(`/api/packets/${packet}/changes`, {
		kind: 'edit',
		base: before.version,
		change: { kind: 'setFileName', name: 'one' }
	});
	const first = (await (await edit(before.version + 1)).json()) as Pick<PacketView, 'version'>;
	const after = await tobias.json<PacketView>(`/api/packets/${packet}`);
	expect([after.version, after.packet.fileName]).toEqual([first.version, null]);
	// The answer was lost; the browser asks again on the newest state.
	const second = await edit(first.version);
	expect(second.status).toBe(200);
	expect(await second.json()).toEqual({ version: first.version });
});

it('takes in as much as an administrator says, from then on, also of what a ZIP unpacks to', async () => {
	const wessel = await Client.signIn(app.address, 'wessel');
	const set = (megabytes: string) =>
		wessel.fetch('/school/settings?/save', {
			method: 'POST',
			headers: { accept: 'application/json' },
			body: new URLSearchParams({ packetMegabytes: megabytes })
		});
	expect(await (await set('a few')).text()).toContain('is no number of megabytes of at least 20');
	expect(await (await set('20')).text()).toContain('success');
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	await expect(tobias.beginUpload(packet, 'large.jpg', 20_000_001)).rejects.toThrow('413');
	const zip = Buffer.from(zipSync({ 'a.pdf': new Uint8Array(12e6), 'b.pdf': new Uint8Array(12e6) }));
	const path = await tobias.beginUpload(packet, 'two.zip', zip.length);
	await tobias.continueUpload(path, zip, 0);
	const refused = await until(async () => {
		const { sources } = await tobias.json<PacketView>(`/api/packets/${packet}`);
		return sources.find((s) => s.name === 'two.zip' && s.state === 'refused');
	});
	expect(refused.problem).toBe('A packet takes at most 20 MB of originals in.');
	await set('2000');
	await expect(tobias.beginUpload(packet, 'large.jpg', 20_000_001)).resolves.toContain('/api/uploads/');
});

it('two that send the same upload at once hear that it goes on or is complete, never that it is gone', async () => {
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	const heard = new Set<number>();
	for (let round = 0; round < 40; round++) {
		const bytes = Buffer.from(`No picture at all, number ${round}.`);
		const path = await tobias.beginUpload(packet, `note ${round}.txt`, bytes.length);
		const send = async (wait: number) => {
			await pause(wait);
			return tobias.patchUpload(path, bytes, 0);
		};
		const answers = await Promise.all([send(0), send(round % 10), send((round * 3) % 20)]);
		for (const { status } of answers) heard.add(status);
		expect(await tobias.uploadOffset(path)).toBe(bytes.length);
	}
	expect([...heard].filter((status) => status !== 204 && status !== 400 && status !== 409)).toEqual([]);
	expect(heard).toContain(204);
});
