import { createHash, randomUUID } from 'node:crypto';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import type { AddressInfo, Socket } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Random } from '../../../../demo/generator/random';
import { NO_FAULTS, type Faults } from '../../../../standins/portal/faults';
import { startPortal } from '../../../../standins/portal/portal';
import type { PortalSubmission } from '../../../../standins/portal/submissions';
import type { RuleSheet } from '../../core/rules/ruleSheet';
import { addAssignment } from '../store/assignments';
import { addCourse } from '../store/courses';
import type { Database } from '../store/database';
import {
	beginDelivery,
	beginFile,
	deliveryById,
	finishFile,
	openDeliveries,
	sendAgain,
	settleDelivery,
	type DeliveryRow
} from '../store/deliveries';
import { giveTime } from '../store/board';
import { openPacket, packetById } from '../store/packets';
import { addPerson } from '../store/people';
import { openPGlite } from '../store/pglite';
import { Vault } from '../vault/vault';
import { attemptDelivery, backoff } from './deliver';
import { Folder } from './folder';
import { Mail } from './mail';
import { Portal } from './portal';
import { proofOf } from './proof';
import { isSignedBy, Signer } from './signer';
import type { Target } from './target';

const SHEET: RuleSheet = { title: 'Worksheet 9', questions: [{ label: '1' }] };
const root = mkdtempSync(join(tmpdir(), 'membrana-deliver-'));
let db: Database;
let vault: Vault;
let signer: Signer;
let portal: Awaited<ReturnType<typeof startPortal>>;
let people: string[];
let assignments: string[];
let made = 0;

beforeAll(async () => {
	db = await openPGlite(join(root, 'database'));
	vault = new Vault(join(root, 'vault'));
	signer = await Signer.inFolder(root);
	portal = await startPortal({ folder: join(root, 'portal'), port: 0, maxBytes: 1_000_000 });
	const person = (i: number) =>
		addPerson(db, { login: `p${i}`, given: `Given${i}`, family: 'Test', passwordHash: '' });
	people = await Promise.all(Array.from({ length: 20 }, (_, i) => person(i)));
	const course = await addCourse(db, 'HY-2', 'Stream Hydrology');
	assignments = await Promise.all(
		Array.from({ length: 20 }, () => addAssignment(db, course, SHEET, people[0]!))
	);
});
afterAll(async () => {
	await portal.close();
	await db.close();
});

/** A packet with a made file, and the wish to hand it in. */
async function wish(change: Partial<Pick<DeliveryRow, 'target' | 'replaces'>> = {}): Promise<string> {
	const n = made++;
	const packetId = await openPacket(db, assignments[n % 20]!, people[Math.floor(n / 20) % 20]!);
	const path = join(root, 'a file');
	writeFileSync(path, `file ${n} ${'x'.repeat((n * 997) % 60_000)}`);
	const { sha256, bytes } = await vault.put(path);
	const file = await beginFile(db, packetId, n, `file_${n}`, 'pdf');
	await finishFile(db, file.id, { sha256, bytes, pages: 1 });
	const delivery = {
		packetId,
		fileId: file.id,
		personId: people[0]!,
		idempotencyKey: randomUUID(),
		target: 'portal' as const,
		destination: { to: assignments[n % 20]!, title: SHEET.title, course: 'HY-2' },
		comment: '',
		replaces: null,
		...change
	};
	const id = await beginDelivery(db, delivery);
	// A second click is the same wish.
	expect(await beginDelivery(db, delivery)).toBe(id);
	return id;
}

const arrived = async () =>
	(await (await fetch(`${portal.address}/api/submissions`)).json()) as PortalSubmission[];
const services = (target: Target = new Portal(portal.address)) => ({
	db,
	vault,
	targets: { portal: target as Portal, mail: null, folder: null },
	signer
});

