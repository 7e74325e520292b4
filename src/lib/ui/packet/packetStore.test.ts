import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { apply, type Change } from '$lib/core/packet/change';
import { EMPTY_PACKET, type Packet } from '$lib/core/packet/packet';
import type { PacketNews, PacketView } from '$lib/server/view/packetView';
import { PacketStore } from './packetStore.svelte';
import { unsentEdits, type UnsentEdit } from './unsent';

const page = (id: string) => ({ id, source: 's', sourcePage: 0, corners: null, turn: null, tone: null });
const THREE_PAGES: Packet = {
	...EMPTY_PACKET,
	strip: ['a', 'b', 'c'],
	pages: { a: page('a'), b: page('b'), c: page('c') }
};
const named = (name: string): Change => ({ kind: 'setFileName', name });
const moved = (id: string, index: number): Change => ({
	kind: 'place',
	page: id,
	to: { on: 'strip', index }
});
const removed = (id: string): Change => ({ kind: 'removePages', pages: [id] });

/** A server that keeps one packet, carries out what it is sent once for each key, and can be away. */
class PlayedServer {
	packet = THREE_PAGES;
	version = 1;
	changes: { version: number; change: Change }[] = [];
	/** Keys of what was sent, in sequence, carried out or not. */
	sent: string[] = [];
	/** How the next requests go wrong. */
	troubles: ('away' | 500 | 'lost answer')[] = [];
	readonly #done = new Set<string>();

	/** Something is done to the packet elsewhere. */
	do(change: Change): void {
		this.packet = apply(this.packet, change).packet;
		this.changes.push({ version: ++this.version, change });
	}

	view(): PacketView {
		return {
			...this.#beside(),
			id: 'packet',
			packet: this.packet,
			canUndo: false,
			canRedo: false,
			assignment: { id: 'w', courseCode: 'HY-2', ruleSheet: { title: 'W', questions: [] }, version: 1 },
			owner: { given: 'Ilka', family: 'Brandsma' },
			as: 'owner',
			findings: null,
			pages: {}
		};
	}

	fetch = (address: string, request?: { body?: string }): Promise<Response> => {
		const trouble = this.troubles.shift();
		if (request?.body) this.sent.push((JSON.parse(request.body) as UnsentEdit).key);
		if (trouble === 'away') return Promise.reject(new TypeError('no network'));
		if (trouble === 500) return Promise.resolve(Response.json({ message: 'out of order' }, { status: 500 }));
		const answer = request?.body ? this.#change(JSON.parse(request.body)) : this.#ask(address);
		return trouble === 'lost answer' ? Promise.reject(new TypeError('cut')) : Promise.resolve(answer);
	};

	#ask(address: string): Response {
		const since = new URL(address, 'http://server').searchParams.get('version');
		return Response.json(since === null ? this.view() : this.#news(Number(since)));
	}

	#change({ key, base, heard, ...message }: UnsentEdit & { base: number; heard: { version: number } }) {
		if (this.#done.has(key)) return Response.json(this.#news(heard.version));
		if (base !== this.version) return Response.json({ message: 'changed meanwhile' }, { status: 409 });
		if (message.kind !== 'edit') throw new Error('not played');
		try {
			this.do(message.change);
		} catch (error) {
			return Response.json({ message: (error as Error).message }, { status: 400 });
		}
		this.#done.add(key);
		return Response.json(this.#news(heard.version));
	}

	#news(since: number): PacketNews {
		return {
			...this.#beside(),
			changes: this.changes.filter((c) => c.version > since),
			undo: { canUndo: true, canRedo: false },
			pages: {}
		};
	}

	#beside() {
		const nothing = { deliveries: [], troubles: [], phone: null, sources: [], returns: [], moreTime: null };
		return { ...nothing, version: this.version, news: this.version, now: 1_000 };
	}
}

class SilentEvents {
	addEventListener(): void {}
	close(): void {}
}

/** A store waits a moment before it tries again, and machines are slow. */
const soon = <T>(get: () => T) => expect.poll(get, { timeout: 60_000 });

let server: PlayedServer;
let opened: PacketStore[];
const open = () => {
	const store = new PacketStore(server.view(), true);
	opened.push(store);
	return store;
};

