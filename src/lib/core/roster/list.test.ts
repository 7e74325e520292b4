import { describe, expect, it } from 'vitest';
import type { Columns } from './columns';
import { rosterOfList, splitName, THIS_COURSE } from './list';

const COLUMNS: Columns = ['given', 'family', 'identifier', 'email', 'login', 'role'];
const list = (rows: readonly string[][], columns: Columns = COLUMNS, titled = false) =>
	rosterOfList({ name: 'list.csv', rows: rows.map((cells, i) => ({ line: i + 1, cells })) }, columns, titled);
const reasons = (rows: readonly string[][], columns?: Columns) =>
	list(rows, columns).problems.map(({ line, reason }) => `${line}: ${reason}`);

describe('a name in one cell', () => {
	it.each([
		['Brandsma, Ilka', 'Ilka', 'Brandsma'],
		['Ilka Brandsma', 'Ilka', 'Brandsma'],
		['Anna Lena Brandsma', 'Anna Lena', 'Brandsma'],
		['Anna van der Veen', 'Anna', 'van der Veen'],
		['Maria da Silva Santos', 'Maria', 'da Silva Santos'],
		['van der Veen, Anna', 'Anna', 'van der Veen'],
		['Ilka', '', 'Ilka']
	])('"%s" is of %s and %s', (name, given, family) => {
		expect(splitName(name)).toEqual({ given, family });
	});
});

describe('the people of a list', () => {
	it('are its rows, each in the course of the list', () => {
		const { people, places, courses, problems } = list([
			['Ilka', 'Brandsma', 'S-1', 'Ilka@Reedmere.example', 'ILKA', 'student'],
			['Maren', 'Solberg', '', '', '', 'Teacher']
		]);
		expect(problems).toEqual([]);
		expect(courses).toEqual([]);
		expect(people).toEqual([
			{
				key: 'S-1',
				identifier: 'S-1',
				given: 'Ilka',
				family: 'Brandsma',
				email: 'ilka@reedmere.example',
				login: 'ilka'
			},
			{ key: 'maren solberg', identifier: null, given: 'Maren', family: 'Solberg', email: null, login: null }
		]);
		expect(places).toEqual([
			{ course: THIS_COURSE, person: 'S-1', role: 'student' },
			{ course: THIS_COURSE, person: 'maren solberg', role: 'teacher' }
		]);
	});

	it('begin below the titles, and empty rows are none', () => {
		const { people, problems } = list(
			[
				['Given', 'Family'],
				['', ' '],
				['Ilka', 'Brandsma']
			],
			['given', 'family'],
			true
		);
		expect(people.map((p) => p.given)).toEqual(['Ilka']);
		expect(problems).toEqual([]);
	});

	it('are written alike, whatever spaces and accents they came with', () => {
		const { people } = list([['  Anai\u0308s ', 'de  la   Cour']], ['given', 'family']);
		expect(people[0]).toMatchObject({ given: 'Ana\u00efs', family: 'de la Cour' });
	});

	it('have names in one column or in two', () => {
		expect(list([['Brandsma, Ilka']], ['name']).people[0]).toMatchObject({
			given: 'Ilka',
			family: 'Brandsma'
		});
		expect(list([['Brandsma']], ['family']).people[0]).toMatchObject({ given: '', family: 'Brandsma' });
	});

	it.each([
		[['', '', 'S-1'], 'There is no name in this row.'],
		[['Ilka', 'Brandsma', '', 'no address'], '“no address” is not a mail address.'],
		[['Ilka', 'Brandsma', '', '', '', 'guardian'], '“guardian” is neither student nor teacher.'],
		[['=1+1', 'Brandsma'], '“=1+1” is a formula, and no name.'],
		[['Ilka', 'B'.repeat(101)], /is longer than 100 characters\.$/]
	])('are not taken from a row that cannot be used: %j', (row, reason) => {
		const { people, problems } = list([row]);
		expect(people).toEqual([]);
		expect(problems).toHaveLength(1);
		if (typeof reason === 'string') expect(problems[0]!.reason).toBe(reason);
		else expect(problems[0]!.reason).toMatch(reason);
	});

	it('are there once: who comes twice is named with the line where they stand already', () => {
		expect(
			reasons([
				['Ilka', 'Brandsma', 'S-1', 'ilka@reedmere.example'],
				['Ilka', 'Brandsmann', 's-1', ''],
				['Tobias', 'Okoro', 'S-2', 'ILKA@reedmere.example']
			])
		).toEqual([
			'2: The number s-1 stands in line 1 already.',
			'3: The address ilka@reedmere.example stands in line 1 already.'
		]);
	});

	it('with one name and nothing else to tell them apart are not guessed to be one or two', () => {
		const twice = [
			['Ilka', 'Brandsma'],
			['ILKA', 'Brandsma']
		];
		expect(reasons(twice, ['given', 'family'])[0]).toMatch(
			/^2: ILKA Brandsma stands in line 1 already\. If they are two/
		);
		const apart = [
			['Ilka', 'Brandsma', 'S-1'],
			['Ilka', 'Brandsma', 'S-2']
		];
		expect(reasons(apart)).toEqual([]);
	});
});
