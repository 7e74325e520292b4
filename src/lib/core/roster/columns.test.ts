import { describe, expect, it } from 'vitest';
import { columnsProblem, matchColumns } from './columns';
import type { Table } from './roster';

const table = (...rows: readonly string[][]): Table => ({
	name: 'list.csv',
	rows: rows.map((cells, i) => ({ line: i + 1, cells }))
});
const PEOPLE = [
	['Ilka', 'Brandsma', 'S-1041', 'ilka@reedmere.example'],
	['Tobias', 'Okoro', 'S-1042', 'tobias@reedmere.example'],
	['Senna', 'Vartiainen', 'S-1043', 'senna@reedmere.example']
];

describe('columns of a list of people', () => {
	it.each([
		[
			['Given name', 'Family name'],
			['given', 'family']
		],
		[
			['First_Name', 'Surname', 'E-mail'],
			['given', 'family', 'email']
		],
		[
			['Vorname', 'Nachname', 'Matrikelnummer'],
			['given', 'family', 'identifier']
		],
		[
			['Student', 'Student ID', 'Role'],
			['name', 'identifier', 'role']
		],
		[
			['name', 'login', 'mail address'],
			['name', 'login', 'email']
		],
		[
			['Seat', 'Full name', 'Colour'],
			[null, 'name', null]
		]
	] as const)('are known by their titles: %j', (titles, columns) => {
		const found = matchColumns(table([...titles]));
		expect(found.titled).toBe(true);
		expect(found.columns).toEqual(columns);
	});

	it('are known by what stands in them where there are no titles', () => {
		const { columns, titled } = matchColumns(table(...PEOPLE));
		expect(titled).toBe(false);
		expect(columns.slice(2)).toEqual(['identifier', 'email']);
		expect([...columns.slice(0, 2)].sort()).toEqual(['family', 'given']);
	});

	it('are known by what stands in them where a title says nothing', () => {
		const rows = PEOPLE.map(([given, family, , email]) => [given!, family!, email!]);
		expect(matchColumns(table(['Given name', 'Family name', 'write to'], ...rows)).columns).toEqual([
			'given',
			'family',
			'email'
		]);
	});

	it('hold both names where each cell has both', () => {
		for (const names of [
			['Brandsma, Ilka', 'Okoro, Tobias'],
			['Ilka Brandsma', 'Tobias Okoro']
		]) {
			expect(matchColumns(table(...names.map((name) => [name]))).columns).toEqual(['name']);
		}
	});

	it('are taken once each: a second mail address is not needed', () => {
		const { columns } = matchColumns(
			table(['Name', 'Mail', 'Mail'], ['Ilka B', 'a@b.example', 'c@d.example'])
		);
		expect(columns).toEqual(['name', 'email', null]);
	});

	it('are no numbers of people where they count the rows', () => {
		const counted = PEOPLE.map(([given, family], i) => [`${i + 1}`, given!, family!]);
		expect(matchColumns(table(['No.', 'Given name', 'Family name'], ...counted)).columns).toEqual([
			null,
			'given',
			'family'
		]);
		const dotted = counted.map(([n, ...rest]) => [`${n}.`, ...rest]);
		expect(matchColumns(table(['Nr', 'Given name', 'Family name'], ...dotted)).columns[0]).toBeNull();
	});

	it('leave the numbers of people beside such a count', () => {
		const rows = PEOPLE.map(([given, family, id], i) => [`${i + 1}`, id!, `${given} ${family}`]);
		expect(matchColumns(table(['No', 'Student ID', 'Name'], ...rows)).columns).toEqual([
			null,
			'identifier',
			'name'
		]);
	});

	it('are numbers of people where they do not', () => {
		const rows = PEOPLE.map(([given], i) => [`${7 + i}`, given!]);
		expect(matchColumns(table(['No.', 'Name'], ...rows)).columns).toEqual(['identifier', 'name']);
		expect(matchColumns(table(['No.', 'Name'], ['1', 'Ilka'])).columns).toEqual(['identifier', 'name']);
		const numbered = PEOPLE.map(([given], i) => [`${1 + i}`, given!]);
		expect(matchColumns(table(['Number', 'Name'], ...numbered)).columns).toEqual(['identifier', 'name']);
	});

	it('tell roles by their words, and numbers by being all different', () => {
		const rows = PEOPLE.map(([given, , id]) => [given!, 'student', id!]);
		expect(matchColumns(table(...rows)).columns.slice(1)).toEqual(['role', 'identifier']);
		expect(matchColumns(table(...rows)).titled).toBe(false);
		const same = PEOPLE.map(([given]) => [given!, 'HY-2024']);
		expect(matchColumns(table(...same)).columns[1]).toBeNull();
	});

	it('have no titles where the first row says what the others say', () => {
		const { columns, titled } = matchColumns(
			table(['Ilka Brandsma', 'student'], ['Tobias Okoro', 'student'], ['Maren Solberg', 'teacher'])
		);
		expect(titled).toBe(false);
		expect(columns).toEqual(['name', 'role']);
	});

	it('of an empty table are none', () => {
		expect(matchColumns(table())).toEqual({ columns: [], titled: false });
	});

	it('can be used where one of them holds names, and otherwise it is said what is missing', () => {
		for (const columns of [['name'], ['family', null], [null, 'given']] as const)
			expect(columnsProblem(columns)).toBeNull();
		expect(columnsProblem(['email', 'identifier'])).toMatch(/No column with names/);
		expect(columnsProblem([])).toMatch(/No column with names/);
	});
});
