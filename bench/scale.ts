import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { summarise, type PacketSummary } from '../src/lib/core/board/summarise';
import { EMPTY_PACKET } from '../src/lib/core/packet/packet';
import type { PageReading } from '../src/lib/core/reading/pageReading';
import { median } from '../src/lib/core/raster/percentile';
import { packetFor, packetHeadFor, picturesFor } from '../src/lib/server/access/access';
import { boardView } from '../src/lib/server/view/boardView';
import { checkPacket } from '../src/lib/server/view/checkPacket';
import { packetNews, packetView } from '../src/lib/server/view/packetView';
import { addAssignment, assignmentById } from '../src/lib/server/store/assignments';
import { addCourse, enrol } from '../src/lib/server/store/courses';
import type { Database } from '../src/lib/server/store/database';
import { boardRows } from '../src/lib/server/store/board';
import { keepFindings } from '../src/lib/server/store/findings';
import { pagesOf } from '../src/lib/server/store/pageRecords';
import { rosterKey } from '../src/lib/server/store/pageNames';
import { pageLacks } from '../src/lib/server/store/pageLacks';
import { openPacket } from '../src/lib/server/store/packets';
import { addPerson } from '../src/lib/server/store/people';
import { openPGlite } from '../src/lib/server/store/pglite';
import { addPrepared } from '../src/lib/server/store/prepared';
import { addReading } from '../src/lib/server/store/readings';
import { setPictureFacts } from '../src/lib/server/store/sources';
import { PageAsker } from '../src/lib/server/work/askForPages';
import type { Queue } from '../src/lib/server/work/queue';
import { addManyPages } from './manyPages';
import { readPacket, type ReadPage } from './readPacket';
import { samplePacket } from './packets';

const PAGES = 600;
const PACKETS = 60;
const STUDENTS = 200;
const QUESTIONS = 20;

/** What one packet of many pages costs beside many packets of few: bytes, time of one thread, statements. */
export async function benchScale(print: (line: string) => void): Promise<void> {
	const folder = await mkdtemp(join(tmpdir(), 'membrana-scale-'));
	const db = await openPGlite(join(folder, 'database'));
	try {
		const packet = samplePacket(20_000);
		const [specimen] = await readPacket({ ...packet, pages: packet.pages.slice(0, 1) }, 20_000);
		const course = await addCourse(db, 'HY-2', 'Stream Hydrology');
		const teacher = await addPerson(db, { login: 't', given: 'Maren', family: 'Oskamp', passwordHash: '' });
		await enrol(db, course, teacher, 'teacher');
		const assignment = await addAssignment(db, course, packet.sheet, teacher);
		const large = await somebody(db, course, assignment, 'large', PAGES);
		await known(db, large.packet, specimen!);
		// As the server does from time to time.
		await db.query('analyze');

		print(`A packet of ${PAGES} pages, all prepared and read`);
		const locals = { person: { id: large.person, given: 'A', family: 'B', login: 'large' } } as App.Locals;
		const access = () => packetFor(db, locals, large.packet);
		const view = await packetView(db, await access());
		print(`  the whole view: ${kilobytes(view)}`);
		const { key } = view.pages.p7!;
		let last = view.news;
		const heard = () => ({ version: view.version, news: last, sheet: view.assignment.version });
		const change = () => addPrepared(db, { key, facts: specimen!.facts, bytes: 1 });
		let bytes = 0;
		const news = await time(async () => {
			const said = await packetNews(db, await packetHeadFor(db, locals, large.packet), heard());
			bytes = JSON.stringify(said).length;
			last = said.news;
		}, change);
		print(`  news of one page that changed: ${(bytes / 1e3).toFixed(1)} kB, ${news}`);
		print(
			`  the same as a whole view: ${await time(async () => JSON.stringify(await packetView(db, await access())))}`
		);
		print(`  where a picture lies: ${await time(() => picturesFor(db, locals, large.packet, key))}`);
		const row = (await access()).packet;
		const { assignment: sheet } = await access();
		const roster = await rosterKey(db, course);
		print(`  what its pages lack: ${await time(() => pageLacks(db, pagesOf(row, sheet), roster))}`);
		print(`  what every rule says: ${await time(async () => checkPacket(db, await access()))}`);

		print(`A board of ${STUDENTS} students and ${QUESTIONS} questions, all checked`);
		const { findings } = await checkPacket(db, await access());
		const questions = Array.from({ length: QUESTIONS }, (_, i) => ({ label: String(i + 1) }));
		const big = await addAssignment(db, course, { ...packet.sheet, questions }, teacher);
		const summary: PacketSummary = {
			...summarise({ questions }, EMPTY_PACKET, {}, findings),
			cells: questions.map(({ label }) => ({
				question: label,
				state: 'clear',
				pages: [1, 2],
				page: '00000000-0000-4000-8000-000000000000',
				verdict: 'clear'
			}))
		};
		for (let i = 0; i < STUDENTS; i++) {
			const name = { login: `c${i}`, given: `C${i}`, family: 'Amsel', passwordHash: '' };
			const person = await addPerson(db, name);
			await enrol(db, course, person, 'student');
			const one = await openPacket(db, big, person);
			await keepFindings(db, one, { version: 0, news: 0, sheetVersion: 1 }, findings, summary);
		}
		const board = (await assignmentById(db, big))!;
		const rows = await boardRows(db, big);
		print(`  the query: ${await time(() => boardRows(db, big))}, ${rows.length} students`);
		print(`  what is sent: ${kilobytes(await boardView(db, board))}`);

		print(`What is asked and told for each of ${PAGES} pages while they are prepared`);
		const one = await somebody(db, course, assignment, 'one', PAGES);
		const whole = await prepareAll(db, [one], specimen!);
		const many = [];
		for (let i = 0; i < PACKETS; i++)
			many.push(await somebody(db, course, assignment, `n${i}`, PAGES / PACKETS));
		const parts = await prepareAll(db, many, specimen!);
		print(
			`  in one packet: ${whole.toFixed(1)} ms a page; in ${PACKETS} packets: ${parts.toFixed(1)} ms a page`
		);
	} finally {
		await db.close();
		await rm(folder, { recursive: true });
	}
}