beforeEach(() => {
	server = new PlayedServer();
	opened = [];
	vi.stubGlobal('fetch', server.fetch);
	vi.stubGlobal('EventSource', SilentEvents);
	vi.stubGlobal('addEventListener', () => {});
	vi.stubGlobal('removeEventListener', () => {});
});
afterEach(async () => {
	// What is still on its way would otherwise be tried again on the next test's server.
	for (const store of opened) await soon(() => store.waiting).toBe(0);
	for (const { key } of await unsentEdits.all('packet')) await unsentEdits.delete(key);
	vi.unstubAllGlobals();
});

describe('a packet that is open in a browser', () => {
	it('shows an edit at once, and has it on the server soon', async () => {
		const store = open();
		store.edit(moved('c', 0));
		expect(store.packet.strip).toEqual(['c', 'a', 'b']);
		expect(store.waiting).toBe(1);
		await soon(() => store.waiting).toBe(0);
		expect(server.packet.strip).toEqual(['c', 'a', 'b']);
		expect(store.packet).toEqual(server.packet);
		expect(store.canUndo).toBe(true);
	});

	it('sends edits one after another, in the sequence in which they were made', async () => {
		const store = open();
		for (const name of ['one', 'two', 'three', 'four']) store.edit(named(name));
		expect(store.packet.fileName).toBe('four');
		await soon(() => store.waiting).toBe(0);
		expect(server.changes.map((c) => (c.change as { name?: string }).name)).toEqual([
			'one',
			'two',
			'three',
			'four'
		]);
	});

	it('makes an edit anew on what was done elsewhere meanwhile, and keeps both', async () => {
		const store = open();
		server.do(named('by the teacher'));
		store.edit(moved('c', 0));
		await soon(() => store.waiting).toBe(0);
		expect(store.packet).toMatchObject({ fileName: 'by the teacher', strip: ['c', 'a', 'b'] });
		expect(server.packet).toEqual(store.packet);
		expect(store.notice).toBeNull();
		// It was the same edit both times.
		expect(new Set(server.sent).size).toBe(1);
	});

	it.each(['away', 500, 'lost answer'] as const)(
		'keeps edits while the server is %s, and has each carried out once',
		async (trouble) => {
			const store = open();
			server.troubles = [trouble];
			store.edit(moved('c', 0));
			store.edit(moved('b', 0));
			await soon(() => server.sent.length).toBeGreaterThan(0);
			expect(store.packet.strip).toEqual(['b', 'c', 'a']);
			expect(store.waiting).toBe(2);
			expect((await unsentEdits.all('packet')).map((e) => e.kind)).toEqual(['edit', 'edit']);
			await soon(() => store.waiting).toBe(0);
			expect(server.packet.strip).toEqual(['b', 'c', 'a']);
			expect(store.packet).toEqual(server.packet);
			expect(server.changes).toHaveLength(2);
			expect(store.online).toBe(true);
			await soon(() => unsentEdits.all('packet')).toEqual([]);
		}
	);

	it('says why an edit was refused, and shows what the server has', async () => {
		const store = open();
		server.do(removed('c'));
		store.edit({ kind: 'setTurn', page: 'c', turn: 90 });
		await soon(() => store.waiting).toBe(0);
		expect(store.notice).toBeTruthy();
		expect(store.packet).toEqual(server.packet);
	});

	it('refuses what makes no sense before anybody is asked', () => {
		const store = open();
		store.edit(moved('nowhere', 0));
		expect(store.notice).toBeTruthy();
		expect(store.waiting).toBe(0);
		expect(server.sent).toEqual([]);
	});

	it('takes up what an earlier visit could not send', async () => {
		server.troubles = ['away'];
		const first = open();
		first.edit(moved('c', 0));
		await soon(async () => (await unsentEdits.all('packet')).length).toBe(1);
		const [left] = await unsentEdits.all('packet');
		const again = open();
		const stop = again.listen();
		await soon(() => server.packet.strip).toEqual(['c', 'a', 'b']);
		await soon(() => again.waiting).toBe(0);
		expect(again.packet.strip).toEqual(['c', 'a', 'b']);
		expect(server.sent.every((key) => key === left!.key)).toBe(true);
		stop();
	});

	it('holds on to the page being worked on, and goes to the first when it is gone', async () => {
		const store = open();
		store.current = 'b';
		store.edit(moved('b', 0));
		await soon(() => store.waiting).toBe(0);
		expect(store.current).toBe('b');
		server.do(removed('b'));
		store.refresh();
		await soon(() => store.packet.pages.b).toBeUndefined();
		expect(store.current).toBe('a');
	});
});
