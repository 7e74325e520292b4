import { createHash } from 'node:crypto';
import {
	existsSync,
	mkdtempSync,
	readdirSync,
	readFileSync,
	rmSync,
	statSync,
	truncateSync,
	utimesSync,
	writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { FileRow } from '../../src/lib/server/store/deliveries';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { startPortal } from '../../standins/portal/portal';
import { answerWith, makeFile } from '../support/handIn';
import { keep } from '../support/keep';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const home = mkdtempSync(join(tmpdir(), 'membrana-backup-'));
const data = join(home, 'data');
const backup = join(home, 'backup.tar');

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
	/** What Tobias is handing in, to a portal that is away. */
	let sent: { packet: string; file: FileRow };
	let portalPort: number;

	beforeAll(async () => {
		const { assignment } = await seed(data);
		portalPort = await freePort();
		app = await startApp(data, await freePort(), `http://127.0.0.1:${portalPort}`);
		const tobias = await Client.signIn(app.address, 'tobias');
		const answered = await answerWith(tobias, assignment, await pagePicture(90));
		const file = await makeFile(tobias, answered.packet, answered.version);
		sent = { packet: answered.packet, file };
		const wish = { file: file.id, key: 'one-wish-to-hand-in' };
		expect((await tobias.send(`/api/packets/${sent.packet}/deliveries`, wish)).status).toBe(200);
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
		const made = keep(data, ['backup', backup]);
		expect(made).toMatchObject({
			status: 0,
			says: expect.stringMatching(/2 packets of 5 people, \d+ files/)
		});
		await app.kill('SIGKILL');
		going = false;
		await coming;
	});
	afterAll(() => app.kill('SIGTERM'));

	it('made while files come in holds all that was acknowledged before, every file with its hash', async () => {
		const restored = join(home, 'restored');
		expect(keep(restored, ['restore', backup])).toMatchObject({
			status: 0,
			says: expect.stringContaining('Restored into')
		});
		expect(keep(restored, ['check'])).toMatchObject({
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
		const again = keep(restored, ['check']);
		expect(again.status).toBe(0);
	});

	it('made while something is handed in has it handed in once, and files are made of pages that nobody looked at since', async () => {
		const restored = join(home, 'handing-in');
		expect(keep(restored, ['restore', backup]).status).toBe(0);
		const portalFolder = join(home, 'portal');
		const portal = await startPortal({ folder: portalFolder, port: portalPort, maxBytes: 20_000_000 });
		const other = await startApp(restored, await freePort(), portal.address);
		const tobias = await Client.signIn(other.address, 'tobias');
		const view = () => tobias.json<PacketView>(`/api/packets/${sent.packet}`);
		const { receipt } = await until(async () =>
			(await view()).deliveries.find((d) => d.state === 'received')
		);
		expect(receipt).toMatchObject({ sha256: sent.file.sha256 });
		const arrived = (await (await fetch(`${portal.address}/api/submissions`)).json()) as { sha256: string }[];
		expect(arrived.map((s) => s.sha256)).toEqual([sent.file.sha256]);
		// Pictures of pages are in no backup. They are made again where a file needs them.
		const { version, packet: state } = await view();
		const seam = { id: 's', page: state.strip[0]!, y: 0.05, questions: ['1'] };
		const edit = { kind: 'edit', base: version, change: { kind: 'setSeam', seam } };
		expect((await tobias.send(`/api/packets/${sent.packet}/changes`, edit)).status).toBe(200);
		expect(await makeFile(tobias, sent.packet, version + 1)).toMatchObject({ pages: 1 });
		const pages = Object.values((await view()).pages);
		const seen = await tobias.fetch(`/api/packets/${sent.packet}/pictures/${pages[0]!.key}/source`);
		expect(seen.status).toBe(200);
		await other.kill('SIGTERM');
		await portal.close();
	});

	it('is not restored over anything, and leaves nothing behind where it cannot be restored', () => {
		expect(keep(data, ['restore', backup]).says).toContain('There is something in');
		const target = join(home, 'never');
		const bytes = readFileSync(backup);
		const cut = join(home, 'cut.tar');
		for (const length of [0, 100, 700, bytes.length >> 1, bytes.length - 2048]) {
			writeFileSync(cut, bytes.subarray(0, length));
			const { status, says } = keep(target, ['restore', cut]);
			expect([length, status]).toEqual([length, 1]);
			expect(says).toMatch(/cut short|no backup/);
		}
		const other = Buffer.from(bytes);
		const at = other.indexOf('"migrations":["0001-begin.sql"');
		other.write('"migrations":["9001-begin.sql"', at);
		writeFileSync(cut, other);
		expect(keep(target, ['restore', cut]).says).toContain('of a newer version of Membrana');
		const broken = Buffer.from(bytes);
		broken[broken.lastIndexOf(Buffer.from([0xff, 0xd8, 0xff])) + 40]! ^= 0xff;
		writeFileSync(cut, broken);
		expect(keep(target, ['restore', cut]).says).toContain('in this backup is damaged');
		expect(keep(target, ['restore', join(home, 'nowhere.tar')]).says).toContain('There is no file');
		writeFileSync(cut, 'plain words');
		expect(keep(target, ['restore', cut]).status).toBe(1);
		for (const name of ['never', 'never.restoring']) expect(existsSync(join(home, name))).toBe(false);
		expect(readdirSync(home).filter((name) => name.startsWith('backup.tar.'))).toEqual([]);
	});

	it('of a folder in which there is nothing is refused', () => {
		expect(keep(join(home, 'empty'), ['backup', join(home, 'x.tar')]).says).toContain(
			'There is no Membrana in'
		);
		expect(keep(data, []).says).toContain('Use: ./membrana backup FILE');
	});

	it('a check names every file that is missing or is not what it was, takes them from a backup, and mends the rest', () => {
		const restored = join(home, 'damaged');
		keep(restored, ['restore', backup]);
		const files = readdirSync(join(restored, 'vault'), { recursive: true, encoding: 'utf8' })
			.map((name) => join(restored, 'vault', name))
			.filter((path) => statSync(path).isFile());
		rmSync(files[0]!);
		truncateSync(files[1]!, 10);
		const [old, fresh] = ['.old.part', '.fresh.part'].map((name) => join(restored, 'vault', name));
		for (const path of [old!, fresh!]) writeFileSync(path, 'half a pi');
		utimesSync(old!, 0, 0);
		const { status, says } = keep(restored, ['check']);
		expect(status).toBe(1);
		const name = (path: string) => path.split('/').at(-1)!;
		expect(says).toContain(`missing ${name(files[0]!)}`);
		expect(says).toContain(`damaged ${name(files[1]!)}`);
		expect(says).toMatch(/\d+ pages? had lost/);
		expect(says).toContain('1 beginning of files that nobody finishes removed.');
		expect([existsSync(old!), existsSync(fresh!)]).toEqual([false, true]);
		expect(createHash('sha256').update(readFileSync(files[2]!)).digest('hex')).toBe(name(files[2]!));

		const noBackup = join(home, 'words.tar');
		writeFileSync(noBackup, 'plain words');
		expect(keep(restored, ['check', noBackup])).toMatchObject({ status: 1 });
		const mended = keep(restored, ['check', backup]);
		expect(mended).toMatchObject({
			status: 0,
			says: expect.stringContaining('2 files taken from the backup.')
		});
		for (const path of files) {
			expect(createHash('sha256').update(readFileSync(path)).digest('hex')).toBe(name(path));
		}
		// Nothing is left to mend.
		expect(keep(restored, ['check']).says).toMatch(/^\d+ files read; every one is what it should be\.\n$/);
	});
});
