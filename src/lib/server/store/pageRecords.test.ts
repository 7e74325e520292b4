import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { PageFacts, PictureFacts } from '../../core/page/preparePage';
import type { Page } from '../../core/packet/packet';
import { DEFAULT_TONE } from '../../core/tone/tone';
import { addAssignment, assignmentById, saveRuleSheet } from './assignments';
import { addCourse, enrol } from './courses';
import type { Database } from './database';
import { addNames, rosterKey } from './pageNames';
import { pageRecords, picturesUnder } from './pageRecords';
import { command, openPacket, packetById, packetHead } from './packets';
import { boardRows } from './board';
import { findingsKept, keepFindings } from './findings';
import { pageLacks } from './pageLacks';
import type { PacketSummary } from '../../core/board/summarise';
import type { Finding } from '../../core/rules/finding';
import type { LinesToRead } from '../../core/reading/readLine';
import { addPerson } from './people';
import { openPGlite } from './pglite';
import { addPrepared, forgetPrepared } from './prepared';
import { addReading, linesToRead } from './readings';
import { acceptSource, addSource, setPictureFacts, setPictureProblem, sourcesOf } from './sources';
import { addWeights } from './weights';

const SHEET = { title: 'Worksheet 9', questions: [{ label: '1' }] };
const FACTS = { width: 1000, height: 1400, dotsPerInch: 120 } as PageFacts;
const PICTURE = { turn: { turn: 0, confidence: 0.9 } } as PictureFacts;
const TO_READ: LinesToRead = {
	boxes: [
		[
			[10, 10],
			[90, 10],
			[90, 20.25],
			[10, 20]
		]
	],
	framed: true
};
const READING = { lines: [], labels: [], numbers: [], startsOnly: true } as const;

