import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { NameReading } from '../../core/reading/personName';
import { shownTo } from './packetView';
import type { StoredPage } from '../store/pageRecords';
import { addAssignment } from '../store/assignments';
import { addCourse, enrol } from '../store/courses';
import type { Database } from '../store/database';
import { openPacket } from '../store/packets';
import { addPerson } from '../store/people';
import { openPGlite } from '../store/pglite';
import { addTrouble, removeTrouble, troubleById, troublesOf } from '../store/troubles';

const ILKA = { given: 'Ilka', family: 'Brandsma' };
// As the roster's rows are, with more than a view should say.
const PIET = { id: '11111111-2222-4333-8444-555555555555', given: 'Piet', family: 'Zwartveen' };

const known = (name: NameReading | null) =>
	({
		key: 'k',
		readingKey: 'r',
		reading: { lines: [], header: ['kept here'] },
		source: {},
		name
	}) as unknown as StoredPage;
const reading = (text: string, person: NameReading['person']): NameReading => ({
	text,
	person,
	confidence: 0.9
});

describe('what a view says of a name on a page', () => {
	const pages = {
		own: known(reading('Ilka B.', { ...ILKA, id: 'x' } as NameReading['person'])),
		other: known(reading('Piet', PIET)),
		nobody: known(reading('Somebody Else', null)),
		none: known(null)
	};
	const shown = (as: 'owner' | 'teacher') =>
		Object.fromEntries(Object.entries(pages).map(([id, page]) => [id, shownTo(as, ILKA, page)]));

	it('a student is told that it is not theirs, as it was read, and never whose it is', () => {
		const views = shown('owner');
		const said = JSON.stringify(views);
		for (const secret of ['Zwartveen', PIET.id, 'kept here']) expect(said).not.toContain(secret);
		expect(views.other).toMatchObject({ otherPerson: 'Piet', name: { text: 'Piet', person: null } });
		expect(views.own).toMatchObject({ otherPerson: null, name: { person: ILKA } });
		expect(views.nobody).toMatchObject({ otherPerson: null, name: { text: 'Somebody Else', person: null } });
		expect(views.none).toMatchObject({ otherPerson: null, name: null });
	});

	it('a teacher is told whose it is, by name, without the roster’s numbers', () => {
		const views = shown('teacher');
		expect(views.other).toMatchObject({
			otherPerson: 'Piet Zwartveen',
			name: { person: { given: 'Piet', family: 'Zwartveen' } }
		});
		expect(JSON.stringify(views)).not.toContain(PIET.id);
	});
});

describe('what is kept beside packets', () => {
	let db: Database;
	let packet: string;
	beforeAll(async () => {
		db = await openPGlite(join(mkdtempSync(join(tmpdir(), 'membrana-view-')), 'database'));
		const course = await addCourse(db, 'HY-2', 'Stream Hydrology');
		const person = await addPerson(db, { login: 'ilka', ...ILKA, passwordHash: '' });
		await enrol(db, course, person, 'student');
		const sheet = { title: 'Worksheet 9', questions: [{ label: '1' }] };
		packet = await openPacket(db, await addAssignment(db, course, sheet, person), person);
	});
	afterAll(() => db.close());

	it('a failed job is noted once, and goes when it is asked for again', async () => {
		const data = { packetId: packet, pageId: 'p', key: 'k' };
		await addTrouble(db, packet, 'prepare-page', data, 'First.');
		await addTrouble(db, packet, 'prepare-page', data, 'Again.');
		await addTrouble(db, packet, 'read-page', data, 'Other.');
		const [trouble, other] = await troublesOf(db, packet);
		expect([trouble, other].map((t) => [t!.job, t!.problem]).sort()).toEqual([
			['prepare-page', 'Again.'],
			['read-page', 'Other.']
		]);
		expect(await troubleById(db, trouble!.id)).toEqual(trouble);
		await removeTrouble(db, trouble!.id);
		expect(await troublesOf(db, packet)).toHaveLength(1);
	});
});