describe('deliveries', () => {
	it('300 against every fault in random order: each arrives once or is honestly refused, and nothing is claimed', async () => {
		const numbers = new Random(20_261_125);
		const rng = () => numbers.next();
		const pick = <T>(from: readonly T[]): T => from[Math.floor(rng() * from.length)]!;
		const fault = (): Partial<Faults> =>
			pick([
				() => ({}),
				() => ({}),
				() => ({ slow: Math.floor(rng() * 15) }),
				() => ({ cutAt: Math.floor(rng() * 60_000) }),
				() => ({ status: pick([500, 503] as const) }),
				() => ({ loseAnswer: true }),
				() => ({ loseAnswer: true, slow: 5 }),
				() => (rng() < 0.1 ? { refuse: pick(['size', 'type'] as const) } : {}),
				() => (rng() < 0.1 ? { pastDue: true } : {})
			])();
		/** Now and then this process dies after the portal's answer and before it is written down. */
		const real = new Portal(portal.address);
		const mortal: Target = {
			name: 'portal',
			confirms: 'received',
			knowsKeys: true,
			deliver: async (submission, sent) => {
				const receipt = await real.deliver(submission, sent);
				if (rng() < 0.1) throw new Error('The process died here.');
				return receipt;
			},
			recall: (recalled) => real.recall(recalled)
		};
		const silent = console.error;
		console.error = () => undefined;

		const ids: string[] = [];
		for (let i = 0; i < 300; i++) ids.push(await wish());
		const open = new Set(ids);
		let recalls = 0;
		while (open.size > 0) {
			portal.faults.set({ ...NO_FAULTS, ...fault(), times: 4 + Math.floor(rng() * 6) });
			const some = [pick([...open]), pick([...open]), pick([...open])];
			// Also the same one twice at once, as when a job is taken up again while it still runs.
			const going = [...some, some[0]!].map(async (id) => {
				if ((await attemptDelivery(services(mortal), id)) === null) open.delete(id);
			});
			if (rng() < 0.05 && (await settleDelivery(db, some[1]!, 'sending', 'recalling'))) recalls++;
			await Promise.all(going);
			if (rng() < 0.05) await openDeliveries(db);
		}
		console.error = silent;
		portal.faults.set(NO_FAULTS);

		const kept = await arrived();
		let tries = 0;
		const count = { received: 0, refused: 0, recalled: 0 };
		for (const id of ids) {
			const delivery = (await deliveryById(db, id))!;
			const there = kept.filter((s) => s.key === delivery.idempotencyKey);
			tries += delivery.tries;
			count[delivery.state as keyof typeof count]++;
			if (delivery.state === 'received') {
				expect(there).toHaveLength(1);
				expect(there[0]!.recalledAt).toBeNull();
				expect(there[0]!.sha256).toBe(delivery.sha256);
				expect(delivery.receipt).toMatchObject({ sha256: delivery.sha256, number: there[0]!.number });
				const file = await fetch(`${portal.address}/api/submissions/${there[0]!.number}/file`);
				const bytes = Buffer.from(await file.arrayBuffer());
				expect(createHash('sha256').update(bytes).digest('hex')).toBe(delivery.receipt!.sha256);
			} else {
				expect(there.filter((s) => !s.recalledAt)).toHaveLength(0);
				if (delivery.state === 'refused') expect(delivery.problem).toMatch(/takes|take this type|due time/);
			}
		}
		expect(count.received + count.refused + count.recalled).toBe(300);
		expect(new Set(kept.map((s) => s.key)).size).toBe(kept.length);
		// The faults did strike, and most went through all the same.
		expect(tries).toBeGreaterThan(100);
		expect(recalls).toBeGreaterThan(0);
		expect(count.received).toBeGreaterThan(200);
	});

	it('says what is known of it: on its way, gone out, received', async () => {
		const id = await wish();
		portal.faults.set({ ...NO_FAULTS, status: 500 });
		expect(await attemptDelivery(services(), id)).toBe(1);
		expect(await deliveryById(db, id)).toMatchObject({
			state: 'sending',
			sentAt: null,
			tries: 1,
			receipt: null
		});
		portal.faults.set({ ...NO_FAULTS, loseAnswer: true });
		expect(await attemptDelivery(services(), id)).toBe(2);
		const lost = (await deliveryById(db, id))!;
		expect(lost).toMatchObject({ state: 'sending', tries: 2, receipt: null });
		expect(lost.sentAt).not.toBeNull();
		expect(lost.nextTryAt).not.toBeNull();
		portal.faults.set(NO_FAULTS);
		expect(await attemptDelivery(services(), id)).toBeNull();
		expect(await deliveryById(db, id)).toMatchObject({ state: 'received', problem: null });
	});

	it('what is received takes the place of what it replaces, here and at the portal', async () => {
		const old = await wish();
		await attemptDelivery(services(), old);
		const now = await wish({ replaces: old });
		portal.faults.set({ ...NO_FAULTS, status: 503, times: 1 });
		await attemptDelivery(services(), now);
		expect((await deliveryById(db, old))!.state).toBe('received');
		await attemptDelivery(services(), now);
		const [before, after] = [(await deliveryById(db, old))!, (await deliveryById(db, now))!];
		expect([before.state, after.state]).toEqual(['replaced', 'received']);
		const there = (await arrived()).find((s) => s.key === before.idempotencyKey)!;
		expect(there.replacedBy).toBe(after.receipt!.number);
	});

	it('waits longer each time, up to half a minute, and as long as it is asked to, up to one', () => {
		expect([0, 1, 2, 5, 6, 20].map((t) => backoff(t, null))).toEqual([1, 2, 4, 30, 30, 30]);
		expect(backoff(0, 10)).toBe(10);
		expect(backoff(0, 900)).toBe(60);
	});

	it('leaves a claim alone until it runs out', async () => {
		const id = await wish();
		await db.query(`update delivery set claimed_until = now() + interval '1 hour' where id = $1`, [id]);
		expect(await attemptDelivery(services(), id)).toBe(5);
		expect((await deliveryById(db, id))!.tries).toBe(0);
		await db.query(`update delivery set claimed_until = now() - interval '1 second' where id = $1`, [id]);
		expect(await attemptDelivery(services(), id)).toBeNull();
	});
});

