import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { zipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { changesNothing, planRoster, type KnownCourse, type RosterPlan } from '../../core/roster/plan';
import { addAssignment } from '../store/assignments';
import { addCourse, courseById, membersOf } from '../store/courses';
import type { Database } from '../store/database';
import { findPeople } from '../store/people';
import { openPacket } from '../store/packets';
import { openPGlite } from '../store/pglite';
import { applyRoster, knownCourses, standingOf } from '../store/roster';
import { rosterZip } from './exportRoster';
import { readRoster } from './readRoster';

const folder = mkdtempSync(join(tmpdir(), 'membrana-roster-'));
let db: Database;
let course: KnownCourse;
beforeAll(async () => {
	db = await openPGlite(join(folder, 'database'));
	const id = await addCourse(db, 'HY-2', 'Stream Hydrology');
	course = (await knownCourses(db)).find((c) => c.id === id)!;
	return () => db.close();
});

let files = 0;
/** Reads a list or a ZIP as it was brought. */
async function read(content: string | Uint8Array) {
	const path = join(folder, `brought-${files++}`);
	writeFileSync(path, content);
	return readRoster(path, null);
}
const plan = async (content: string | Uint8Array, of: KnownCourse | null = course): Promise<RosterPlan> =>
	planRoster((await read(content)).roster, await standingOf(db), of);
async function bring(content: string | Uint8Array, of: KnownCourse | null = course): Promise<RosterPlan> {
	const all = await plan(content, of);
	await db.transaction((tx) => applyRoster(tx, all));
	return all;
}
const members = async () => (await membersOf(db, course.id)).map((m) => `${m.given} ${m.family}`);

const LIST =
	'Number,Surname,Given name,Email\n1,Brandsma,Ilka,ilka@a.example\n2,Okoro-Lind,Tobias,tobias@a.example\n';

describe('the list of a course', () => {
	it('makes its people, and the same list again changes nothing', async () => {
		const first = await bring(LIST);
		expect(first.newPeople.map((p) => p.login)).toEqual(['ilka@a.example', 'tobias@a.example']);
		expect(await members()).toEqual(['Ilka Brandsma', 'Tobias Okoro-Lind']);
		expect(changesNothing(await plan(LIST))).toBe(true);
	});

	it('changes names, brings new people in, has others leave; whoever comes back finds their packet', async () => {
		const assignment = await addAssignment(
			db,
			course.id,
			{ title: 'W', questions: [{ label: '1' }] },
			(await standingOf(db)).people[0]!.id
		);
		const tobias = (await standingOf(db)).people.find((p) => p.given === 'Tobias')!.id;
		const packet = await openPacket(db, assignment, tobias);
		const change = await bring('Number,Surname,Given name\n1,Brandsma-Vos,Ilka\n3,Vartiainen,Senna\n');
		expect(change.changedPeople.map((c) => c.after.family)).toEqual(['Brandsma-Vos']);
		expect(change.gonePlaces.map((p) => p.name)).toEqual(['Tobias Okoro-Lind']);
		expect(await members()).toEqual(['Ilka Brandsma-Vos', 'Senna Vartiainen']);
		const back = await bring(LIST + '3,Vartiainen,Senna,\n');
		expect(back.newPeople).toEqual([]);
		expect(await members()).toHaveLength(3);
		expect(await openPacket(db, assignment, tobias)).toBe(packet);
	});

	it('tells two students of one name apart by their numbers, and says where it cannot', async () => {
		const apart = await plan('Number,Name\n7,Yara Benhaddou\n8,Yara Benhaddou\n');
		expect(apart.newPeople.map((p) => p.identifier)).toEqual(['7', '8']);
		expect(new Set(apart.newPeople.map((p) => p.login)).size).toBe(2);
		const same = await plan('Name\nYara Benhaddou\nYara Benhaddou\n');
		expect(same.problems[0]!.reason).toContain('If they are two people, add a column');
	});

	it('without numbers knows the people of its course by their names', async () => {
		expect(changesNothing(await plan('Brandsma, Ilka\nOkoro-Lind, Tobias\nVartiainen, Senna\n'))).toBe(true);
	});
});

describe('a list as it comes', () => {
	const rows = ['Surname;First name', 'Müller;Zoë', 'Łukasik;Ødegård'];
	const utf16 = (text: string) => Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from(text, 'utf16le')]);
	it.each([
		['UTF-8 with its mark', Buffer.from(`\ufeff${rows.join('\n')}`)],
		['UTF-16', utf16(rows.join('\r\n'))],
		['UTF-16 without its mark', Buffer.from(rows.join('\n'), 'utf16le')],
		['tabs', Buffer.from(rows.join('\n').replaceAll(';', '\t'))],
		['commas and quotes', Buffer.from('"Surname","First name"\n"Müller","Zoë"\n"Łukasik","Ødegård"')]
	])('in %s is read', async (_, bytes) => {
		const { people, problems } = (await read(bytes)).roster;
		expect(problems).toEqual([]);
		expect(people.map((p) => `${p.given} ${p.family}`)).toEqual(['Zoë Müller', 'Ødegård Łukasik']);
	});

	it('in Windows-1252 is read', async () => {
		const { people } = (await read(Buffer.from('Surname;First name\nMüller;Zoë', 'latin1'))).roster;
		expect(people[0]).toMatchObject({ given: 'Zoë', family: 'Müller' });
	});

	it('in any script, and with names of one word or with particles', async () => {
		const { people } = (await read('Name\n王 秀英\nМария Петрова\nAnna van der Veen\nSukarno\n')).roster;
		expect(people.map((p) => [p.given, p.family])).toEqual([
			['王', '秀英'],
			['Мария', 'Петрова'],
			['Anna', 'van der Veen'],
			['', 'Sukarno']
		]);
	});

	it('without titles is told by what stands in it', async () => {
		const { list, roster } = await read(
			's0412,"Amsel, Jorrit",jorrit@a.example\ns0413,"Ferreyra, Nadia",nadia@a.example\n'
		);
		expect(list).toMatchObject({ titled: false, columns: ['identifier', 'name', 'email'] });
		expect(roster.people[1]).toMatchObject({ given: 'Nadia', family: 'Ferreyra', identifier: 's0413' });
	});

	it('with rows that cannot be used says which and why, and uses the others', async () => {
		const { roster } = await read(
			'Number,Surname,Given name,Email\n1,A,B,a@b.example\n1,C,D,c@d.example\n2,=SUM(A1),X,\n3,E,F,nowhere\n4,,,\n5,"two\nlines",G,g@a.example\n6,H,I,a@b.example\n'
		);
		expect(roster.people.map((p) => p.identifier)).toEqual(['1', '5']);
		expect(roster.problems.map((p) => [p.line, p.reason])).toEqual([
			[3, 'The number 1 stands in line 2 already.'],
			[4, '“=SUM(A1)” is a formula, and no name.'],
			[5, '“nowhere” is not a mail address.'],
			[6, 'There is no name in this row.'],
			[9, 'The address a@b.example stands in line 2 already.']
		]);
	});

	it.each([
		['nothing', '', 'is empty'],
		['a quote left open', 'Surname,Given name\n"A,B\nC,D\n', 'a quote is opened and never closed'],
		['bytes of something else', Buffer.from([0x89, 0x50, 0, 0, 1, 2, 3, 0]), 'no table of text'],
		['a broken ZIP', Buffer.from('PK\x03\x04 and nothing'), 'This ZIP is damaged'],
		[
			'a ZIP of something else',
			zipSync({ 'users.csv': Buffer.from('sourcedId\n1\n') }),
			'lacks classes.csv, enrollments.csv'
		]
	])('that is %s is refused with a sentence', async (_, bytes, sentence) => {
		await expect(read(bytes)).rejects.toThrow(sentence);
	});

	it('without a column of names asks which it is', async () => {
		const { roster } = await read('Points,Grade\n12,7\n15,9\n');
		expect(roster.problems[0]!.reason).toContain('Say below which column holds them');
	});
});

