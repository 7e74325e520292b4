import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { Database } from '../store/database';
import { openPGlite } from '../store/pglite';
import { BudgetError } from './lane';
import { type Handlers, type JobName } from './kinds';
import { Queue } from './queue';

const root = mkdtempSync(join(tmpdir(), 'membrana-queue-'));
let db: Database;
let queue: Queue;
let mayWrite = true;
/** What a handler does, and what became of jobs that failed for good. */
let work: (name: JobName, data: { packetId?: string; pageId?: string }) => Promise<void>;
let failed: string[];
const silent = console.error;

beforeAll(async () => {
	db = await openPGlite(join(root, 'database'));
	queue = new Queue(db);
	const names: JobName[] = [
		'take-in',
		'prepare-page',
		'read-picture',
		'look-page',
		'read-page',
		'match-names',
		'weigh-page',
		'make-file',
		'deliver-portal',
		'deliver-mail',
		'deliver-folder'
	];
	const handlers = Object.fromEntries(
		names.map((name) => [
			name,
			{
				run: (data: object) => work(name, data),
				failed: (_: object, problem: string) => Promise.resolve(void failed.push(problem))
			}
		])
	) as unknown as Handlers;
	await queue.start(handlers, () => mayWrite);
});
beforeEach(() => {
	failed = [];
	mayWrite = true;
	console.error = () => undefined;
});
afterAll(async () => {
	await queue.stop();
	await queue.idle();
	await db.close();
	console.error = silent;
});

const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds));
async function until(look: () => boolean): Promise<void> {
	for (let i = 0; i < 3_000; i++) {
		if (look()) return;
		await pause(50);
	}
	throw new Error('Waited in vain.');
}
const pages = (packetId: string, count: number) =>
	Array.from({ length: count }, (_, i) => ({
		data: { packetId, pageId: `${packetId}${i}`, key: `${packetId}${i}` },
		packetId
	}));

describe('the queue', () => {
	it('takes packets in turn: who comes with one page does not wait for two hundred of another', async () => {
		// As they were begun: two work side by side, and either may end first.
		const begun: string[] = [];
		let hold = true;
		work = async (_, data) => {
			begun.push(data.pageId!);
			while (hold) await pause(5);
		};
		await queue.addAll('prepare-page', pages('big ', 200));
		await queue.addAll('prepare-page', pages('b ', 3));
		await queue.addAll('prepare-page', pages('c ', 3));
		hold = false;
		await until(() => begun.length === 206);
		// Two of the big packet had been begun; then all take turns, each in its own order.
		for (const late of ['b 2', 'c 2']) expect(begun.indexOf(late)).toBeLessThan(14);
		// Two are taken side by side, and either may be the first to begin.
		const big = begun.filter((d) => d.startsWith('big')).map((d) => Number(d.slice(4)));
		expect(big.toSorted((a, b) => a - b)).toEqual(Array.from({ length: 200 }, (_, i) => i));
		for (const [i, n] of big.entries()) expect(Math.abs(n - i)).toBeLessThan(2);
	});

	it('wastes no second between small jobs', async () => {
		let done = 0;
		work = () => Promise.resolve(void done++);
		await queue.addAll('prepare-page', pages('z ', 100));
		for (let i = 0; i < 100 && done < 100; i++) await pause(100);
		expect(done).toBe(100);
	});

	it('tries a job again that broke, and gives one up that broke for good, with a word', async () => {
		let tries = 0;
		work = () => {
			if (++tries < 3) throw new Error('Not yet.');
			return Promise.resolve();
		};
		await queue.add('read-page', { packetId: 'p', pageId: 'x', key: 'x' });
		await until(() => tries === 3);
		expect(failed).toEqual([]);
		// What was ended for its use of time is tried once more only.
		tries = 0;
		work = () => {
			tries++;
			throw new BudgetError('time');
		};
		await queue.add('read-page', { packetId: 'p', pageId: 'y', key: 'y' });
		await until(() => failed.length === 1);
		await pause(3_000);
		expect([tries, failed]).toEqual([2, [expect.stringContaining('stopped twice')]]);
	});

	it('waits with what writes while the disk is full, and goes on by itself', async () => {
		let done = 0;
		work = () => Promise.resolve(void done++);
		mayWrite = false;
		await queue.addAll('prepare-page', pages('w ', 2));
		await queue.add('read-page', { packetId: 'w', pageId: 'r', key: 'r' });
		await until(() => done === 1);
		await pause(300);
		expect(done).toBe(1);
		mayWrite = true;
		await until(() => done === 3);
	});

	it('begins a delivery that was put off when its time has come', async () => {
		const began = Date.now();
		let at = 0;
		work = () => Promise.resolve(void (at = Date.now()));
		await queue.add('deliver-mail', { deliveryId: 'd' }, { afterSeconds: 1 });
		await until(() => at > 0);
		expect(at - began).toBeGreaterThanOrEqual(950);
	});

	it('does not begin again what was given up, where the process ended before that was told to the end', async () => {
		const other = await openPGlite(join(root, 'ended'));
		let tries = 0;
		let told = 0;
		const handlers = (failed: () => Promise<void>) =>
			({
				'read-page': {
					run: () => {
						tries++;
						throw new BudgetError('time');
					},
					failed
				}
			}) as unknown as Handlers;
		const before = new Queue(other);
		await before.start(
			handlers(() => {
				told++;
				return new Promise(() => undefined);
			}),
			() => true
		);
		await before.add('read-page', { packetId: 'p', pageId: 'e', key: 'e' });
		await until(() => told === 1);
		await before.stop();
		const after = new Queue(other);
		await after.start(
			handlers(() => Promise.resolve(void told++)),
			() => true
		);
		await until(() => told === 2);
		await pause(2_500);
		expect([tries, told]).toEqual([2, 2]);
		await after.stop();
		await after.idle();
		await other.close();
	});
});