describe('the folder', () => {
	const folder = join(root, 'hand-in');
	const targets = { portal: new Portal('http://127.0.0.1:9'), mail: null, folder: new Folder(folder) };
	const sends = () => ({ db, vault, targets, signer });
	const inFolder = async () => (await readdir(join(folder, 'HY-2', SHEET.title))).sort();

	it('holds each file once and whole, never over another; a recall takes it away', async () => {
		const [a, b] = [await wish({ target: 'folder' }), await wish({ target: 'folder' })];
		await db.query(
			`update file set name = 'same name' where id in (select file_id from delivery where id in ($1, $2))`,
			[a, b]
		);
		for (const id of [a, b]) expect(await attemptDelivery(sends(), id)).toBeNull();
		const names = await readdir(join(folder, 'HY-2', SHEET.title));
		expect(names.sort()).toEqual(['same name (2).pdf', 'same name.pdf']);
		const first = (await deliveryById(db, a))!;
		expect(await readFile(join(folder, first.receipt!.number), 'utf8')).toHaveLength(first.bytes);
		// Sent once more after its answer was lost: still one file.
		await db.query(`update delivery set state = 'sending', receipt = null where id = $1`, [a]);
		await attemptDelivery(sends(), a);
		expect(await readdir(join(folder, 'HY-2', SHEET.title))).toHaveLength(2);
		await settleDelivery(db, a, 'received', 'recalling');
		await attemptDelivery(sends(), a);
		expect(await readdir(join(folder, 'HY-2', SHEET.title))).toEqual(['same name (2).pdf']);
		expect((await deliveryById(db, a))!.state).toBe('recalled');
	});

	it('a new version takes the old one’s place instead of standing beside it', async () => {
		const old = await wish({ target: 'folder' });
		await attemptDelivery(sends(), old);
		const before = await inFolder();
		const { fileName } = (await deliveryById(db, old))!;
		const now = await wish({ target: 'folder', replaces: old });
		await db.query('update file set name = $2 where id = (select file_id from delivery where id = $1)', [
			now,
			fileName
		]);
		await attemptDelivery(sends(), now);
		expect(await inFolder()).toEqual(before);
		const after = (await deliveryById(db, now))!;
		const bytes = await readFile(join(folder, after.receipt!.number));
		expect(createHash('sha256').update(bytes).digest('hex')).toBe(after.sha256);
		// A name that only begins alike is another name.
		const alike = await wish({ target: 'folder', replaces: now });
		await db.query(`update file set name = $2 where id = (select file_id from delivery where id = $1)`, [
			alike,
			fileName.slice(0, -1)
		]);
		await attemptDelivery(sends(), alike);
		expect(await inFolder()).toContain(`${fileName.slice(0, -1)}.pdf`);
		expect(await inFolder()).toHaveLength(before.length);
		// Under another name the old one goes as well, and a second try changes nothing.
		const renamed = await wish({ target: 'folder', replaces: alike });
		await attemptDelivery(sends(), renamed);
		await db.query(`update delivery set state = 'sending' where id = $1`, [renamed]);
		await attemptDelivery(sends(), renamed);
		const names = await inFolder();
		expect(names).toHaveLength(before.length);
		expect(names).not.toContain(`${fileName}.pdf`);
	});

	it('a recall finds the file also where nobody heard that it was laid there', async () => {
		const id = await wish({ target: 'folder' });
		const before = await inFolder();
		await attemptDelivery(sends(), id);
		expect(await inFolder()).toHaveLength(before.length + 1);
		await db.query(`update delivery set state = 'recalling', receipt = null where id = $1`, [id]);
		await attemptDelivery(sends(), id);
		expect(await inFolder()).toEqual(before);
		expect((await deliveryById(db, id))!.state).toBe('recalled');
	});

	it('a way that is not set up refuses', async () => {
		const id = await wish({ target: 'folder' });
		expect(await attemptDelivery(services(), id)).toBeNull();
		expect(await deliveryById(db, id)).toMatchObject({ state: 'refused' });
		// Nor is a recall of what never went out unsure of anything.
		await db.query(`update delivery set state = 'recalling' where id = $1`, [id]);
		expect(await attemptDelivery(services(), id)).toBeNull();
		expect(await deliveryById(db, id)).toMatchObject({ state: 'refused' });
	});
});

