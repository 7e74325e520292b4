import { randomInt } from 'node:crypto';
import { newCode } from '../../core/bundle/codes';
import type { NamesOnPage } from '../../core/bundle/namePlaces';
import type { BundleOptions } from '../../core/bundle/plan';
import type { TextLine } from '../../core/reading/pageReading';
import type { Database } from './database';

export interface BundleFile {
	readonly name: string;
	readonly bytes: number;
	readonly sha256: string;
	/** Codes of the answers in it, with the page (from 1) on which each begins; none of a bag. */
	readonly answers: readonly { readonly code: string; readonly page: number }[];
}

export interface BundleRow {
	readonly id: string;
	readonly assignmentId: string;
	/** Null of a bag: everything of the assignment. */
	readonly question: string | null;
	readonly options: BundleOptions;
	readonly state: 'making' | 'unsure' | 'ready' | 'failed';
	readonly files: readonly BundleFile[];
	readonly without: readonly string[];
	/** Pages whose names somebody should look through first. */
	readonly look: number;
	readonly problem: string | null;
	readonly madeAt: string;
	/** Whether packets were changed after it was made. */
	readonly changedSince: boolean;
}

const BUNDLE = `
	select b.id, b.assignment_id as "assignmentId", b.question, b.options, b.state, b.files, b.without, b.look, b.problem,
		b.made_at as "madeAt", exists (select 1 from packet p
			where p.assignment_id = b.assignment_id and p.kind = 'packet' and p.updated_at > b.made_at) as "changedSince"
	from bundle b`;

export async function bundleById(db: Database, id: string): Promise<BundleRow | null> {
	return (await db.query<BundleRow>(`${BUNDLE} where b.id = $1`, [id]))[0] ?? null;
}

export function bundlesOf(db: Database, assignmentId: string): Promise<BundleRow[]> {
	return db.query<BundleRow>(`${BUNDLE} where b.assignment_id = $1`, [assignmentId]);
}

/** Begins a bundle in the place of the one before it. @returns its id, which is another one */
export function beginBundle(
	db: Database,
	assignmentId: string,
	question: string | null,
	options: BundleOptions,
	by: string
): Promise<string> {
	return db.transaction(async (tx) => {
		await tx.query('delete from bundle where assignment_id = $1 and question is not distinct from $2', [
			assignmentId,
			question
		]);
		const rows = await tx.query<{ id: string }>(
			`insert into bundle (assignment_id, question, options, made_by) values ($1, $2, $3::jsonb, $4) returning id`,
			[assignmentId, question, JSON.stringify(options), by]
		);
		return rows[0]!.id;
	});
}

/** Has the bundles of an assignment made that waited for somebody to look through names. @returns their ids */
export async function goOn(db: Database, assignmentId: string): Promise<string[]> {
	const rows = await db.query<{ id: string }>(
		`update bundle set state = 'making', look = 0 where assignment_id = $1 and state = 'unsure' returning id`,
		[assignmentId]
	);
	return rows.map((r) => r.id);
}

/** What became of a bundle that was being made. */
export async function settleBundle(
	db: Database,
	id: string,
	end:
		| { state: 'ready'; files: readonly BundleFile[]; without: readonly string[] }
		| { state: 'unsure'; look: number }
		| { state: 'failed'; problem: string }
): Promise<void> {
	await db.query(
		`update bundle set state = $2, files = $3::jsonb, without = $4::jsonb, look = $5, problem = $6, made_at = now()
		where id = $1 and state = 'making'`,
		[
			id,
			end.state,
			JSON.stringify(end.state === 'ready' ? end.files : []),
			JSON.stringify(end.state === 'ready' ? end.without : []),
			end.state === 'unsure' ? end.look : 0,
			end.state === 'failed' ? end.problem : null
		]
	);
}

/** Bundles that were being made when the process ended. */
export function unmadeBundles(db: Database): Promise<{ id: string; kind: 'bundle' | 'bag' }[]> {
	return db.query(
		`select id, case when question is null then 'bag' else 'bundle' end as kind from bundle where state = 'making'`
	);
}

/** Takes all bundles of some assignments away: what they are made of has changed for good. */
export async function dropBundles(db: Database, assignmentIds: readonly string[]): Promise<void> {
	await db.query('delete from bundle where assignment_id = any($1::uuid[])', [assignmentIds]);
}

/** Bundles and bags that were made, with the names of their files. */
export function readyBundles(db: Database): Promise<{ id: string; files: string[] }[]> {
	return db.query(
		`select id, array(select jsonb_array_elements(files) ->> 'name') as files from bundle where state = 'ready'`
	);
}

/** Takes bundles away whose files are gone: they can be made again. */
export async function forgetBundles(db: Database, ids: readonly string[]): Promise<void> {
	await db.query('delete from bundle where id = any($1::uuid[])', [ids]);
}

