import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ChangeError, type Change } from '../../core/packet/change';
import type { Page } from '../../core/packet/packet';
import { passwordFits, hashPassword } from '../access/password';
import { RateLimit } from '../access/rateLimit';
import { openSession, endSession, whoHas } from '../access/sessions';
import { Vault } from '../vault/vault';
import { addAssignment, saveRuleSheet } from './assignments';
import { addCourse, enrol, roleIn } from './courses';
import type { Database } from './database';
import { FolderInUseError, lockFolder } from './lockFolder';
import { migrate } from './migrate';
import { command, historyOf, logOf, openPacket, packetById, StaleVersionError } from './packets';
import { addPerson } from './people';
import { openPGlite } from './pglite';
import { addSource, sourceByUpload } from './sources';

const folder = mkdtempSync(join(tmpdir(), 'membrana-store-'));
let db: Database;
let person: string;
let packet: string;

beforeAll(async () => {
	db = await openPGlite(join(folder, 'database'));
	person = await addPerson(db, { login: 'Ilka', given: 'Ilka', family: 'Brandsma', passwordHash: 'x' });
	const course = await addCourse(db, 'HY-2', 'Stream Hydrology');
	await enrol(db, course, person, 'student');
	expect(await roleIn(db, course, person)).toBe('student');
	const assignment = await addAssignment(db, course, { title: 't', questions: [{ label: '1' }] }, person);
	packet = await openPacket(db, assignment, person);
	expect(await openPacket(db, assignment, person)).toBe(packet);
	expect(await saveRuleSheet(db, assignment, 1, { title: 'u', questions: [{ label: '1' }] })).toBe(true);
	expect(await saveRuleSheet(db, assignment, 1, { title: 'v', questions: [{ label: '1' }] })).toBe(false);
});
afterAll(() => db.close());

const pages: Page[] = ['a', 'b'].map((id) => ({
	id,
	source: 's',
	sourcePage: 0,
	corners: null,
	turn: null,
	tone: null
}));
const turn = (page: string, degrees: 0 | 90 | 180 | 270): Change => ({
	kind: 'setTurn',
	page,
	turn: degrees
});

describe('migrations', () => {
	it('run once, however often they are asked for', async () => {
		await migrate(db);
		const names = await db.query<{ name: string }>('select name from migration order by name');
		expect(names.map((row) => row.name)).toEqual([
			'0001-begin.sql',
			'0002-gather.sql',
			'0003-read.sql',
			'0004-deliver.sql',
			'0005-hold.sql',
			'0006-pages.sql',
			'0007-school.sql',
			'0008-stack.sql',
			'0009-board.sql',
			'0010-bundles.sql',
			'0011-looked.sql',
			'0012-doubtful-names.sql',
			'0013-lines-to-read.sql',
			'0014-delivery-due.sql'
		]);
	});
});

describe('command', () => {
	it('records edits with who made them, undoes and redoes across the machine’s own changes', async () => {
		await command(db, packet, null, null, {
			kind: 'machine',
			change: () => ({ kind: 'addPages', pages, at: 0 })
		});
		await command(db, packet, person, 1, { kind: 'edit', change: turn('a', 90) });
		await command(db, packet, person, 2, { kind: 'edit', change: turn('b', 180) });
		await command(db, packet, null, null, { kind: 'machine', change: () => null });
		let now = await command(db, packet, person, 3, { kind: 'undo' });
		expect([now.state.pages.a!.turn, now.state.pages.b!.turn]).toEqual([90, null]);
		now = await command(db, packet, person, 4, { kind: 'undo' });
		expect(now.state.pages.a!.turn).toBeNull();
		await expect(command(db, packet, person, 5, { kind: 'undo' })).rejects.toThrow(ChangeError);
		await command(db, packet, person, 5, { kind: 'redo' });
		now = await command(db, packet, person, 6, { kind: 'redo' });
		expect([now.state.pages.a!.turn, now.state.pages.b!.turn]).toEqual([90, 180]);
		now = await command(db, packet, person, 7, { kind: 'undo' });
		expect(now.state.pages.b!.turn).toBeNull();
		const log = await logOf(db, packet);
		expect(log.at(-1)).toMatchObject({ kind: 'machine', by: null });
		expect(log[0]).toMatchObject({ kind: 'undo', by: 'Ilka Brandsma' });
		expect(await historyOf(db, packet)).toHaveLength(8);
	});

	it('refuses an edit made on an older version and leaves no trace of it', async () => {
		const before = await packetById(db, packet);
		await expect(command(db, packet, person, 2, { kind: 'edit', change: turn('a', 0) })).rejects.toThrow(
			StaleVersionError
		);
		await expect(
			command(db, packet, person, before!.version, { kind: 'edit', change: turn('zz', 0) })
		).rejects.toThrow(ChangeError);
		expect(await packetById(db, packet)).toEqual(before);
	});

	it('lets one of many edits on the same version through', async () => {
		const { version } = (await packetById(db, packet))!;
		const tries = await Promise.allSettled(
			[0, 90, 180, 270].map((d) =>
				command(db, packet, person, version, { kind: 'edit', change: turn('a', d as 0) })
			)
		);
		expect(tries.filter((t) => t.status === 'fulfilled')).toHaveLength(1);
	});
});