describe('mail', () => {
	const mailbox: string[] = [];
	let smtp: SMTPServer;
	/** What becomes of the answer to a whole letter. */
	let answer: 'given' | 'lost' | 'later' = 'given';
	let mail: Mail;
	beforeAll(async () => {
		smtp = new SMTPServer({
			authOptional: true,
			disabledCommands: ['STARTTLS', 'AUTH'],
			onData(stream, session, done) {
				let letter = '';
				stream.on('data', (chunk: Buffer) => (letter += chunk.toString()));
				stream.on('end', () => {
					if (answer === 'later') {
						return done(Object.assign(new Error('Try again later.'), { responseCode: 451 }));
					}
					mailbox.push(letter);
					if (answer === 'lost') {
						const { _socket: socket } = [...smtp.connections].find(
							(c) => (c as unknown as { id: string }).id === session.id
						) as unknown as { _socket: Socket };
						return void socket.destroy();
					}
					done();
				});
			}
		});
		smtp.on('error', () => undefined);
		await new Promise<void>((ready) => smtp.listen(0, '127.0.0.1', ready));
		mail = new Mail(
			`smtp://127.0.0.1:${(smtp.server.address() as AddressInfo).port}`,
			'hand-in@school.example'
		);
	});
	afterAll(() => new Promise<void>((done) => smtp.close(done)));
	const sends = (to = mail) => ({
		db,
		vault,
		signer,
		targets: { portal: new Portal('http://127.0.0.1:9'), mail: to, folder: null }
	});
	const toTeacher = async () => {
		const id = await wish({ target: 'mail' });
		await db.query(`update delivery set destination = $2::jsonb where id = $1`, [
			id,
			JSON.stringify({ to: 'maren@school.example', title: 'Maren Test', course: 'HY-2' })
		]);
		return id;
	};

	it('a letter whose answer was lost is not sent again by itself: a person decides', async () => {
		mailbox.length = 0;
		answer = 'lost';
		const id = await toTeacher();
		expect(await attemptDelivery(sends(), id)).toBeNull();
		expect(await deliveryById(db, id)).toMatchObject({ state: 'unsure', receipt: null });
		answer = 'given';
		expect(await attemptDelivery(sends(), id)).toBeNull();
		expect(mailbox).toHaveLength(1);
		// The process died between the last byte and writing down what became of it: nor then.
		await db.query(`update delivery set state = 'sending' where id = $1`, [id]);
		expect(await attemptDelivery(sends(), id)).toBeNull();
		expect((await deliveryById(db, id))!.state).toBe('unsure');
		expect(mailbox).toHaveLength(1);
		// Nor does calling it off say that nothing is out.
		await db.query(`update delivery set state = 'recalling' where id = $1`, [id]);
		expect(await attemptDelivery(sends(), id)).toBeNull();
		expect(await deliveryById(db, id)).toMatchObject({
			state: 'unsure',
			problem: expect.stringContaining('cannot be taken back') as string
		});
		expect(await sendAgain(db, id)).toBe(true);
		expect(await attemptDelivery(sends(), id)).toBeNull();
		expect((await deliveryById(db, id))!.state).toBe('sent');
		expect(mailbox).toHaveLength(2);
	});

	it('a server that does not answer at all, or says later, is tried again', async () => {
		mailbox.length = 0;
		const id = await toTeacher();
		const nobody = new Mail('smtp://127.0.0.1:9', 'hand-in@school.example');
		expect(await attemptDelivery(sends(nobody), id)).toBe(1);
		expect(await deliveryById(db, id)).toMatchObject({ state: 'sending', sentAt: null });
		answer = 'later';
		expect(await attemptDelivery(sends(), id)).toBe(2);
		expect(await deliveryById(db, id)).toMatchObject({ state: 'sending', sentAt: null });
		answer = 'given';
		expect(await attemptDelivery(sends(), id)).toBeNull();
		expect((await deliveryById(db, id))!.state).toBe('sent');
		expect(mailbox).toHaveLength(1);
		expect(mailbox[0]).toContain('To: maren@school.example');
	});
});

