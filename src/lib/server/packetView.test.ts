import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { NameReading } from '../core/reading/personName';
import { pageViews, type KnownPage } from './packetView';
import { addAssignment } from './store/assignments';
import { addCourse, enrol } from './store/courses';
import type { Database } from './store/database';
import { migrate } from './store/migrate';
import { addNames, namesByKeys, rosterKey } from './store/pageNames';
import { openPacket } from './store/packets';
import { addPerson } from './store/people';
import { openPGlite } from './store/pglite';
import { addTrouble, removeTrouble, troubleById, troublesOf } from './store/troubles';

const ILKA = { given: 'Ilka', family: 'Brandsma' };
// As the roster's rows are, with more than a view should say.
const PIET = { id: '11111111-2222-4333-8444-555555555555', given: 'Piet', family: 'Zwartveen' };

const known = (readingKey: string) =>
	({ key: 'k', readingKey, reading: { lines: [] }, source: { takenAt: null } }) as unknown as KnownPage;
const reading = (text: string, person: NameReading['person']): NameReading => ({
	text,
	person,
	confidence: 0.9
});

describe('what a view says of a name on a page', () => {
	const names = new Map<string, NameReading | null>([
		['own', reading('Ilka B.', { ...ILKA, id: 'x' } as NameReading['person'])],
		['other', reading('Piet', PIET)],
		['nobody', reading('Somebody Else', null)],
		['none', null]
	]);
	const pages = Object.fromEntries([...names.keys(), 'unmatched'].map((key) => [key, known(key)]));

	it('a student is told that it is not theirs, as it was read, and never whose it is', () => {
		const views = pageViews(pages, names, ILKA, 'owner');
		const said = JSON.stringify(views);
		for (const secret of ['Zwartveen', PIET.id]) expect(said).not.toContain(secret);
		expect(views.other).toMatchObject({ otherPerson: 'Piet', name: { text: 'Piet', person: null } });
		expect(views.own).toMatchObject({ otherPerson: null, name: { person: ILKA } });
		expect(views.nobody).toMatchObject({ otherPerson: null, name: { text: 'Somebody Else', person: null } });
		for (const key of ['none', 'unmatched']) {
			expect(views[key]).toMatchObject({ otherPerson: null, name: null });
		}
	});

	it('a teacher is told whose it is, by name, without the roster’s numbers', () => {
		const views = pageViews(pages, names, ILKA, 'teacher');
		expect(views.other).toMatchObject({
			otherPerson: 'Piet Zwartveen',
			name: { person: { given: 'Piet', family: 'Zwartveen' } }
		});
		expect(JSON.stringify(views)).not.toContain(PIET.id);
	});
});

describe('what is kept beside packets', () => {
	let db: Database;
	let course: string;
	let packet: string;
	beforeAll(async () => {
		db = await openPGlite(join(mkdtempSync(join(tmpdir(), 'membrana-view-')), 'database'));
		await migrate(db);
		course = await addCourse(db, 'HY-2', 'Stream Hydrology');
		const person = await addPerson(db, { login: 'ilka', ...ILKA, passwordHash: '' });
		await enrol(db, course, person, 'student');
		const sheet = { title: 'Worksheet 9', questions: [{ label: '1' }] };
		packet = await openPacket(db, await addAssignment(db, course, sheet, person), person);
	});
	afterAll(() => db.close());

	it('names are kept for a reading and a roster, and matched anew when the roster changes', async () => {
		const before = await rosterKey(db, course);
		const name = reading('Ilka', ILKA);
		await addNames(db, before, [
			{ readingKey: 'a', name },
			{ readingKey: 'b', name: null }
		]);
		await addNames(db, before, [{ readingKey: 'a', name: null }]);
		const there = await namesByKeys(db, before, ['a', 'b', 'c']);
		expect([...there.entries()].sort()).toEqual([
			['a', name],
			['b', null]
		]);
		const piet = await addPerson(db, { login: 'piet', given: 'Piet', family: 'Zwartveen', passwordHash: '' });
		await enrol(db, course, piet, 'student');
		const after = await rosterKey(db, course);
		expect(after).not.toBe(before);
		expect((await namesByKeys(db, after, ['a', 'b'])).size).toBe(0);
		expect((await namesByKeys(db, after, [])).size).toBe(0);
	});

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
