import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PDFDocument } from '@cantoo/pdf-lib';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Random } from '../../demo/generator/random';
import { blankPicture } from '../../src/lib/core/raster/picture';
import type { BoardView } from '../../src/lib/core/board/board';
import { heapsOf } from '../../src/lib/core/stack/heaps';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-stack-'));
const PAGES = 6;
let app: RunningApp;
let port: number;
let maren: Client;
let assignment: string;
let stack: string;
let people: Map<string, string>;

beforeAll(async () => {
	({ assignment } = await seed(data));
	port = await freePort();
	await start();
	stack = await maren.openStack(assignment);
	const { students } = await maren.json<BoardView>(`/api/assignments/${assignment}/board`);
	people = new Map(students.map((s) => [s.given, s.id]));
});
afterAll(() => app.kill('SIGTERM'));

async function start(): Promise<void> {
	app = await startApp(data, port);
	maren = await Client.signIn(app.address, 'maren');
}

/** A feeder's PDF, with a cover sheet on top if need be. */
async function pile(seed: number, cover?: PDFDocument): Promise<Buffer> {
	const pdf = await PDFDocument.create();
	if (cover) pdf.addPage((await pdf.copyPages(cover, [1]))[0]);
	for (let i = 0; i < PAGES; i++) {
		const random = new Random(seed + i);
		// Bars in the place of lines: each page has bytes of its own, and nothing to look at for long.
		const picture = blankPicture(310, 438);
		for (let y = 60; y < 380; y += 16) {
			for (let row = y; row < y + 3; row++) {
				const from = (row * 310 + 40) * 3;
				picture.data.fill(60, from, from + 3 * random.whole(60, 220));
			}
		}
		const image = await pdf.embedJpg(await jpeg(picture, 90));
		pdf.addPage([595, 842]).drawImage(image, { x: 0, y: 0, width: 595, height: 842 });
	}
	return Buffer.from(await pdf.save());
}

async function bringIn(bytes: Buffer): Promise<void> {
	const path = await maren.beginUpload(stack, 'pile.pdf', bytes.length);
	await maren.continueUpload(path, bytes, 0);
}

const view = (client = maren, id = stack) => client.json<PacketView>(`/api/packets/${id}`);
const cutUp = (pages: number) =>
	until(async () => {
		const now = await view();
		return (now.packet.looked?.length ?? 0) === pages ? now : null;
	});
async function edit(change: object): Promise<void> {
	const { version } = await view();
	const done = await maren.send(`/api/packets/${stack}/changes`, { kind: 'edit', base: version, change });
	expect(done.status).toBe(200);
}
const make = async (first: readonly string[]) =>
	((await (await maren.send(`/api/stacks/${stack}/packets`, { first })).json()) as { made: number }).made;