describe('the proof of handing in', () => {
	it('says what was handed in and when, and fails when a letter of it is changed', async () => {
		const id = await wish();
		const delivery = (await deliveryById(db, id))!;
		const of = { courseCode: 'HY-2', ruleSheet: SHEET };
		const proof = proofOf(delivery, of, signer);
		expect(JSON.parse(proof.statement)).toMatchObject({
			sha256: delivery.sha256,
			handedInAt: new Date(delivery.handedInAt).toISOString()
		});
		expect(isSignedBy(proof.publicKey, proof)).toBe(true);
		expect(isSignedBy(proof.publicKey, { ...proof, statement: proof.statement.replace('1', '2') })).toBe(
			false
		);
		expect(isSignedBy('no key', proof)).toBe(false);
		// The same key after a restart, and so the same proof.
		expect(proofOf(delivery, of, await Signer.inFolder(root))).toEqual(proof);
	});

	it('says until when it was due for whoever had more time, as it was when it was handed in', async () => {
		const before = (await deliveryById(db, await wish()))!;
		const { packetId } = before;
		const { assignmentId, personId } = (await packetById(db, packetId))!;
		const due = '2027-01-15T17:00:00.000Z';
		await giveTime(db, assignmentId, [personId], due, people[0]!);
		const again = { ...before, personId: people[0]!, idempotencyKey: randomUUID() };
		const after = await beginDelivery(db, again);
		await giveTime(db, assignmentId, [personId], null, people[0]!);
		const said = async (id: string) =>
			JSON.parse(
				proofOf((await deliveryById(db, id))!, { courseCode: 'HY-2', ruleSheet: SHEET }, signer).statement
			);
		expect(await said(before.id)).not.toHaveProperty('due');
		expect(await said(after)).toMatchObject({ due });
	});

	it('a refusal after the due time of what was handed in before it says so', async () => {
		const id = await wish();
		const { packetId } = (await deliveryById(db, id))!;
		await db.query(
			`update assignment set rule_sheet = rule_sheet || jsonb_build_object('due', $2::text)
			where id = (select assignment_id from packet where id = $1)`,
			[packetId, new Date(Date.now() - 60_000).toISOString()]
		);
		const handedIn = new Date(Date.now() - 10.5 * 60_000).toISOString();
		await db.query('update delivery set handed_in_at = $2::timestamptz where id = $1', [id, handedIn]);
		portal.faults.set({ ...NO_FAULTS, pastDue: true });
		await attemptDelivery(services(), id);
		portal.faults.set(NO_FAULTS);
		expect((await deliveryById(db, id))!.problem).toContain('9 min before it was due');
	});
});
