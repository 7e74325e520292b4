import { describe, expect, it } from 'vitest';
import type { Database } from '../store/database';
import { PageAsker } from './askForPages';
import type { Lack } from './packetLacks';
import type { Queue } from './queue';

/** A database that knows no packet, and says how often it was asked for one. */
function counting(): { db: Database; asked: () => number; answer: () => void } {
	let asked = 0;
	let waiting: (() => void)[] = [];
	const query = () => {
		asked++;
		return new Promise<never[]>((done) => waiting.push(() => done([])));
	};
	const db = { query, news: null } as unknown as Database;
	return {
		db,
		asked: () => asked,
		answer: () => {
			for (const done of waiting.splice(0)) done();
			waiting = [];
		}
	};
}
const soon = () => new Promise((done) => setImmediate(done));

describe('asking for what pages lack', () => {
	it('makes one of calls that come close together, and looks once more after the last of them', async () => {
		const { db, asked, answer } = counting();
		const pages = new PageAsker(db, {} as Queue, true);
		const all = [1, 2, 3, 4].map(() => pages.ensure('p'));
		await soon();
		expect(asked()).toBe(1);
		answer();
		await soon();
		expect(asked()).toBe(2);
		answer();
		await Promise.all(all);
		expect(asked()).toBe(2);
	});

	it('asks for nothing once it is stopped, and what was being asked is over by then', async () => {
		const { db, asked, answer } = counting();
		const pages = new PageAsker(db, {} as Queue, true);
		const begun = pages.ensure('p');
		let isOver = false;
		void begun.then(() => (isOver = true));
		await soon();
		const stopped = pages.stop();
		await pages.ensure('q');
		expect(asked()).toBe(1);
		expect(isOver).toBe(false);
		answer();
		await stopped;
		expect(isOver).toBe(true);
	});

	it('loses no call, however close to the end of the one before it comes', async () => {
		for (let microtasks = 0; microtasks < 12; microtasks++) {
			const { db, asked, answer } = counting();
			const pages = new PageAsker(db, {} as Queue, true);
			const first = pages.ensure('p');
			await soon();
			answer();
			// Between the answer and the end of the look there are some microtasks: a call in each of them counts.
			for (let i = 0; i < microtasks; i++) await Promise.resolve();
			const before = asked();
			const second = pages.ensure('p');
			await soon();
			answer();
			await soon();
			answer();
			await Promise.all([first, second]);
			expect(asked(), `after ${microtasks} microtasks`).toBeGreaterThan(before);
		}
	});

	it('begins anew after one that failed', async () => {
		let fails = true;
		const db = {
			query: () => (fails ? Promise.reject(new Error('Away.')) : Promise.resolve([])),
			news: null
		} as unknown as Database;
		const pages = new PageAsker(db, {} as Queue, true);
		await expect(pages.ensure('p')).rejects.toThrow('Away.');
		fails = false;
		await expect(pages.ensure('p')).resolves.toBeUndefined();
	});

	it('asks once for what two packets lack, and looks again for the other when it is done', async () => {
		const asked: string[] = [];
		const queue = {
			addAll: (_: string, jobs: { data: { packetId: string } }[]) => {
				asked.push(...jobs.map(({ data }) => data.packetId));
				return Promise.resolve();
			}
		} as unknown as Queue;
		// Two packets with one and the same picture, of which nothing is known yet.
		const page = { id: 'page', key: 'same', readingKey: 'r', seen: false, prepared: false };
		const lacks = {
			of: () =>
				Promise.resolve({
					strip: ['page'],
					tray: [],
					pages: new Map([['page', page]]),
					encoded: new Set(),
					stuck: new Set(),
					tooLarge: false,
					namesLack: false,
					checked: 'all',
					uncut: null
				} as unknown as Lack)
		};
		const pages = new PageAsker({ news: null } as unknown as Database, queue, true, lacks);
		await pages.ensure('one');
		await pages.ensure('two');
		expect(asked).toEqual(['one']);

		pages.forget('prepare-page', 'same');
		await pages.ensure('two');
		// It looks again at what is lacking, now on its own account, and asks once.
		expect(asked).toEqual(['one', 'two']);
	});

	it('has a packet checked once its pages were looked at, and again once nothing more will become known', async () => {
		const asked: string[] = [];
		const queue = {
			addAll: (job: string) => Promise.resolve(asked.push(job)),
			add: (job: string) => Promise.resolve(asked.push(job))
		} as unknown as Queue;
		const page = {
			id: 'page',
			key: 'k',
			readingKey: 'r',
			seen: true,
			turned: true,
			prepared: true,
			problem: null
		};
		let lack = { read: 'starts', checked: 'none', namesLack: true, uncut: null as boolean | null };
		const lacks = {
			of: () =>
				Promise.resolve({
					strip: ['page'],
					tray: [],
					pages: new Map([['page', { ...page, read: lack.read }]]),
					encoded: new Set(),
					stuck: new Set(),
					tooLarge: false,
					namesLack: lack.namesLack,
					checked: lack.checked,
					uncut: lack.uncut
				} as unknown as Lack)
		};
		const pages = new PageAsker({ news: null } as unknown as Database, queue, true, lacks);
		await pages.ensure('p');
		expect(asked.splice(0)).toEqual(['read-page', 'match-names']);
		lack = { ...lack, namesLack: false };
		await pages.ensure('p');
		await pages.ensure('p');
		expect(asked.splice(0)).toEqual(['check-packet']);
		pages.forget('check-packet', 'p');
		// What becomes known page by page does not have it checked page by page.
		lack = { ...lack, checked: 'stale' };
		await pages.ensure('p');
		expect(asked).toEqual([]);
		lack = { ...lack, read: 'whole' };
		await pages.ensure('p');
		await pages.ensure('p');
		expect(asked.splice(0)).toEqual(['check-packet']);
		pages.forget('check-packet', 'p');
		lack = { ...lack, checked: 'all' };
		await pages.ensure('p');
		expect(asked).toEqual([]);
		// A stack is cut once all its pages have been looked at, before any is read whole, and is never checked as a packet.
		pages.forget('read-page', 'r');
		lack = { read: 'not', checked: 'none', namesLack: true, uncut: true };
		await pages.ensure('stack');
		expect(asked.splice(0)).toEqual(['look-page']);
		lack = { ...lack, read: 'starts' };
		await pages.ensure('stack');
		await pages.ensure('stack');
		expect(asked.splice(0)).toEqual(['cut-stack']);
		lack = { ...lack, uncut: false };
		await pages.ensure('stack');
		expect(asked.splice(0)).toEqual(['read-page']);
		lack = { ...lack, read: 'whole' };
		await pages.ensure('stack');
		expect(asked).toEqual([]);
	});
});
