import { createHash, generateKeyPairSync, randomUUID } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Signer } from '../../src/lib/server/delivery/signer';
import { Portal } from '../../src/lib/server/delivery/portal';
import { RefusedError, UnreachableError, type Submission } from '../../src/lib/server/delivery/target';
import { NO_FAULTS } from './faults';
import { startPortal } from './portal';

const folder = mkdtempSync(join(tmpdir(), 'membrana-portal-'));
let now = Date.parse('2026-12-01T12:00:00Z');
let running: Awaited<ReturnType<typeof startPortal>>;
let portal: Portal;
beforeAll(async () => {
	running = await startPortal({ folder, port: 0, maxBytes: 10_000, now: () => now });
	portal = new Portal(running.address, signer.publicKey);
});
afterAll(() => running.close());

const submit = (submission: Submission, at = portal) => at.deliver(submission, () => Promise.resolve());
const signer = new Signer(generateKeyPairSync('ed25519').privateKey);
const recalled = ({ key, assignment, fileName, sha256 }: Submission) => ({
	key,
	assignment,
	fileName,
	sha256,
	receipt: null,
	mayBeOut: false
});

function submission(text: string, change: Partial<Submission> = {}): Submission {
	const bytes = Buffer.from(text);
	return {
		assignment: {
			id: 'w3',
			title: 'W3 <b>',
			course: 'HY-2',
			due: '2026-12-04T18:00:00+01:00',
			grace: 0,
			strict: true
		},
		student: { name: 'Ilka Brandsma', email: null },
		to: 'w3',
		tries: 0,
		comment: '',
		replaces: null,
		fileName: 'Brandsma_Ilka “W3”.pdf',
		type: 'pdf',
		sha256: createHash('sha256').update(bytes).digest('hex'),
		bytes,
		key: randomUUID(),
		proof: signer.sign('{}'),
		...change
	};
}
const stored = async () =>
	(await (await fetch(`${running.address}/api/submissions`)).json()) as { number: string }[];

const keys = async () => ((await stored()) as unknown as { key: string }[]).map((s) => s.key);