/** A roster of a school in OneRoster's tables. */
function school(people: number, { gone = 0 } = {}): Uint8Array {
	const users = ['sourcedId,status,enabledUser,orgSourcedIds,role,username,givenName,familyName,email'];
	const places = ['sourcedId,classSourcedId,schoolSourcedId,userSourcedId,role'];
	for (let i = gone; i < people; i++) {
		users.push(`u${i},active,true,o1,student,user${i},Given ${i},Family ${i},u${i}@b.example`);
		places.push(`e${i},c${i % 40},o1,u${i},${i < 40 ? 'teacher' : 'student'}`);
	}
	const classes = ['sourcedId,title,classCode,courseSourcedId'];
	for (let i = 0; i < 40; i++) classes.push(`c${i},Class ${i},K-${i},`);
	const file = (rows: string[]) => Buffer.from(rows.join('\r\n'));
	return zipSync({
		'export/manifest.csv': Buffer.from('propertyName,value\noneroster.version,1.1\n'),
		'export/users.csv': file(users),
		'export/classes.csv': file(classes),
		'export/enrollments.csv': file(places)
	});
}

describe('the roster of a school', () => {
	it('of 5,000 people comes in, and again changes nothing; who is not named any more cannot come in', async () => {
		const first = await bring(school(5000), null);
		expect([first.newPeople.length, first.newCourses.length, first.newPlaces.length]).toEqual([
			5000, 40, 5000
		]);
		expect(first.problems).toEqual([]);
		expect(changesNothing(await plan(school(5000), null))).toBe(true);
		const later = await bring(school(5000, { gone: 100 }), null);
		expect(later.gonePeople.filter((p) => p.identifier!.startsWith('u'))).toHaveLength(100);
		expect((await findPeople(db, 'u99@b.example', { from: 0, most: 5 })).people[0]).toMatchObject({
			isArchived: true
		});
		const back = await bring(school(5000), null);
		expect(back.newPeople).toEqual([]);
		expect(back.changedPeople.filter((c) => c.before.isArchived).length).toBeGreaterThanOrEqual(100);
	});

	it('as it was saved comes back as it is', async () => {
		const again = await plan(await rosterZip(db), null);
		expect(changesNothing(again)).toBe(true);
	});

	it('leaves courses alone that it does not name', async () => {
		expect(await courseById(db, course.id)).toMatchObject({ code: 'HY-2', isArchived: false });
	});

	it('says which enrolments lead nowhere', async () => {
		const table = (text: string) => Buffer.from(text);
		const { roster } = await read(
			zipSync({
				'users.csv': table('sourcedId,givenName,familyName\nu1,A,B\n'),
				'classes.csv': table('sourcedId,title\nc1,C\n'),
				'enrollments.csv': table(
					'classSourcedId,userSourcedId,role\nc1,u1,student\nc2,u1,student\nc1,u9,teacher\nc1,u1,guardian\n'
				)
			})
		);
		expect(roster.places).toHaveLength(1);
		expect(roster.problems.map((p) => `${p.file} ${p.line} ${p.reason}`)).toEqual([
			'enrollments.csv 3 There is no class c2 in classes.csv.',
			'enrollments.csv 4 There is nobody u9 in users.csv.'
		]);
	});
});