it('a pile is cut into packets, each student sees their own pages and no others, and nothing is done twice', async () => {
	await bringIn(await pile(100));
	// Nothing was read on these pages: nobody is named, and nothing is a packet yet.
	const proposed = await cutUp(PAGES);
	expect(heapsOf(proposed.packet).every((h) => h.cut?.person === null || h.cut!.personSure < 0.5)).toBe(true);
	expect(proposed.canUndo).toBe(false);
	const { strip } = proposed.packet;

	for (const cut of proposed.packet.cuts ?? []) await edit({ kind: 'removeCut', page: cut.page });
	await edit({ kind: 'setCut', page: strip[0], person: people.get('ilka') });
	await edit({ kind: 'setCut', page: strip[2], person: people.get('tobias') });
	await edit({ kind: 'setCut', page: strip[4], person: null });
	const forged = { kind: 'putCut', cut: { page: strip[5], person: null, packet: stack } };
	const { version } = await view();
	const sent = await maren.send(`/api/packets/${stack}/changes`, {
		kind: 'edit',
		base: version,
		change: forged
	});
	expect(sent.status).toBe(400);

	// Killed on the way, as often as it is asked: what was made is made once.
	const asked = make([strip[0]!, strip[2]!, strip[4]!]).catch(() => null);
	await until(async () => (await view()).packet.cuts!.some((c) => c.packet));
	await app.kill('SIGKILL');
	await asked;
	await start();
	await make([strip[0]!, strip[2]!, strip[4]!]);
	expect(await make([strip[0]!, strip[2]!, strip[4]!])).toBe(0);

	const cuts = (await view()).packet.cuts!;
	expect(cuts.map((c) => [c.page, c.packet !== null]).sort()).toEqual(
		[
			[strip[0], true],
			[strip[2], true],
			[strip[4], false]
		].sort()
	);
	for (const [login, at] of [
		['ilka', 0],
		['tobias', 2]
	] as const) {
		const student = await Client.signIn(app.address, login);
		const own = await student.openPacket(assignment);
		expect(own).toBe(cuts.find((c) => c.page === strip[at])!.packet);
		const { packet } = await until(async () => {
			const now = await view(student, own);
			return Object.values(now.pages).filter((p) => p.prepared).length === 2 ? now : null;
		});
		const pages = packet.strip.map((id) => packet.pages[id]!);
		expect(pages.map((p) => p.sourcePage)).toEqual([at, at + 1]);
		expect(Object.keys(packet.pages).length).toBe(2);

		// The rest of the same file is out of reach.
		const { source } = pages[0]!;
		const other = (at + 2) % PAGES;
		const mine = `/api/packets/${own}/pictures/${source}-${at}/source`;
		expect((await student.fetch(mine)).status).toBe(200);
		expect((await student.fetch(mine.replace(`-${at}/`, `-${other}/`))).status).toBe(404);
		const picture = { source, sourcePage: other, corners: null, turn: null };
		const change = { kind: 'setPicture', page: packet.strip[0], picture };
		const { version } = await view(student, own);
		const tried = await student.send(`/api/packets/${own}/changes`, { kind: 'edit', base: version, change });
		expect(tried.status).toBe(422);
	}
});

it('more of the pile can come later, and what was decided stays', async () => {
	const before = await view();
	const printed = await maren.fetch(`/api/assignments/${assignment}/covers`);
	expect([printed.status, printed.headers.get('content-type')]).toEqual([200, 'application/pdf']);
	const covers = await PDFDocument.load(await printed.arrayBuffer());
	expect(covers.getPageCount()).toBe(people.size);
	await bringIn(await pile(200, covers));
	const after = await cutUp(2 * PAGES + 1);
	const kept = heapsOf(before.packet).map((h) => [h.cut?.person ?? null, h.pages]);
	expect(
		heapsOf(after.packet)
			.slice(0, kept.length)
			.map((h) => [h.cut?.person ?? null, h.pages])
	).toEqual(kept);
	expect(Object.keys(after.packet.pages).length).toBe(2 * PAGES + 1);
	// What lies behind the cover sheet is that person's; the sheet is nobody's.
	const { cut } = heapsOf(after.packet)[kept.length]!;
	expect([cut?.person, cut?.personBecause]).toEqual([
		[...people.values()][1],
		['their cover sheet lies before it']
	]);
	expect(cut!.personSure).toBeGreaterThan(0.9);
	expect(after.packet.tray.filter((t) => t.reason === 'cover')).toHaveLength(1);
});

it('whoever is erased is in no stack any more, and the others are', async () => {
	const before = heapsOf((await view()).packet);
	const [first] = before;
	const person = first!.cut!.person!;
	const wessel = await Client.signIn(app.address, 'wessel');
	const post = (path: string) =>
		wessel.fetch(path, {
			method: 'POST',
			headers: { accept: 'text/html' },
			body: new URLSearchParams({ person })
		});
	await post('/school/people?/archive');
	expect((await post('/school/people?/erase')).status).toBe(200);
	const after = (await view()).packet;
	expect(after.cuts!.some((c) => c.person === person)).toBe(false);
	expect(after.strip).toEqual(before.filter((h) => h.cut?.person !== person).flatMap((h) => h.pages));
	expect(first!.pages.some((page) => after.pages[page])).toBe(false);
	// Nobody brings the pages back by undoing.
	const { version } = await view();
	await maren.send(`/api/packets/${stack}/changes`, { kind: 'undo', base: version });
	const last = (await view()).packet;
	expect(first!.pages.some((page) => last.pages[page])).toBe(false);
});