describe('the stand-in portal and its client', () => {
	it('gives one receipt for one key, however often it is sent, at once or in turn', async () => {
		const one = submission('a page');
		const receipts = await Promise.all([1, 2, 3, 4].map(() => submit(one)));
		receipts.push(await submit(one));
		expect(new Set(receipts.map((r) => r.number)).size).toBe(1);
		expect(receipts[0]!.sha256).toBe(one.sha256);
		expect(await stored()).toHaveLength(1);
		const file = await fetch(`${running.address}/api/submissions/${receipts[0]!.number}/file`);
		expect(await file.text()).toBe('a page');
	});

	it('refuses what is too large, of another type, damaged on the way, or under a used key', async () => {
		await expect(submit(submission('x'.repeat(20_000)))).rejects.toThrow(/at most 0 MB|larger/);
		await expect(submit(submission('y', { sha256: '0'.repeat(64) }))).rejects.toThrow(RefusedError);
		const one = submission('first');
		await submit(one);
		await expect(submit(submission('second', { key: one.key }))).rejects.toThrow('another file');
		const plain = await fetch(`${running.address}/api/assignments/w3/submissions`, {
			method: 'POST',
			body: 'x'
		});
		expect(plain.status).toBe(400);
	});

	it('keeps the due time: strict refuses, otherwise it is late', async () => {
		now = Date.parse('2026-12-04T17:00:01Z');
		await expect(submit(submission('late'))).rejects.toThrow('due time');
		const lenient = submission('late but fine');
		const receipt = await submit({
			...lenient,
			to: 'w4',
			assignment: { ...lenient.assignment, id: 'w4', strict: false }
		});
		expect(receipt.late).toBe(true);
		const inGrace = submission('in the grace period');
		const grace = { ...inGrace.assignment, id: 'w5', grace: 1 };
		expect((await submit({ ...inGrace, to: 'w5', assignment: grace })).late).toBe(true);
		now += 60_000;
		await expect(submit({ ...submission('after it'), to: 'w5', assignment: grace })).rejects.toThrow('due');
		now = Date.parse('2026-12-01T12:00:00Z');
	});

	it('believes a proof by who made the assignment known: what was handed in before it was due is not late', async () => {
		now = Date.parse('2026-12-04T17:30:00Z');
		const handedInAt = '2026-12-04T16:59:05.000Z';
		const proven = (text: string, sign: Signer, change: object = {}) => {
			const one = submission(text);
			const statement = JSON.stringify({ sha256: one.sha256, handedInAt, ...change });
			return { ...one, proof: sign.sign(statement) };
		};
		expect(await submit(proven('in time', signer))).toMatchObject({ late: false });
		const all = (await stored()) as unknown as { provenAt: string | null }[];
		expect(all.at(-1)!.provenAt).toBe(handedInAt);
		const forger = new Signer(generateKeyPairSync('ed25519').privateKey);
		await expect(submit(proven('forged', forger))).rejects.toThrow('due time');
		await expect(submit(proven('another file', signer, { sha256: 'ab' }))).rejects.toThrow('due time');
		await expect(
			submit(proven('from tomorrow', signer, { handedInAt: '2026-12-05T16:00:00Z' }))
		).rejects.toThrow('due time');
		// Who was given more time is not late before that is over.
		const later = { handedInAt: '2026-12-04T17:20:00Z' };
		const given = (due: string) => proven(`until ${due}`, signer, { ...later, due });
		expect(await submit(given('2026-12-04T18:00:00.000Z'))).toMatchObject({ late: false });
		await expect(submit(given('2026-12-04T17:10:00.000Z'))).rejects.toThrow('due time');
		await expect(submit(proven('forged time', forger, { ...later, due: '2027-01-01' }))).rejects.toThrow(
			'due time'
		);
		now = Date.parse('2026-12-01T12:00:00Z');
	});

	it('takes two thousand letters of any script as a comment', async () => {
		const comment = '沢の水位を測り直しました。'.repeat(200).slice(0, 2000);
		const one = submission('with a long comment', { comment });
		await submit(one);
		const all = (await stored()) as unknown as { comment: string; key: string }[];
		expect(all.find((s) => s.key === one.key)!.comment).toBe(comment);
	});

	it('takes a recall, and shows what arrived without taking its text for markup', async () => {
		const one = submission('to be recalled', { student: { name: '<script>alert(1)</script>', email: null } });
		await submit(one);
		await portal.recall(recalled(one));
		await portal.recall(recalled(one));
		const page = await (await fetch(running.address)).text();
		expect(page).toContain('recalled');
		expect(page).not.toContain('<script>');
	});

	it('keeps out what was called off before it came', async () => {
		const one = submission('never mind');
		await portal.recall(recalled(one));
		await expect(submit(one)).rejects.toThrow('called off');
		expect(await keys()).not.toContain(one.key);
	});

	it('puts a new submission in the place of an old one', async () => {
		const old = await submit(submission('first version'));
		const now = await submit(submission('second version', { replaces: old, comment: 'Page 2 is new.' }));
		const all = (await stored()) as unknown as {
			number: string;
			replacedBy: string | null;
			comment: string;
		}[];
		expect(all.find((s) => s.number === old.number)!.replacedBy).toBe(now.number);
		expect(all.find((s) => s.number === now.number)).toMatchObject({
			replacedBy: null,
			comment: 'Page 2 is new.'
		});
	});

	it('says when everything has gone out, and asks instead of sending again after a lost answer', async () => {
		const one = submission('x'.repeat(5000));
		let sent = 0;
		const count = () => {
			sent++;
			return Promise.resolve();
		};
		running.faults.set({ ...NO_FAULTS, loseAnswer: true });
		// Telling the portal of the assignment is not struck by this.
		await expect(portal.deliver(one, count)).rejects.toThrow(UnreachableError);
		running.faults.set(NO_FAULTS);
		expect(sent).toBe(1);
		expect(await keys()).toContain(one.key);
		const receipt = await portal.deliver({ ...one, tries: 1 }, count);
		expect(receipt.sha256).toBe(one.sha256);
		expect(sent).toBe(1);
		running.faults.set({ ...NO_FAULTS, cutAt: 100 });
		await expect(submit(submission('y'.repeat(5000)))).rejects.toThrow(UnreachableError);
		running.faults.set(NO_FAULTS);
	});

	it('its panel sets faults, which are used up, and is checked', async () => {
		const put = (body: object) =>
			fetch(`${running.address}/standin/faults`, {
				method: 'PUT',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify(body)
			});
		expect((await put({ status: 503, times: 1 })).status).toBe(200);
		const busy = submission('busy');
		await expect(submit(busy)).rejects.toMatchObject({ name: 'UnreachableError', afterSeconds: 1 });
		expect((await submit(busy)).sha256).toBe(busy.sha256);
		for (const [refuse, words] of [
			['size', 'larger'],
			['type', 'type of file']
		] as const) {
			await put({ refuse });
			await expect(submit(submission('no'))).rejects.toThrow(words);
		}
		expect((await put({ slow: -1 })).status).toBe(400);
		const form = new URLSearchParams({ slow: '', cutAt: '', status: '500', times: '' });
		await fetch(`${running.address}/standin/faults`, { method: 'POST', body: form });
		await expect(submit(submission('no'))).rejects.toThrow('500');
		form.set('reset', '1');
		await fetch(`${running.address}/standin/faults`, { method: 'POST', body: form });
		expect(running.faults.now).toEqual(NO_FAULTS);
	});

	it('tells "no answer" from "no"', async () => {
		await expect(submit(submission('z'), new Portal('http://127.0.0.1:9'))).rejects.toThrow(UnreachableError);
	});

	it('remembers everything over a restart', async () => {
		const before = await stored();
		await running.close();
		running = await startPortal({ folder, port: 0, maxBytes: 10_000, now: () => now });
		portal = new Portal(running.address);
		expect(await stored()).toEqual(before);
	});
});
