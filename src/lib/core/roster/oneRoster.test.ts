import { describe, expect, it } from 'vitest';
import { rosterOfOneRoster } from './oneRoster';
import type { Table } from './roster';

type Rows = readonly (readonly string[])[];
const USERS: Rows = [
	['sourcedId', 'status', 'enabledUser', 'givenName', 'familyName', 'email', 'username'],
	['u1', 'active', 'true', 'Ilka', 'Brandsma', 'Ilka@Reedmere.example', 'Ilka'],
	['u2', 'active', 'true', 'Maren', 'Solberg', '', '']
];
const CLASSES: Rows = [
	['sourcedId', 'title', 'classCode', 'courseSourcedId'],
	['c1', 'Hydrology, group A', 'HY-2', '']
];
const ENROLMENTS: Rows = [
	['sourcedId', 'classSourcedId', 'userSourcedId', 'role'],
	['e1', 'c1', 'u1', 'student'],
	['e2', 'c1', 'u2', 'teacher']
];
const read = (change: Readonly<Record<string, Rows | null>> = {}) => {
	const files = { 'users.csv': USERS, 'classes.csv': CLASSES, 'enrollments.csv': ENROLMENTS, ...change };
	const tables = Object.entries(files).flatMap(([name, rows]): [string, Table][] =>
		rows ? [[name, { name, rows: rows.map((cells, i) => ({ line: i + 1, cells })) }]] : []
	);
	return rosterOfOneRoster(new Map(tables));
};
const reasons = (change: Readonly<Record<string, Rows | null>>) =>
	read(change).problems.map(({ file, line, reason }) => `${file} ${line}: ${reason}`);

describe('a OneRoster ZIP', () => {
	it('says who is in which class, and as what', () => {
		expect(read()).toEqual({
			people: [
				{
					key: 'u1',
					identifier: 'u1',
					given: 'Ilka',
					family: 'Brandsma',
					email: 'ilka@reedmere.example',
					login: 'ilka'
				},
				{ key: 'u2', identifier: 'u2', given: 'Maren', family: 'Solberg', email: null, login: null }
			],
			courses: [{ identifier: 'c1', code: 'HY-2', title: 'Hydrology, group A' }],
			places: [
				{ course: 'c1', person: 'u1', role: 'student' },
				{ course: 'c1', person: 'u2', role: 'teacher' }
			],
			problems: []
		});
	});

	it('has columns in any order and of any case', () => {
		const turned = USERS.map((row) => [...row].reverse());
		const shouted = [turned[0]!.map((title) => title.toUpperCase()), ...turned.slice(1)];
		expect(read({ 'users.csv': shouted }).people).toEqual(read().people);
	});

	it.each(['users.csv', 'classes.csv', 'enrollments.csv'])('without %s is refused by that name', (name) => {
		expect(() => read({ [name]: null })).toThrow(new RangeError(`The ZIP lacks ${name}.`));
	});

	it('without a column is refused by its name', () => {
		const without = USERS.map((row) => row.filter((_, i) => i !== 4));
		expect(() => read({ 'users.csv': without })).toThrow('users.csv lacks the column familyName.');
		const bare = CLASSES.map((row) => row.slice(2));
		expect(() => read({ 'classes.csv': bare })).toThrow('classes.csv lacks the columns sourcedId, title.');
	});

	it('calls people as they want to be called', () => {
		const [titles, first] = USERS as [readonly string[], readonly string[]];
		const { people } = read({
			'users.csv': [
				[...titles, 'preferredGivenName', 'preferredFamilyName'],
				[...first, 'Illa', '']
			],
			'enrollments.csv': ENROLMENTS.slice(0, 2)
		});
		expect(people[0]).toMatchObject({ given: 'Illa', family: 'Brandsma' });
	});

	it('leaves out who and what is marked as gone', () => {
		const gone = [USERS[0]!, USERS[1]!, ['u2', 'tobedeleted', 'true', 'Maren', 'Solberg', '', '']];
		expect(
			read({ 'users.csv': gone, 'enrollments.csv': ENROLMENTS.slice(0, 2) }).people.map((p) => p.key)
		).toEqual(['u1']);
		const disabled = [USERS[0]!, USERS[1]!, ['u2', '', 'false', 'Maren', 'Solberg', '', '']];
		expect(read({ 'users.csv': disabled }).people.map((p) => p.key)).toEqual(['u1']);
	});

	it('names rows that cannot be used, and takes the others', () => {
		expect(
			reasons({
				'users.csv': [
					...USERS,
					['', '', '', 'Tobias', 'Okoro', '', ''],
					['u1', '', '', 'Tobias', 'Okoro', '', ''],
					['u4', '', '', '', '', '', ''],
					['u5', '', '', '=cmd', 'Okoro', '', '']
				]
			})
		).toEqual([
			'users.csv 4: There is no sourcedId.',
			'users.csv 5: The sourcedId u1 is there twice.',
			'users.csv 6: There is no name in this row.',
			'users.csv 7: “=cmd” is a formula, and no name'
		]);
	});

	it('keeps people whose mail address cannot be used, without it', () => {
		const { people, problems } = read({
			'users.csv': [
				...USERS,
				['u3', '', '', 'Tobias', 'Okoro', 'nowhere', ''],
				['u4', '', '', 'Senna', 'Amsel', 'ilka@reedmere.example', '']
			]
		});
		expect(people.map((p) => [p.key, p.email])).toEqual([
			['u1', 'ilka@reedmere.example'],
			['u2', null],
			['u3', null],
			['u4', null]
		]);
		expect(problems.map((p) => p.reason)).toEqual([
			'“nowhere” is not a mail address; it is left out.',
			'The address ilka@reedmere.example is that of line 2 too; it is left out.'
		]);
	});

	it('takes what a class does not say from its course', () => {
		const { courses } = read({
			'classes.csv': [CLASSES[0]!, ['c1', '', '', 'k7']],
			'courses.csv': [
				['sourcedId', 'title', 'courseCode'],
				['k7', 'Hydrology', 'HY']
			]
		});
		expect(courses).toEqual([{ identifier: 'c1', code: 'HY', title: 'Hydrology' }]);
	});

	it('names classes that have no code, or that of another', () => {
		expect(
			reasons({
				'classes.csv': [
					...CLASSES,
					['c2', 'Another', 'HY-2', ''],
					['c3', '', '', ''],
					['c1', 'Twice', 'X', '']
				]
			})
		).toEqual([
			'classes.csv 3: The code HY-2 is that of line 2 too.',
			'classes.csv 4: This class has neither a title nor a code.',
			'classes.csv 5: The sourcedId c1 is there twice.'
		]);
	});

	it('has places of students and teachers only, in classes and of people that are there', () => {
		const { places, problems } = read({
			'enrollments.csv': [
				...ENROLMENTS,
				['e3', 'c1', 'u2', 'guardian'],
				['e4', 'c9', 'u1', 'student'],
				['e5', 'c1', 'u9', 'student']
			]
		});
		expect(places).toHaveLength(2);
		expect(problems.map((p) => p.reason)).toEqual([
			'There is no class c9 in classes.csv.',
			'There is nobody u9 in users.csv.'
		]);
	});

	it.each([
		['teacher', 'student'],
		['student', 'teacher']
	])('lets who is there as %s and as %s teach', (first, second) => {
		const { places } = read({
			'enrollments.csv': [ENROLMENTS[0]!, ['e1', 'c1', 'u1', first], ['e2', 'c1', 'u1', second]]
		});
		expect(places).toEqual([{ course: 'c1', person: 'u1', role: 'teacher' }]);
	});
});
