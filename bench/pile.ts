import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { addAssignment } from '../src/lib/server/store/assignments';
import type { PacketView } from '../src/lib/server/view/packetView';
import { withSchool } from './school';
import { serve } from './served';
import { feed, type FedPage } from './stacks/feed';
import { sampleStack, type SampleStack } from './stacks/sampleStack';

/** Pages of one made-up class's stack are taken over and over, each time in another packet's place. */
const SEED = 905;
/** Milliseconds between two looks how far it is. */
const LOOK = 1_000;

/**
 * A class's stack out of a feeder, brought in through the built application: how long until it is cut, beside the
 * processor time that it took, and how much memory.
 */
export async function benchPile(pages: number, print: (line: string) => void): Promise<void> {
	const folder = await mkdtemp(join(tmpdir(), 'membrana-pile-'));
	const stack = sampleStack(SEED, 'test', 30);
	const fed = stack.pages.flatMap(({ spec, lies }): FedPage[] => (spec ? [{ spec, lies }] : []));
	const pile = await feed(
		Array.from({ length: pages }, (_, i) => fed[i % fed.length]!),
		SEED
	);
	print(`${pages} pages, ${(pile.length / 1e6).toFixed(0)} MB`);
	const assignment = await fill(folder, stack);
	const app = await serve(folder, true);
	try {
		const cookie = await app.signIn('t');
		const ask = (path: string, init: RequestInit = {}) =>
			fetch(app.address + path, {
				redirect: 'manual',
				...init,
				headers: { origin: app.address, cookie, ...init.headers }
			});
		const idle = await app.megabytes();
		const before = await app.processor();
		const most = app.watchMemory();
		const opened = await ask(`/assignments/${assignment}/stack`, {
			method: 'POST',
			body: new URLSearchParams()
		});
		const id = /stacks\/([0-9a-f-]+)/.exec(opened.headers.get('location') ?? '')![1]!;
		const started = performance.now();
		const seconds = () => (performance.now() - started) / 1000;
		await upload(ask, app.address, id, pile);
		let prepared = 0;
		for (;;) {
			const view = (await (await ask(`/api/packets/${id}`)).json()) as PacketView;
			const ready = Object.values(view.pages).filter((p) => p.prepared).length;
			if (prepared === 0 && ready === pages) prepared = seconds();
			if ((view.packet.looked?.length ?? 0) === pages) break;
			await new Promise((done) => setTimeout(done, LOOK));
		}
		const cut = seconds();
		const { main, total } = await app.processor();
		const work = total - before.total;
		print(`all prepared after ${prepared.toFixed(0)} s, ready to be cut after ${cut.toFixed(0)} s`);
		print(
			`processor time ${work.toFixed(0)} s, ${(work / pages).toFixed(2)} s a page, of the main thread ${(main - before.main).toFixed(1)} s; ready after ${(cut / work).toFixed(2)} times of it`
		);
		print(`memory of all processes: ${idle.toFixed(0)} MB idle, ${most().toFixed(0)} MB at most`);
	} finally {
		await app.stop();
		await rm(folder, { recursive: true, force: true });
	}
}

async function upload(
	ask: (path: string, init?: RequestInit) => Promise<Response>,
	address: string,
	stack: string,
	bytes: Uint8Array
): Promise<void> {
	const metadata = { packet: stack, name: 'pile.pdf', key: 'pile', place: '0' };
	const tus = { 'tus-resumable': '1.0.0' };
	const begun = await ask('/api/uploads', {
		method: 'POST',
		headers: {
			...tus,
			'upload-length': String(bytes.length),
			'upload-metadata': Object.entries(metadata)
				.map(([k, v]) => `${k} ${Buffer.from(v).toString('base64')}`)
				.join(',')
		}
	});
	const path = new URL(begun.headers.get('location')!, address).pathname;
	const size = 16e6;
	for (let at = 0; at < bytes.length; at += size) {
		const sent = await ask(path, {
			method: 'PATCH',
			headers: { ...tus, 'upload-offset': String(at), 'content-type': 'application/offset+octet-stream' },
			body: bytes.subarray(at, at + size) as BodyInit
		});
		if (!sent.ok) throw new Error(`The upload broke: ${sent.status}`);
	}
}

/** A course with the stack's class in an empty folder; returns its assignment. */
function fill(folder: string, { roster, sheet }: SampleStack): Promise<string> {
	const pupils = roster.map(({ sourcedId, givenName, familyName }) => ({
		login: sourcedId,
		given: givenName,
		family: familyName,
		identifier: sourcedId
	}));
	return withSchool(folder, pupils, ({ db }, { course, teacher }) =>
		addAssignment(db, course, sheet, teacher)
	);
}