export async function bundleIds(db: Database): Promise<Set<string>> {
	return new Set((await db.query<{ id: string }>('select id from bundle')).map((r) => r.id));
}

/** Somebody of a class with their packet and code. */
export interface CodedRow {
	readonly personId: string;
	readonly given: string;
	readonly family: string;
	readonly identifier: string | null;
	readonly packetId: string;
	readonly code: string;
}

/** Everybody with pages in a packet of an assignment, in the order of the roster; who has no code yet is given one. */
export function codedPackets(db: Database, assignmentId: string): Promise<CodedRow[]> {
	return db.transaction(async (tx) => {
		await tx.query('select 1 from assignment where id = $1 for update', [assignmentId]);
		const rows = await tx.query<Omit<CodedRow, 'code'> & { code: string | null }>(
			`select s.id as "personId", s.given, s.family, s.identifier, p.id as "packetId", c.code
			from packet p
			join person s on s.id = p.person_id
			left join answer_code c on c.assignment_id = p.assignment_id and c.person_id = s.id
			where p.assignment_id = $1 and p.kind = 'packet' and jsonb_array_length(p.state -> 'strip') > 0
			order by s.family, s.given, s.id`,
			[assignmentId]
		);
		const taken = new Set(rows.flatMap((r) => r.code ?? []));
		const coded: CodedRow[] = [];
		for (const row of rows) {
			const code = row.code ?? newCode(taken, () => randomInt(2 ** 32) / 2 ** 32);
			taken.add(code);
			coded.push({ ...row, code });
			if (row.code) continue;
			await tx.query('insert into answer_code (assignment_id, person_id, code) values ($1, $2, $3)', [
				assignmentId,
				row.personId,
				code
			]);
		}
		return coded;
	});
}

/** What is hidden on a page of a packet. */
export interface HiddenRow {
	readonly packetId: string;
	readonly pageId: string;
	/** The prepared page that it was found on. */
	readonly key: string;
	readonly boxes: readonly TextLine['box'][];
	/** What may be a name and may be none. */
	readonly doubtful: readonly TextLine['box'][];
	readonly look: NamesOnPage['look'];
	readonly isConfirmed: boolean;
}

const HIDDEN = `
	select packet_id as "packetId", page_id as "pageId", prepared_key as key, boxes, doubtful, look,
		confirmed_by is not null as "isConfirmed" from hidden_names`;

export function hiddenOn(db: Database, packetId: string): Promise<HiddenRow[]> {
	return db.query<HiddenRow>(`${HIDDEN} where packet_id = $1`, [packetId]);
}

/** A page that somebody should look through, with the code of whose it is. */
export interface PageToLookThrough extends HiddenRow {
	readonly code: string;
}

/** Pages of an assignment on which it is not sure that all names are hidden, and that nobody has looked at. */
export function pagesToLookThrough(db: Database, assignmentId: string): Promise<PageToLookThrough[]> {
	return db.query<PageToLookThrough>(
		`select h.packet_id as "packetId", h.page_id as "pageId", h.prepared_key as key, h.boxes, h.doubtful, h.look,
			false as "isConfirmed", c.code
		from hidden_names h
		join packet p on p.id = h.packet_id and p.assignment_id = $1
		join packet_page k on k.packet_id = h.packet_id and k.page_id = h.page_id and k.prepared_key = h.prepared_key
		join answer_code c on c.assignment_id = p.assignment_id and c.person_id = p.person_id
		where h.look is not null and h.confirmed_by is null and p.state -> 'strip' ? h.page_id
		order by c.code, h.page_id`,
		[assignmentId]
	);
}

/** Keeps what is to be hidden on a page as it is prepared now; what a person said of that stays. */
export async function keepHidden(db: Database, row: Omit<HiddenRow, 'isConfirmed'>): Promise<void> {
	await db.query(
		`insert into hidden_names as h (packet_id, page_id, prepared_key, boxes, doubtful, look)
		values ($1, $2, $3, $4::jsonb, $5::jsonb, $6)
		on conflict (packet_id, page_id) do update
			set prepared_key = excluded.prepared_key, boxes = excluded.boxes, doubtful = excluded.doubtful,
				look = excluded.look, confirmed_by = null
			where h.prepared_key <> excluded.prepared_key`,
		[row.packetId, row.pageId, row.key, JSON.stringify(row.boxes), JSON.stringify(row.doubtful), row.look]
	);
}

/** A person has looked through a page; false where it was prepared otherwise meanwhile. */
export async function confirmHidden(
	db: Database,
	row: Pick<HiddenRow, 'packetId' | 'pageId' | 'key' | 'boxes'>,
	by: string
): Promise<boolean> {
	const rows = await db.query(
		`update hidden_names set boxes = $4::jsonb, confirmed_by = $5
		where packet_id = $1 and page_id = $2 and prepared_key = $3 returning page_id`,
		[row.packetId, row.pageId, row.key, JSON.stringify(row.boxes), by]
	);
	return rows.length > 0;
}
