import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Lane, type Task } from './lane';
import type { StepBudget } from './budgets';

// Processes that do what they are told, in place of the real steps.
const folder = mkdtempSync(join(tmpdir(), 'membrana-lane-'));
/** A dot for each process that was started. */
const starts = join(folder, 'starts');
writeFileSync(starts, '');
writeFileSync(
	join(folder, 'worker.js'),
	`const kept = [];
	require('node:fs').appendFileSync(${JSON.stringify(starts)}, '.');
	process.on('message', ({ input, quiet }) => {
		if (input.spin) for (;;);
		if (input.crash) process.exit(7);
		if (input.hold) { const grow = () => { kept.push(Buffer.alloc(40e6, 1)); setTimeout(grow, 20); }; return grow(); }
		if (quiet) return;
		if (input.fail) return process.send({ error: 'It said no.' });
		setTimeout(() => process.send({ result: { pid: process.pid, said: input.say } }), input.after ?? 0);
	});`
);
const before = process.env.MEMBRANA_NODE_BUILD;
let lane: Lane;
beforeAll(() => {
	process.env.MEMBRANA_NODE_BUILD = folder;
	lane = new Lane({ processes: 2, beside: 1 });
});
afterAll(async () => {
	await lane.close();
	if (before === undefined) delete process.env.MEMBRANA_NODE_BUILD;
	else process.env.MEMBRANA_NODE_BUILD = before;
});

const budget = (change: Partial<StepBudget> = {}): StepBudget => ({
	lane: 'pages',
	waits: 'person',
	cpuSeconds: 30,
	megabytes: 2000,
	...change
});
const run = (input: object, change?: Partial<StepBudget>) =>
	lane.run({ name: 'lock', input } as Task, budget(change)) as Promise<{ pid: number; said: unknown }>;

describe('a lane of processes', () => {
	it('gives nothing to a process that it has just sent away', async () => {
		const resting = new Lane({ processes: 1, rest: 2 });
		for (let i = 0; i < 25; i++) {
			const task = { name: 'lock', input: { say: i } } as unknown as Task;
			expect(await resting.run(task, budget())).toMatchObject({ said: i });
			// As long as it takes until the process is ended, a little less and a little more.
			const until = performance.now() + 1 + (i % 5) / 2;
			await new Promise((done) => setTimeout(done, 1));
			while (performance.now() < until);
		}
		await resting.close();
	});

	it('has one process begin when asked, unless there is one, and gives it work meanwhile', async () => {
		const resting = new Lane({ processes: 2, rest: 300 });
		const started = () => readFileSync(starts, 'utf8').length;
		// Those of the other lane.
		await expect.poll(started).toBeGreaterThanOrEqual(2);
		const before = started();
		const slow = { name: 'lock', input: { after: 60_000 } } as unknown as Task;
		for (let i = 0; i < 3; i++) resting.makeReady(slow);
		const task = { name: 'lock', input: { say: 'at once' } } as unknown as Task;
		expect(await resting.run(task, budget())).toMatchObject({ said: 'at once' });
		resting.makeReady(slow);
		expect(started()).toBe(before + 1);
		// Nothing was asked of it for long enough: it goes, whether it was ever given work or not.
		await expect.poll(() => resting.processes).toBe(0);
		resting.makeReady(slow);
		expect(resting.processes).toBe(1);
		await expect.poll(() => resting.processes).toBe(0);
		await resting.close();
	});

	it('keeps as many ready as it is told, has all begin when work is on its way, and lets the others go', async () => {
		const own = new Lane({ processes: 3, ready: 1, rest: 300 });
		expect(own.processes).toBe(1);
		own.expect();
		own.expect();
		expect(own.processes).toBe(3);
		await expect.poll(() => own.processes).toBe(1);
		// More than stand ready begin when there is work for them, and the last one stays.
		const task = { name: 'lock', input: { after: 50 } } as unknown as Task;
		const answers = (await Promise.all([1, 2, 3].map(() => own.run(task, budget())))) as { pid: number }[];
		expect(new Set(answers.map((a) => a.pid)).size).toBe(3);
		await expect.poll(() => own.processes).toBe(1);
		// One that crashed is replaced.
		const crash = { name: 'lock', input: { crash: true } } as unknown as Task;
		await expect(own.run(crash, budget())).rejects.toMatchObject({ name: 'CrashError' });
		await expect.poll(() => own.processes).toBe(1);
		await own.close();
	});

	it('does what it is given, in as many processes as it has, binary data included', async () => {
		const bytes = new Uint8Array([0, 1, 255]);
		const answers = await Promise.all(Array.from({ length: 6 }, () => run({ say: bytes, after: 30 })));
		expect(new Set(answers.map((a) => a.pid)).size).toBe(2);
		expect(answers[0]!.said).toEqual(bytes);
		await expect(run({ fail: true })).rejects.toThrow('It said no.');
	});

	it('ends what uses too much time or memory, and what crashes, and goes on with the rest', async () => {
		const spinning = run({ spin: true }, { cpuSeconds: 0.5 });
		await expect(spinning).rejects.toMatchObject({ name: 'BudgetError', what: 'time' });
		await expect(run({ hold: true }, { megabytes: 400 })).rejects.toMatchObject({
			name: 'BudgetError',
			what: 'memory'
		});
		await expect(run({ crash: true })).rejects.toMatchObject({ name: 'CrashError' });
		expect((await run({ say: 'still here' })).said).toBe('still here');
	});

	it('has room for others while every process is at something long', async () => {
		const long = [run({ spin: true }, { cpuSeconds: 6 }), run({ spin: true }, { cpuSeconds: 6 })];
		const ended = Promise.allSettled(long);
		expect((await run({ say: 'meanwhile' })).said).toBe('meanwhile');
		const outcomes = await ended;
		expect(outcomes.map((o) => o.status)).toEqual(['rejected', 'rejected']);
	});

	it('takes requests before what a person waits for, and that before what nobody waits for', async () => {
		const order: string[] = [];
		const note = (name: string) => () => void order.push(name);
		const one = new Lane({ processes: 1 });
		const later = (waits: StepBudget['waits'], name: string) =>
			one.run({ name: 'lock', input: {} } as unknown as Task, budget({ waits })).then(note(name));
		const all = [
			later('nobody', 'begun'),
			later('nobody', 'text'),
			later('person', 'page 1'),
			later('person', 'page 2'),
			later('request', 'answer')
		];
		await Promise.all(all);
		await one.close();
		expect(order).toEqual(['begun', 'answer', 'page 1', 'page 2', 'text']);
	});
});
