import { createHash, randomUUID } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
	Portal,
	RefusedError,
	UnreachableError,
	type Submission
} from '../../src/lib/server/delivery/portal';
import { startPortal } from './portal';

const folder = mkdtempSync(join(tmpdir(), 'membrana-portal-'));
let now = Date.parse('2026-12-01T12:00:00Z');
let running: Awaited<ReturnType<typeof startPortal>>;
let portal: Portal;
beforeAll(async () => {
	running = await startPortal({ folder, port: 0, maxBytes: 10_000, now: () => now });
	portal = new Portal(running.address);
});
afterAll(() => running.close());

function submission(text: string, change: Partial<Submission> = {}): Submission {
	const bytes = Buffer.from(text);
	return {
		assignment: { id: 'w3', title: 'W3 <b>', course: 'HY-2', due: '2026-12-04T18:00:00+01:00', strict: true },
		student: 'Ilka Brandsma',
		fileName: 'Brandsma_Ilka “W3”.pdf',
		type: 'pdf',
		sha256: createHash('sha256').update(bytes).digest('hex'),
		bytes,
		idempotencyKey: randomUUID(),
		...change
	};
}
const stored = async () =>
	(await (await fetch(`${running.address}/api/submissions`)).json()) as { number: string }[];

describe('the stand-in portal and its client', () => {
	it('gives one receipt for one key, however often it is sent, at once or in turn', async () => {
		const one = submission('a page');
		const receipts = await Promise.all([1, 2, 3, 4].map(() => portal.submit(one)));
		receipts.push(await portal.submit(one));
		expect(new Set(receipts.map((r) => r.number)).size).toBe(1);
		expect(receipts[0]!.sha256).toBe(one.sha256);
		expect(await stored()).toHaveLength(1);
		const file = await fetch(`${running.address}/api/submissions/${receipts[0]!.number}/file`);
		expect(await file.text()).toBe('a page');
	});

	it('refuses what is too large, of another type, damaged on the way, or under a used key', async () => {
		await expect(portal.submit(submission('x'.repeat(20_000)))).rejects.toThrow(/at most 0 MB|larger/);
		await expect(portal.submit(submission('y', { sha256: '0'.repeat(64) }))).rejects.toThrow(RefusedError);
		const one = submission('first');
		await portal.submit(one);
		await expect(portal.submit(submission('second', { idempotencyKey: one.idempotencyKey }))).rejects.toThrow(
			'another file'
		);
		const plain = await fetch(`${running.address}/api/assignments/w3/submissions`, {
			method: 'POST',
			body: 'x'
		});
		expect(plain.status).toBe(415);
	});

	it('keeps the due time: strict refuses, otherwise it is late', async () => {
		now = Date.parse('2026-12-04T17:00:01Z');
		await expect(portal.submit(submission('late'))).rejects.toThrow('due time');
		const lenient = submission('late but fine');
		const receipt = await portal.submit({
			...lenient,
			assignment: { ...lenient.assignment, id: 'w4', strict: false }
		});
		expect(receipt.late).toBe(true);
		now = Date.parse('2026-12-01T12:00:00Z');
	});

	it('takes a recall, and shows what arrived without taking its text for markup', async () => {
		const receipt = await portal.submit(
			submission('to be recalled', { student: '<script>alert(1)</script>' })
		);
		await portal.recall(receipt.number);
		await portal.recall(receipt.number);
		const page = await (await fetch(running.address)).text();
		expect(page).toContain('recalled');
		expect(page).not.toContain('<script>');
		await expect(portal.recall('AF-99999')).rejects.toThrow(RefusedError);
	});

	it('tells "no answer" from "no"', async () => {
		await expect(new Portal('http://127.0.0.1:9').submit(submission('z'))).rejects.toThrow(UnreachableError);
	});

	it('remembers everything over a restart', async () => {
		const before = await stored();
		await running.close();
		running = await startPortal({ folder, port: 0, maxBytes: 10_000, now: () => now });
		portal = new Portal(running.address);
		expect(await stored()).toEqual(before);
	});
});