describe('what is known of pages', () => {
	let db: Database;
	let course: string;
	let assignment: string;
	let ilka: { packet: string; source: string; person: string };
	let tobias: typeof ilka;
	const head = async (packet: string) => (await packetById(db, packet))!;
	const records = async (packet: string, which?: Parameters<typeof pageRecords>[3]) =>
		pageRecords(db, await head(packet), (await assignmentById(db, assignment))!, which);
	/** Ids of the pages of which something is new since a count of news. */
	const newSince = async (packet: string, since: number) =>
		Object.keys(await records(packet, { since })).sort();

	/** Somebody with a packet of one file of two pictures, which everyone has. */
	async function somebody(login: string) {
		const person = await addPerson(db, { login, given: login, family: 'Amsel', passwordHash: '' });
		await enrol(db, course, person, 'student');
		const packet = await openPacket(db, assignment, person);
		const { id: source } = await addSource(db, {
			packetId: packet,
			uploadId: login,
			name: 'both.pdf',
			sha256: 'ab'.repeat(32),
			bytes: 1000,
			batch: 0,
			place: 0
		});
		await acceptSource(db, source, { type: 'pdf', pictures: 2, takenAt: '2026-11-20T10:00:00Z' });
		const page = (id: string, sourcePage: number): Page => ({
			id,
			source,
			sourcePage,
			corners: null,
			turn: null,
			tone: null
		});
		await command(db, packet, person, null, {
			kind: 'machine',
			change: { kind: 'addPages', pages: [page('a', 0), page('b', 1)], at: 0 }
		});
		return { packet, source, person };
	}

	beforeAll(async () => {
		db = await openPGlite(join(mkdtempSync(join(tmpdir(), 'membrana-records-')), 'database'));
		course = await addCourse(db, 'HY-2', 'Stream Hydrology');
		const teacher = await addPerson(db, { login: 'maren', given: 'Maren', family: 'Voss', passwordHash: '' });
		assignment = await addAssignment(db, course, SHEET, teacher);
		ilka = await somebody('ilka');
		tobias = await somebody('tobias');
	});
	afterAll(() => db.close());

	it('counts what becomes known, in every packet that holds the page', async () => {
		const [before, others] = [(await head(ilka.packet)).news, (await head(tobias.packet)).news];
		const { a } = await records(ilka.packet);
		expect(a).toMatchObject({ sourceName: 'both.pdf', takenAt: Date.UTC(2026, 10, 20, 10), prepared: null });
		expect(await newSince(ilka.packet, before)).toEqual([]);

		const told = await addPrepared(db, { key: a!.key, facts: FACTS, bytes: 10 });
		expect(told.sort()).toEqual([ilka.packet, tobias.packet].sort());
		expect(await newSince(ilka.packet, before)).toEqual(['a']);
		expect(await newSince(tobias.packet, others)).toEqual(['a']);
		await addReading(db, a!.readingKey, READING, TO_READ);
		expect(await linesToRead(db, a!.readingKey)).toEqual(TO_READ);
		await addWeights(db, a!.key, undefined, []);
		expect(await records(ilka.packet, { ids: ['a'] })).toMatchObject({
			a: { prepared: FACTS, bytes: 10, reading: READING, weights: [] }
		});
		expect(await newSince(ilka.packet, (await head(ilka.packet)).news)).toEqual([]);
		const now = (await head(ilka.packet)).news;
		await forgetPrepared(db, a!.key);
		expect((await records(ilka.packet, { since: now })).a).toMatchObject({ prepared: null });
	});

	it('gives a page that is changed another key, and leaves the others theirs', async () => {
		const [before, { news }] = [await records(ilka.packet), await head(ilka.packet)];
		const tone = { ...DEFAULT_TONE, name: 'black-and-white' } as const;
		const row = await command(db, ilka.packet, ilka.person, null, {
			kind: 'edit',
			change: { kind: 'setTone', page: 'b', tone }
		});
		expect(row.news).toBe((await head(ilka.packet)).news);
		const after = await records(ilka.packet);
		expect(after.a).toEqual(before.a);
		expect(after.b!.key).not.toBe(before.b!.key);
		// Another tone does not change what is written.
		expect(after.b!.readingKey).toBe(before.b!.readingKey);
		expect(await newSince(ilka.packet, news)).toEqual(['b']);
		await command(db, ilka.packet, ilka.person, null, { kind: 'undo' });
		expect((await records(ilka.packet)).b!.key).toBe(before.b!.key);
	});

	it('lets go of a page that is taken away, and finds what is known of it again when it comes back', async () => {
		const before = await records(ilka.packet);
		await command(db, ilka.packet, ilka.person, null, {
			kind: 'edit',
			change: { kind: 'removePages', pages: ['b'] }
		});
		expect(await records(ilka.packet)).toEqual({ a: before.a });
		const [rows] = await db.query<{ count: number }>(
			'select count(*)::int as count from packet_page where packet_id = $1',
			[ilka.packet]
		);
		expect(rows!.count).toBe(1);
		await command(db, ilka.packet, ilka.person, null, { kind: 'undo' });
		expect(await records(ilka.packet)).toEqual(before);
	});

	it('follows the turn that reading finds, and says why a picture cannot be used', async () => {
		await setPictureFacts(db, ilka.source, 1, PICTURE);
		const before = (await records(ilka.packet)).b!;
		const { news } = await head(ilka.packet);
		const readTurn = { turn: 180, confidence: 0.9 } as const;
		expect(await setPictureFacts(db, ilka.source, 1, { ...PICTURE, readTurn })).toEqual([ilka.packet]);
		const after = (await records(ilka.packet)).b!;
		expect([after.key === before.key, after.readingKey === before.readingKey]).toEqual([false, false]);
		expect(await newSince(ilka.packet, news)).toEqual(['b']);
		await setPictureProblem(db, ilka.source, 1, 'It is torn.');
		expect((await records(ilka.packet)).b!.problem).toBe('It is torn.');
	});

	it('keys all pages anew when the rule sheet changes, and takes up a database that had none', async () => {
		const before = await records(ilka.packet);
		const { version } = (await assignmentById(db, assignment))!;
		await saveRuleSheet(db, assignment, version, { ...SHEET, questions: [{ label: '7' }] });
		const after = await records(ilka.packet);
		expect(after.a!.readingKey).not.toBe(before.a!.readingKey);
		expect(after.a!.key).toBe(before.a!.key);
		await db.query('delete from packet_page where packet_id = $1', [ilka.packet]);
		await db.query('update packet set keyed_by = null where id = $1', [ilka.packet]);
		expect(await records(ilka.packet)).toEqual(after);
	});

	it('keeps names for a reading and a roster, and looks for them anew when the roster changes', async () => {
		const { a, b } = await records(tobias.packet);
		const name = { text: 'Tobias', person: null, confidence: 0.9 };
		await addNames(db, await rosterKey(db, course), [
			{ readingKey: a!.readingKey, name },
			{ readingKey: b!.readingKey, name: null }
		]);
		await addNames(db, await rosterKey(db, course), [{ readingKey: a!.readingKey, name: null }]);
		expect(await records(tobias.packet)).toMatchObject({
			a: { name, nameMatched: true },
			b: { name: null, nameMatched: true }
		});
		await somebody('piet');
		expect(await records(tobias.packet)).toMatchObject({
			a: { name: null, nameMatched: false },
			b: { name: null, nameMatched: false }
		});
	});

	it('finds pictures by their key alone, in their own packet', async () => {
		const { a } = await records(ilka.packet);
		const found = await picturesUnder(db, ilka.packet, a!.key, ilka.person);
		expect(found).toMatchObject({ pageId: 'a', sourcePage: 0, personId: ilka.person, role: 'student' });
		const source = await picturesUnder(db, ilka.packet, `${ilka.source}-1`, tobias.person);
		expect(source).toMatchObject({ pageId: 'b', sourcePage: 1, personId: ilka.person });
		expect(await picturesUnder(db, tobias.packet, `${ilka.source}-1`, tobias.person)).toBeNull();
		expect(await picturesUnder(db, ilka.packet, 'no such key', ilka.person)).toBeNull();
	});

	it('counts files that come, and what becomes of them', async () => {
		const { news } = await head(tobias.packet);
		expect(await sourcesOf(db, tobias.packet, news)).toEqual([]);
		const { id } = await addSource(db, {
			packetId: tobias.packet,
			uploadId: 'second',
			name: 'second.jpg',
			sha256: 'cd'.repeat(32),
			bytes: 5,
			batch: 1,
			place: 0
		});
		expect((await sourcesOf(db, tobias.packet, news)).map((s) => [s.id, s.state])).toEqual([[id, 'waiting']]);
		const then = (await head(tobias.packet)).news;
		await acceptSource(db, id, { type: 'jpeg', pictures: 1, takenAt: null });
		expect((await sourcesOf(db, tobias.packet, then)).map((s) => [s.id, s.state])).toEqual([[id, 'ready']]);
	});

	it('tells what pages lack without loading any of it', async () => {
		const head = async () => (await packetHead(db, tobias.packet, tobias.person))!;
		const lacks = async () =>
			Object.fromEntries(
				(await pageLacks(db, await head(), await rosterKey(db, course))).map((l) => [l.id, l])
			);
		const { b } = await lacks();
		expect(b).toMatchObject({
			seen: false,
			prepared: false,
			read: 'not',
			weighed: false,
			nameMatched: false
		});
		await setPictureFacts(db, tobias.source, 1, PICTURE);
		expect((await lacks()).b).toMatchObject({ seen: true, turned: false });
		await setPictureFacts(db, tobias.source, 1, { ...PICTURE, readTurn: { turn: 0, confidence: 0.9 } });
		await addPrepared(db, { key: b!.key, facts: FACTS, bytes: 10 });
		await addReading(db, b!.readingKey, READING);
		expect((await lacks()).b).toMatchObject({ turned: true, prepared: true, bytes: 10, read: 'starts' });
		await addReading(db, b!.readingKey, { lines: [], labels: [], numbers: [] });
		await addWeights(db, b!.key, undefined, []);
		await addNames(db, await rosterKey(db, course), [{ readingKey: b!.readingKey, name: null }]);
		expect((await lacks()).b).toMatchObject({ read: 'whole', weighed: true, nameMatched: true });
		expect((await lacks()).a).toMatchObject({ weighed: true });
	});

	it('keeps what the rules say for one state of a packet, and tells when it is another', async () => {
		const at = { version: 1, news: 5, sheetVersion: 1 };
		const finding = (message: string): Finding => ({ rule: 'pageCount', level: 'look', message, pages: [] });
		const mine = async () => (await boardRows(db, assignment)).find((r) => r.packetId === ilka.packet)!;
		const summary = (message: string): PacketSummary => ({
			cells: [],
			open: [{ rule: 'pageCount', level: 'look', message, pages: [], task: null, page: null }],
			pages: []
		});
		expect(await mine()).toMatchObject({ fresh: false, summary: null });
		await keepFindings(db, ilka.packet, at, [finding('first')], summary('first'));
		expect([await findingsKept(db, ilka.packet, at), (await mine()).fresh]).toEqual(['all', false]);
		const { version, news, sheetVersion } = (await packetHead(db, ilka.packet, ilka.person))!;
		await keepFindings(db, ilka.packet, { version, news, sheetVersion }, [finding('now')], summary('now'));
		expect(await mine()).toMatchObject({ fresh: true, summary: { open: [{ message: 'now' }] } });
		const later = { version, news: news + 1, sheetVersion };
		expect(await findingsKept(db, ilka.packet, later)).toBe('stale');
		// What was worked out from an earlier state and comes late changes nothing.
		await keepFindings(db, ilka.packet, at, [finding('late')], summary('late'));
		expect(await mine()).toMatchObject({ fresh: true, summary: { open: [{ message: 'now' }] } });
	});
});
