import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { addManyPages } from '../../../../bench/manyPages';
import type { Change } from '../../core/packet/change';
import type { PageFacts, PictureFacts } from '../../core/page/preparePage';
import type { RuleSheet } from '../../core/rules/ruleSheet';
import { addAssignment, saveRuleSheet } from '../store/assignments';
import { addCourse, enrol } from '../store/courses';
import type { Database } from '../store/database';
import { keepFindings } from '../store/findings';
import { pageLacks } from '../store/pageLacks';
import { addNames, rosterKey } from '../store/pageNames';
import { command, openPacket, packetById } from '../store/packets';
import { addPerson } from '../store/people';
import { openPGlite } from '../store/pglite';
import { addPrepared, forgetPrepared } from '../store/prepared';
import { addReading } from '../store/readings';
import { setPictureFacts, setPictureProblem } from '../store/sources';
import { addTrouble } from '../store/troubles';
import { addWeights } from '../store/weights';
import { PacketLacks, type Lack } from './packetLacks';

const SHEET: RuleSheet = { title: 'Worksheet 9', questions: [{ label: '1' }], file: { maxBytes: 60_000 } };
const FACTS = { width: 1000, height: 1400, dotsPerInch: 120 } as PageFacts;
const PICTURE = {
	turn: { turn: 0, confidence: 0.9 },
	readTurn: { turn: 90, confidence: 0.9 }
} as PictureFacts;
const STARTS = { lines: [], labels: [], numbers: [], startsOnly: true } as const;
const WHOLE = { lines: [], labels: [], numbers: [] };

