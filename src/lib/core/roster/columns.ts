import { isMail, type Table } from './roster';

/** What a column of a list of people can hold. */
export const COLUMNS = ['given', 'family', 'name', 'identifier', 'email', 'login', 'role'] as const;
export type Column = (typeof COLUMNS)[number];

/** What each column is, from the left; null for one that is not needed. */
export type Columns = readonly (Column | null)[];

const TITLES: Readonly<Record<Column, RegExp>> = {
	given:
		/^(given|first|fore)[ _-]?names?$|^(preferred([ _-]?(given|first))?[ _-]?names?)$|^(vorname|prénom|voornaam|nombre|nome)$/i,
	family:
		/^(family|last)[ _-]?names?$|^surnames?$|^(nachname|familienname|nom|achternaam|apellidos?|cognome)$/i,
	name: /^((full|student|display)[ _-]?)?names?$|^students?$|^(naam)$/i,
	identifier:
		/^(student|person|user|candidate|sourced)?[ _-]?(id|identifier|number|no\.?|nr\.?|code)$|^(matrikel(nummer)?|studentnummer|sourcedid)$/i,
	email: /^(e-?mail|mail)([ _-]?address)?$|^(adresse|correo)$/i,
	login: /^(user[ _-]?names?|log[ _-]?in([ _-]?name)?|account)$/i,
	role: /^(role|rolle|rôle|function)$/i
};

/** How rows are counted, and people as well. */
const ABBREVIATED = /^n[or]\.?$/i;

/**
 * What the columns of a list of people hold: by their titles where there are any, otherwise, and where a title says
 * nothing, by what stands in them.
 *
 * @returns `titled`: whether the first row holds titles and no person
 */
export function matchColumns({ rows }: Table): { readonly columns: Columns; readonly titled: boolean } {
	const width = Math.max(0, ...rows.slice(0, 50).map((r) => r.cells.length));
	const first = rows[0]?.cells ?? [];
	// What stands further down as well is no title: "student" in every row.
	const isTitle = (i: number) => !rows.slice(1).some(({ cells }) => cells[i] && cells[i] === first[i]);
	const titles = Array.from({ length: width }, (_, i) =>
		isTitle(i) ? (COLUMNS.find((c) => TITLES[c].test(first[i] ?? '')) ?? null) : null
	);
	const titled = titles.some((c) => c !== null);
	const body = rows.slice(titled ? 1 : 0, 200);
	// "No. 1, 2, 3" counts the rows: in the next course it is somebody else's.
	const countsRows = (i: number) =>
		ABBREVIATED.test(first[i] ?? '') &&
		body.length > 1 &&
		body.every(({ cells }, n) => cells[i]?.replace(/\.$/, '') === String(n + 1));
	const byTitle = titles.map((c, i) => (c === 'identifier' && countsRows(i) ? null : c));
	const taken = new Set(byTitle.filter((c) => c !== null));
	// A second column of one kind, such as another mail address, is not needed.
	const columns: (Column | null)[] = byTitle.map((c, i) => (c !== null && byTitle.indexOf(c) < i ? null : c));
	for (let i = 0; i < width; i++) {
		if (columns[i] !== null || (titled && byTitle[i] !== null)) continue;
		const found = byContent(
			body.map((r) => r.cells[i] ?? '').filter((text) => text !== ''),
			taken
		);
		if (!found) continue;
		columns[i] = found;
		taken.add(found);
	}
	return { columns, titled };
}

const NAME = /^[\p{L}][\p{L}\p{M}'’. -]*(?:, ?[\p{L}][\p{L}\p{M}'’. -]*)?$/u;

function byContent(cells: readonly string[], taken: ReadonlySet<Column>): Column | null {
	if (cells.length === 0) return null;
	const share = (fits: (text: string) => boolean) => cells.filter(fits).length / cells.length;
	const isNew = (column: Column) => !taken.has(column);
	if (isNew('email') && share(isMail) > 0.8) return 'email';
	if (isNew('role') && share((t) => /^(student|teacher|pupil|learner|instructor)s?$/i.test(t)) > 0.9)
		return 'role';
	const differ = new Set(cells).size / cells.length;
	if (
		isNew('identifier') &&
		differ > 0.98 &&
		share((t) => /^[\p{L}-]{0,4}\d{3,}[\p{L}\d-]*$/u.test(t)) > 0.9
	) {
		return 'identifier';
	}
	if (!isNew('name') || share((t) => NAME.test(t)) < 0.9) return null;
	// Both names in one cell: "Brandsma, Ilka", "Ilka Brandsma".
	if (isNew('given') && isNew('family')) {
		return share((t) => /\S[, ]+\S/.test(t)) > 0.8 ? 'name' : 'family';
	}
	if (isNew('given')) return 'given';
	return isNew('family') ? 'family' : null;
}

/** What is missing in a list of these columns, as a sentence; null where it can be used. */
export function columnsProblem(columns: Columns): string | null {
	const has = (column: Column) => columns.includes(column);
	if (has('name') || has('family') || has('given')) return null;
	return 'No column with names was found. Say below which column holds them.';
}
