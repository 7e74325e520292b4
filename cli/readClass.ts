import { readFile } from 'node:fs/promises';
import { basename } from 'node:path';
import type { ClassPerson } from '../src/lib/core/stack/stackPage';
import { readTable } from '../src/lib/server/roster/readTable';

/** Who is in the class. @throws Error with a sentence that says what is wrong with the file */
export async function readClass(path: string): Promise<ClassPerson[]> {
	const bytes = await readFile(path).catch(() => {
		throw new Error(`The roster ${path} cannot be read.`);
	});
	const { rows } = readTable(bytes, basename(path));
	const titles = rows[0]?.cells.map((c) => c.toLowerCase()) ?? [];
	const column = (title: string) => {
		const at = titles.indexOf(title.toLowerCase());
		if (at < 0) throw new Error(`The roster ${path} has no column ${title}.`);
		return at;
	};
	const [id, given, family] = [column('sourcedId'), column('givenName'), column('familyName')];
	const people = rows.slice(1).map(({ cells, line }) => {
		const person = { id: cells[id] ?? '', given: cells[given] ?? '', family: cells[family] ?? '' };
		if (!person.id || !(person.given || person.family)) {
			throw new Error(`The roster ${path} lacks a sourcedId or a name in line ${line}.`);
		}
		return person;
	});
	const twice = people.find((p, i) => people.findIndex((q) => q.id === p.id) !== i);
	if (twice) throw new Error(`The roster ${path} has ${twice.id} twice.`);
	if (people.length === 0) throw new Error(`The roster ${path} has nobody in it.`);
	return people;
}