describe('sources', () => {
	it('are recorded once for one upload', async () => {
		const source = {
			packetId: packet,
			uploadId: 'u1',
			name: '<b>"x"</b>/../😀.jpg',
			sha256: 'a',
			bytes: 1,
			batch: 0,
			place: 0
		};
		const first = await addSource(db, source);
		expect(await addSource(db, source)).toEqual({ id: first.id, isNew: false });
		expect((await sourceByUpload(db, 'u1'))?.id).toBe(first.id);
		const rows = await db.query<{ name: string }>('select name from source where id = $1', [first.id]);
		expect(rows[0]!.name).toBe(source.name);
	});
});

describe('people', () => {
	it('sessions hold until they are ended, and only with the token itself', async () => {
		const token = await openSession(db, person);
		expect(await whoHas(db, token)).toMatchObject({ given: 'Ilka', roles: ['student'] });
		const stored = await db.query<{ token_hash: string }>('select token_hash from session');
		expect(stored.some((s) => s.token_hash === token)).toBe(false);
		expect(await whoHas(db, stored[0]!.token_hash)).toBeNull();
		await endSession(db, token);
		expect(await whoHas(db, token)).toBeNull();
	});

	it('passwords are argon2id, and nobody’s password is nobody’s', async () => {
		const hash = await hashPassword('waterlily');
		expect(hash).toMatch(/^\$argon2id\$/);
		expect(await passwordFits(hash, 'waterlily')).toBe(true);
		expect(await passwordFits(hash, 'Waterlily')).toBe(false);
		expect(await passwordFits(null, 'nobody has this password')).toBe(false);
	});

	it('the eleventh try within the window is too many', () => {
		const limit = new RateLimit(10, 1000);
		const tries = Array.from({ length: 11 }, (_, i) => limit.isTooMany('k', i));
		expect(tries.filter(Boolean)).toHaveLength(1);
		expect(limit.isTooMany('other', 12)).toBe(false);
		expect(limit.isTooMany('k', 5000)).toBe(false);
	});
});

describe('vault', () => {
	it('keeps files byte for byte under their hash, once', async () => {
		const vault = new Vault(join(folder, 'vault'));
		const path = join(folder, 'in.bin');
		writeFileSync(
			path,
			Uint8Array.from({ length: 300_000 }, (_, i) => i % 251)
		);
		const one = await vault.put(path);
		expect(await vault.putBytes(readFileSync(path))).toEqual(one);
		expect(one.bytes).toBe(300_000);
		expect(readFileSync(vault.pathOf(one.sha256))).toEqual(readFileSync(path));
		expect(await vault.has('0'.repeat(64))).toBe(false);
		expect(() => vault.pathOf('../../etc/passwd')).toThrow(RangeError);
	});
});

describe('lockFolder', () => {
	it('lets go, and can be taken again', async () => {
		const data = join(folder, 'locked');
		const release = await lockFolder(data);
		await expect(lockFolder(data)).rejects.toThrow('already running');
		await release();
		await (
			await lockFolder(data)
		)();
	});

	it('is the kernel’s: what the file says, and whose number it holds, changes nothing', async () => {
		const data = join(folder, 'killed');
		mkdirSync(data, { recursive: true });
		const lock = join(data, 'in-use.lock');
		writeFileSync(lock, 'Held by process 1 since the beginning.');
		const release = await lockFolder(data);
		// Damaged, emptied, or naming a process that is gone: it is held all the same.
		for (const said of ['', 'rubbish', String(2 ** 22)]) {
			writeFileSync(lock, said);
			await expect(lockFolder(data)).rejects.toThrow(FolderInUseError);
		}
		await release();
		const script = `const { tryLock } = require('fs-native-extensions');
			console.log(tryLock(require('fs').openSync(${JSON.stringify(lock)}, 'a+')));
			setInterval(() => undefined, 1000);`;
		const other = spawn(process.execPath, ['-e', script], { stdio: ['ignore', 'pipe', 'inherit'] });
		const said = await new Promise<string>((done) =>
			other.stdout.once('data', (d: Buffer) => done(String(d)))
		);
		expect(said.trim()).toBe('true');
		await expect(lockFolder(data)).rejects.toThrow(FolderInUseError);
		const gone = new Promise((done) => other.on('exit', done));
		other.kill('SIGKILL');
		await gone;
		await (
			await lockFolder(data)
		)();
	});
});