describe('what a packet lacks, remembered', () => {
	let db: Database;
	let [course, assignment, person, packet, source] = ['', '', '', '', ''];
	let remembering: PacketLacks;

	/** As it is remembered with its news, which has to be what somebody sees who looks for the first time. */
	async function lack(): Promise<Lack> {
		const remembered = (await remembering.of(packet))!;
		expect(remembered).toEqual(await new PacketLacks(db).of(packet));
		return remembered;
	}
	const page = async (id: string) => (await lack()).pages.get(id)!;
	const change = async (...changes: Change[]) => {
		for (const one of changes) await command(db, packet, person, null, { kind: 'edit', change: one });
	};

	beforeAll(async () => {
		db = await openPGlite(join(mkdtempSync(join(tmpdir(), 'membrana-lacks-')), 'database'));
		course = await addCourse(db, 'HY-2', 'Stream Hydrology');
		const teacher = await addPerson(db, { login: 'maren', given: 'Maren', family: 'Voss', passwordHash: '' });
		assignment = await addAssignment(db, course, SHEET, teacher);
		person = await addPerson(db, { login: 'ilka', given: 'Ilka', family: 'Brandt', passwordHash: '' });
		await enrol(db, course, person, 'student');
		packet = await openPacket(db, assignment, person);
		({ source } = await addManyPages(db, packet, person, 'ilka', 4));
		remembering = new PacketLacks(db);
	});
	afterAll(() => db.close());

	it('is what there is, whatever becomes known', async () => {
		const { key, readingKey } = await page('p1');
		expect(await page('p1')).toMatchObject({ seen: false, prepared: false, read: 'not', weighed: false });
		await setPictureFacts(db, source, 1, PICTURE);
		// Found to lie on its side, it is prepared under another key.
		expect(await page('p1')).toMatchObject({ seen: true, turned: true });
		const turned = await page('p1');
		expect([turned.key, turned.readingKey]).not.toContain(key);
		expect(turned.readingKey).not.toBe(readingKey);
		// Who says that it is upright now makes no other page of it; who turns it does.
		await change({ kind: 'setTurn', page: 'p1', turn: 90 });
		expect((await page('p1')).key).toBe(turned.key);
		await change({ kind: 'setTurn', page: 'p1', turn: 180 });
		expect([turned.key, key]).not.toContain((await page('p1')).key);
		await change({ kind: 'setTurn', page: 'p1', turn: null });
		await addPrepared(db, { key: turned.key, facts: FACTS, bytes: 10_000 });
		expect(await page('p1')).toMatchObject({ prepared: true, bytes: 10_000 });
		await addReading(db, turned.readingKey, STARTS);
		expect(await lack()).toMatchObject({ namesLack: true });
		await addNames(db, await rosterKey(db, course), [{ readingKey: turned.readingKey, name: null }]);
		expect(await lack()).toMatchObject({ namesLack: false });
		await addReading(db, turned.readingKey, WHOLE);
		await addWeights(db, turned.key, undefined, []);
		expect(await page('p1')).toMatchObject({ read: 'whole', weighed: true });
		await setPictureProblem(db, source, 2, 'It is damaged.');
		expect((await page('p2')).problem).toBe('It is damaged.');
		await forgetPrepared(db, turned.key);
		expect((await page('p1')).prepared).toBe(false);
		await addTrouble(db, packet, 'match-names', { packetId: packet }, 'Somebody stumbled.');
		expect((await lack()).stuck).toEqual(new Set([`match-names ${packet}`]));
	});

	it('is looked at anew where more than pages became another', async () => {
		await change(
			{ kind: 'removePages', pages: ['p3'] },
			{ kind: 'setEncoding', page: 'p0', encoding: { dotsPerInch: 100 } as never }
		);
		const now = await lack();
		expect([...now.pages.keys()].sort()).toEqual(['p0', 'p1', 'p2']);
		expect([...now.encoded]).toEqual(['p0']);
		const { version, news } = (await packetById(db, packet))!;
		await keepFindings(db, packet, { version, news, sheetVersion: 1 }, [], {
			cells: [],
			open: [],
			pages: []
		});
		expect((await lack()).checked).toBe('all');
		await saveRuleSheet(db, assignment, 1, { ...SHEET, tone: ['greyscale'] });
		expect((await lack()).checked).toBe('none');
		// Another roster, and a name that nobody was on it for may be somebody's.
		expect((await lack()).namesLack).toBe(false);
		const other = await addPerson(db, { login: 'piet', given: 'Piet', family: 'Aas', passwordHash: '' });
		await enrol(db, course, other, 'student');
		expect((await lack()).namesLack).toBe(true);
	});

	it('weighs the file only once it may be too large', async () => {
		expect((await lack()).tooLarge).toBe(false);
		for (const id of ['p0', 'p2']) {
			const { key } = await page(id);
			await addPrepared(db, { key, facts: FACTS, bytes: 70_000 });
		}
		expect((await lack()).tooLarge).toBe(true);
	});

	it('asks for what is newer and for nothing else', async () => {
		await lack();
		const query = vi.spyOn(db, 'query');
		const asked = () => query.mock.calls.map(([, values]) => values ?? []).flat();
		await remembering.of(packet);
		const { news } = (await packetById(db, packet))!;
		expect(query.mock.calls.some(([sql]) => sql.includes('packet_page'))).toBe(false);
		await setPictureProblem(db, source, 0, 'It is damaged.');
		query.mockClear();
		await remembering.of(packet);
		expect(query.mock.calls.some(([sql]) => sql.includes('packet_page'))).toBe(true);
		expect(asked()).toContain(news);
		query.mockRestore();
		expect((await pageLacks(db, await lookOf(), await rosterKey(db, course), news)).map((l) => l.id)).toEqual(
			['p0']
		);
		expect((await page('p0')).problem).toBe('It is damaged.');
	});

	async function lookOf() {
		const { id, keyedBy } = (await packetById(db, packet))!;
		return { id, keyedBy, tones: ['greyscale'] as const, sheetVersion: 2 };
	}

	it('is nothing of a packet that went', async () => {
		expect(await remembering.of('00000000-0000-4000-8000-000000000000')).toBeNull();
	});
});
