import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { addAssignment } from './assignments';
import { boardRows } from './board';
import { addCourse, enrol } from './courses';
import type { Database } from './database';
import { beginDelivery, beginFile, finishFile, settleDelivery } from './deliveries';
import { openPacket } from './packets';
import { addPerson } from './people';
import { openPGlite } from './pglite';
import { returnPacket, returnsOf, takeReturnBack } from './returns';

let db: Database;
let assignment: string;
let teacher: string;
let student: string;
let packet: string;
let wishes = 0;

beforeAll(async () => {
	db = await openPGlite(join(mkdtempSync(join(tmpdir(), 'membrana-returns-')), 'database'));
	const add = (login: string) => addPerson(db, { login, given: login, family: 'Test', passwordHash: 'x' });
	[teacher, student] = [await add('maren'), await add('ilka')];
	const course = await addCourse(db, 'HY-2', 'Stream Hydrology');
	await enrol(db, course, teacher, 'teacher');
	await enrol(db, course, student, 'student');
	assignment = await addAssignment(db, course, { title: 't', questions: [{ label: '1' }] }, teacher);
	packet = await openPacket(db, assignment, student);
});
afterAll(() => db.close());

/** Hands the packet in, and says how that ended. */
async function handIn(end: 'received' | 'refused'): Promise<void> {
	const file = await beginFile(db, packet, 0, `file-${wishes}`, 'pdf');
	await finishFile(db, file.id, { sha256: 'x', bytes: 1, pages: 1 });
	const id = await beginDelivery(db, {
		packetId: packet,
		fileId: file.id,
		personId: student,
		idempotencyKey: `wish-${wishes++}`,
		target: 'portal',
		destination: { to: assignment, title: 't', course: 'HY-2' },
		comment: '',
		replaces: null
	});
	await settleDelivery(db, id, 'sending', end);
}
const giveBack = (words: string) => returnPacket(db, packet, { version: 0, reasons: [], words, by: teacher });
const standing = async () => (await returnsOf(db, packet)).filter((r) => r.stands).map((r) => r.words);
const onBoard = async () => (await boardRows(db, assignment))[0]!;

it('stands until something is handed in after it, which a refusal is not', async () => {
	await handIn('received');
	await giveBack('first');
	expect([await standing(), (await onBoard()).returnedAt !== null]).toEqual([['first'], true]);
	await handIn('refused');
	expect([await standing(), (await onBoard()).returnedAt !== null]).toEqual([['first'], true]);
	await handIn('received');
	expect([await standing(), (await onBoard()).returnedAt !== null]).toEqual([[], false]);
	// What is answered is not taken back any more.
	const { id } = (await returnsOf(db, packet))[0]!;
	expect(await takeReturnBack(db, packet, id)).toBe(false);
});

it('takes the place of one that still stood', async () => {
	await giveBack('second');
	await giveBack('third');
	expect(await standing()).toEqual(['third']);
	expect((await returnsOf(db, packet)).map((r) => r.words)).toEqual(['third', 'second', 'first']);
});