interface Somebody {
	readonly person: string;
	readonly packet: string;
	readonly source: string;
	readonly pages: number;
}

async function somebody(
	db: Database,
	course: string,
	assignment: string,
	login: string,
	pages: number
): Promise<Somebody> {
	const person = await addPerson(db, { login, given: login, family: 'Amsel', passwordHash: '' });
	await enrol(db, course, person, 'student');
	const packet = await openPacket(db, assignment, person);
	const { source } = await addManyPages(db, packet, person, login, pages);
	return { person, packet, source, pages };
}

/** Has all pages of a packet known, as one page was read. */
async function known(db: Database, packet: string, { facts, picture, reading }: ReadPage): Promise<void> {
	await db.query(
		'update picture set facts = $2::jsonb where source_id in (select id from source where packet_id = $1)',
		[packet, JSON.stringify({ ...picture, readTurn: { turn: 0, confidence: 1 } })]
	);
	await db.query(
		`insert into prepared (key, facts, bytes) select prepared_key, $2::jsonb, 60000 from packet_page where packet_id = $1
		on conflict do nothing`,
		[packet, JSON.stringify(facts)]
	);
	const told: PageReading = reading;
	await db.query(
		`insert into reading (key, reading) select reading_key, $2::jsonb from packet_page where packet_id = $1
		on conflict do nothing`,
		[packet, JSON.stringify(told)]
	);
}

/** Milliseconds a page for all that is asked of the database while pages come in, and what a browser then hears. */
async function prepareAll(db: Database, packets: readonly Somebody[], specimen: ReadPage): Promise<number> {
	const queue = { addAll: () => Promise.resolve(), add: () => Promise.resolve() } as unknown as Queue;
	const asker = new PageAsker(db, queue, true);
	const started = performance.now();
	let pages = 0;
	for (const { person, packet, source, pages: count } of packets) {
		const locals = { person: { id: person, given: 'A', family: 'B', login: '' } } as App.Locals;
		let heard = { version: 0, news: 0, sheet: 0 };
		for (let i = 0; i < count; i++) {
			await setPictureFacts(db, source, i, { ...specimen.picture, readTurn: { turn: 0, confidence: 1 } });
			const told = await packetNews(db, await packetHeadFor(db, locals, packet), heard);
			heard = { version: told.version, news: told.news, sheet: 1 };
			const { key } = told.pages[`p${i}`]!;
			await addPrepared(db, { key, facts: specimen.facts, bytes: 60_000 });
			await addReading(db, `${packet} ${i}`, specimen.reading);
			await asker.ensure(packet);
			pages++;
		}
	}
	return (performance.now() - started) / pages;
}

/** So many first: PostgreSQL takes a kept plan after five uses, and a server has been running for longer. */
const BEFORE = 8;
const TIMES = 9;

/** Milliseconds of waiting and of this process's processor time, medians of several. */
async function time(
	work: () => Promise<unknown>,
	before: () => Promise<unknown> = () => Promise.resolve()
): Promise<string> {
	const waits: number[] = [];
	const costs: number[] = [];
	for (let i = 0; i < BEFORE + TIMES; i++) {
		await before();
		const [started, cpu] = [performance.now(), process.cpuUsage()];
		await work();
		const { user, system } = process.cpuUsage(cpu);
		if (i < BEFORE) continue;
		waits.push(performance.now() - started);
		costs.push((user + system) / 1000);
	}
	return `${median(waits).toFixed(1)} ms, ${median(costs).toFixed(1)} ms of processors`;
}

function kilobytes(value: unknown): string {
	return `${(JSON.stringify(value).length / 1e3).toFixed(0)} kB`;
}
