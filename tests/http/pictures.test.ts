import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Page } from '../../src/lib/core/packet/packet';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { Client, freePort, seed, startApp, until, type RunningApp } from '../support/app';
import { jpeg, testPage, testPhotograph } from '../support/pictures';

const data = mkdtempSync(join(tmpdir(), 'membrana-pictures-'));
let app: RunningApp;
let assignment: string;

beforeAll(async () => {
	({ assignment } = await seed(data));
	app = await startApp(data, await freePort(), undefined, 'on');
});
afterAll(() => app.kill('SIGTERM'));

async function bringIn(
	client: Client,
	packet: string,
	name: string,
	bytes: Buffer,
	more = {}
): Promise<void> {
	await client.continueUpload(await client.beginUpload(packet, name, bytes.length, more), bytes, 0);
}

it('a page remembers its pictures; one is brought back, and none from elsewhere is let in', async () => {
	const [ilka, tobias] = await Promise.all(['ilka', 'tobias'].map((who) => Client.signIn(app.address, who)));
	const packet = await ilka!.openPacket(assignment);
	const others = await tobias!.openPacket(assignment);
	const view = () => ilka!.json<PacketView>(`/api/packets/${packet}`);
	const shot = (seed: number) => jpeg(testPhotograph(testPage(seed), { seed, size: [900, 1200] }).picture);

	await bringIn(ilka!, packet, 'first.jpg', await shot(61));
	await bringIn(tobias!, others, 'his.jpg', await shot(62));
	const page = await until(async () => Object.values((await view()).packet.pages)[0]);
	await bringIn(ilka!, packet, 'second.jpg', await shot(63), { replaces: page.id });
	const replaced = await until(async () => {
		const now = (await view()).packet.pages[page.id]!;
		return now.source !== page.source && now;
	});
	const pictures = () =>
		ilka!.json<(Pick<Page, 'source'> & { name: string })[]>(
			`/api/packets/${packet}/pages/${page.id}/pictures`
		);
	expect(await pictures()).toEqual([{ source: page.source, sourcePage: 0, name: 'first.jpg' }]);

	const edit = async (source: string, sourcePage = 0) => {
		const picture = { source, sourcePage, corners: null, turn: null };
		const change = { kind: 'setPicture', page: page.id, picture };
		const { version } = await view();
		return (await ilka!.send(`/api/packets/${packet}/changes`, { kind: 'edit', base: version, change }))
			.status;
	};
	const his = await until(async () => {
		const { packet: theirs } = await tobias!.json<PacketView>(`/api/packets/${others}`);
		return Object.values(theirs.pages)[0];
	});
	expect(await edit(his.source)).toBe(422);
	expect(await edit(page.source, 7)).toBe(422);
	expect(await edit(page.source)).toBe(200);
	expect((await pictures()).map((p) => p.source)).toEqual([replaced.source]);
	expect((await tobias!.fetch(`/api/packets/${packet}/pages/${page.id}/pictures`)).status).toBe(404);
	expect((await ilka!.fetch(`/api/packets/${packet}/pages/nobody/pictures`)).status).toBe(404);

	// The page as photographed, at the size of the finished one.
	const ready = await until(async () => (await view()).pages[page.id]!.prepared);
	const { key } = (await view()).pages[page.id]!;
	const flat = await until(async () => {
		const response = await ilka!.fetch(`/api/packets/${packet}/pictures/${key}/flat`);
		return response.ok && Buffer.from(await response.arrayBuffer());
	});
	expect(await sharp(flat).metadata()).toMatchObject({
		format: 'jpeg',
		width: ready.width,
		height: ready.height
	});
	// By its key, for ever; for nobody else, and under no other packet.
	const thumb = await ilka!.fetch(`/api/packets/${packet}/pictures/${key}/thumb`);
	expect([thumb.status, thumb.headers.get('cache-control')]).toEqual([
		200,
		'private, max-age=31536000, immutable'
	]);
	const from = await ilka!.fetch(`/api/packets/${packet}/pictures/${page.source}-0/source`);
	expect(from.status).toBe(200);
	for (const path of [`${packet}/pictures/${key}/thumb`, `${packet}/pictures/${page.source}-0/source`]) {
		expect((await tobias!.fetch(`/api/packets/${path}`)).status).toBe(404);
	}
	for (const path of [`${key}/thumb`, `${page.source}-0/source`, `${key}/nothing`]) {
		expect((await tobias!.fetch(`/api/packets/${others}/pictures/${path}`)).status).toBe(404);
	}
	expect((await ilka!.fetch(`/api/packets/${packet}/pictures/${key}/nothing`)).status).toBe(404);
});

it('an open notebook becomes two pages once it has been read, in the order in which they are read', async () => {
	const tobias = await Client.signIn(app.address, 'tobias');
	const packet = await tobias.openPacket(assignment);
	const [left, right] = [1, 2].map((seed) => testPage(seed, { paper: 'A5', scale: 8 }).picture);
	const { picture } = testPhotograph(
		{ picture: left!, labels: [] },
		{ seed: 3, size: [1200, 1600], lies: 90, opposite: right! }
	);
	await bringIn(tobias, packet, 'notebook.jpg', await jpeg(picture));
	const view = await until(async () => {
		const now = await tobias.json<PacketView>(`/api/packets/${packet}`);
		return Object.values(now.packet.pages).some((page) => page.half !== undefined) && now;
	});
	const pages = view.packet.strip.map((id) => view.packet.pages[id]!);
	const [first, second] = pages.filter((page) => page.half !== undefined);
	// It lies on its right side, so that its left page is the upper one.
	expect([first!.half, second!.half]).toEqual([0, 1]);
	expect(first!.source).toBe(second!.source);
	expect(view.canUndo).toBe(false);
});
