import { randomBytes } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { PacketView } from '../src/lib/server/view/packetView';
import { addAssignment } from '../src/lib/server/store/assignments';
import { hands } from '../demo/generator/hands';
import { photograph } from '../demo/generator/photograph';
import { writtenPage } from '../demo/generator/writtenPage';
import sharp from 'sharp';
import { withSchool } from './school';
import { serve } from './served';

// `./membrana bench load [STUDENTS] [MINUTES]`: a class hands in at once. Each student has a browser that listens,
// fetches its view and its thumbnails, brings six photographs and edits now and then. Loopback only, bounded in time.

/** Milliseconds between two edits of one student, and between two trivial requests of the bench. */
const EDIT_EVERY = 10_000;
const TRIVIAL_EVERY = 500;

interface Figures {
	readonly trivial: number[];
	readonly edits: number[];
	readonly thumbnails: number[];
	/** Seconds until each student's first page was on the strip, all pages prepared, all pages read. */
	readonly first: number[];
	readonly prepared: number[];
	readonly read: number[];
}

export async function benchLoad(
	students: number,
	minutes: number,
	print: (line: string) => void
): Promise<void> {
	report(await runLoad({ students, minutes, photographs: 6, size: [2100, 2800], reads: true }), print);
}

export interface Load {
	readonly students: number;
	readonly minutes: number;
	readonly photographs: number;
	readonly size: readonly [number, number];
	/** Whether pages are read; without, it is over when all are prepared. */
	readonly reads: boolean;
}

export interface LoadRun {
	readonly load: Load;
	readonly figures: Figures;
	/** What each student's packet was in the end: pages prepared, pages read, edits that were taken. */
	readonly packets: readonly {
		readonly prepared: number;
		readonly read: number;
		readonly name: string | null;
		/** The last name that was taken. */
		readonly acknowledged: string | null;
	}[];
	readonly seconds: number;
	/** Seconds of processor time of the main thread, and of all processes together. */
	readonly main: number;
	readonly total: number;
	/** Megabytes of all processes. */
	readonly idle: number;
	readonly peak: number;
}

/** Starts the built application on a folder of its own, and a class of students. */
export async function runLoad(load: Load): Promise<LoadRun> {
	const { students, minutes } = load;
	const folder = await mkdtemp(join(tmpdir(), 'membrana-load-'));
	const pictures = await draw(load);
	const assignment = await fill(folder, students);
	const app = await serve(folder, load.reads);
	const { address } = app;
	try {
		const idle = await app.megabytes();
		const figures: Figures = { trivial: [], edits: [], thumbnails: [], first: [], prepared: [], read: [] };
		const until = Date.now() + minutes * 60_000;
		const state = { open: students, until };
		const cookies = [];
		for (let i = 0; i < students; i++) cookies.push(await app.signIn(`s${i}`));
		const began = Date.now();
		const all = cookies.map((cookie, i) =>
			student(address, cookie, assignment, pictures, load, figures, state, began, i)
		);
		const trivial = (async () => {
			while (state.open > 0 && Date.now() < until) {
				await timed(figures.trivial, () => fetch(`${address}/sign-in`));
				await pause(TRIVIAL_EVERY);
			}
		})();
		const peak = app.watchMemory();
		const [packets] = await Promise.all([Promise.all(all), trivial]);
		const { main, total } = await app.processor();
		return { load, figures, packets, seconds: (Date.now() - began) / 1000, main, total, idle, peak: peak() };
	} finally {
		await app.stop();
		await rm(folder, { recursive: true, force: true });
	}
}

function report({ load, figures, ...run }: LoadRun, print: (line: string) => void): void {
	const at = (values: readonly number[], share: number) =>
		[...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] ?? NaN;
	const line = (name: string, values: readonly number[], unit: string) => {
		const [median, p95, most] = [0.5, 0.95, 1].map((share) => at(values, share).toFixed(0).padStart(6));
		print(
			`${name.padEnd(26)}${String(values.length).padStart(6)}   median ${median}   p95 ${p95}   most ${most} ${unit}`
		);
	};
	print(`${load.students} students, ${load.photographs} photographs each, ${run.seconds.toFixed(0)} s`);
	line('a page without data', figures.trivial, 'ms');
	line('edits', figures.edits, 'ms');
	line('thumbnails', figures.thumbnails, 'ms');
	line('first page on the strip', figures.first, 's');
	line('all pages prepared', figures.prepared, 's');
	line('all pages read', figures.read, 's');
	const share = ((100 * run.main) / run.total).toFixed(1);
	print(`main thread ${run.main.toFixed(0)} s of ${run.total.toFixed(0)} s of processor time (${share} %)`);
	print(`memory of all processes: ${run.idle.toFixed(0)} MB idle, ${run.peak.toFixed(0)} MB at most`);
}

/** One student's browser, from the first photograph until everything is read. */
async function student(
	address: string,
	cookie: string,
	assignment: string,
	pictures: readonly Buffer[],
	load: Load,
	figures: Figures,
	state: { open: number; readonly until: number },
	began: number,
	number: number
): Promise<LoadRun['packets'][number]> {
	const ask = (path: string, init: RequestInit = {}) =>
		fetch(address + path, {
			redirect: 'manual',
			...init,
			headers: { origin: address, cookie, ...init.headers }
		});
	const opened = await ask(`/assignments/${assignment}/packet`, {
		method: 'POST',
		body: new URLSearchParams()
	});
	const packet = /packets\/([0-9a-f-]+)\//.exec(opened.headers.get('location') ?? '')![1]!;
	const abort = new AbortController();
	const shown = new Set<string>();
	let view: PacketView | null = null;
	let isRefreshing = false;
	let again = false;
	let isOver = false;
	const seen = { first: false, prepared: false };
	const refresh = async (): Promise<void> => {
		if (isRefreshing) return void (again = true);
		isRefreshing = true;
		do {
			again = false;
			view = (await (await ask(`/api/packets/${packet}`)).json()) as PacketView;
			const pages = Object.entries(view.pages);
			const seconds = (Date.now() - began) / 1000;
			if (!seen.first && pages.some(([, p]) => p.prepared)) {
				seen.first = true;
				figures.first.push(seconds);
			}
			const ready = pages.filter(([, p]) => p.prepared).length === load.photographs;
			if (!seen.prepared && ready) {
				seen.prepared = true;
				figures.prepared.push(seconds);
			}
			if (!isOver && ready && (!load.reads || pages.every(([, p]) => p.reading))) {
				isOver = true;
				if (load.reads) figures.read.push(seconds);
			}
			for (const [, { key, prepared }] of pages) {
				if (!prepared || shown.has(key)) continue;
				shown.add(key);
				await timed(figures.thumbnails, () => ask(`/api/packets/${packet}/pictures/${key}/thumb`));
			}
			// As a browser does: several pieces of news are one.
			await pause(150);
		} while (again && !isOver);
		isRefreshing = false;
	};
	const listening = (async () => {
		const stream = await ask(`/api/packets/${packet}/events`, { signal: abort.signal });
		for await (const news of stream.body as unknown as AsyncIterable<Uint8Array>) {
			if (news.length > 0) void refresh().catch(() => undefined);
		}
	})().catch(() => undefined);
	const bringing = (async () => {
		for (const [i, picture] of pictures.entries()) {
			// Another file each time, with the same picture in it: what stands behind a JPEG's end is not looked at.
			const bytes = Buffer.concat([picture, randomBytes(16)]);
			const metadata = { packet, name: `${number}-${i}.jpg`, key: `${number}-${i}`, place: String(i) };
			const begun = await ask('/api/uploads', {
				method: 'POST',
				headers: {
					'tus-resumable': '1.0.0',
					'upload-length': String(bytes.length),
					'upload-metadata': Object.entries(metadata)
						.map(([k, v]) => `${k} ${Buffer.from(v).toString('base64')}`)
						.join(',')
				}
			});
			await ask(new URL(begun.headers.get('location')!, address).pathname, {
				method: 'PATCH',
				headers: {
					'tus-resumable': '1.0.0',
					'upload-offset': '0',
					'content-type': 'application/offset+octet-stream'
				},
				body: bytes as BodyInit
			});
		}
	})();
	await bringing;
	let acknowledged: string | null = null;
	for (let n = 0; !isOver && Date.now() < state.until; n++) {
		await pause(EDIT_EVERY * (0.5 + Math.random()));
		const current = view as PacketView | null;
		if (!current) continue;
		const status = await timed(figures.edits, () =>
			ask(`/api/packets/${packet}/changes`, {
				method: 'POST',
				headers: { 'content-type': 'application/json' },
				body: JSON.stringify({
					kind: 'edit',
					base: current.version,
					change: { kind: 'setFileName', name: `name ${n}` }
				})
			})
		);
		if (status === 200) acknowledged = `name ${n}`;
	}
	abort.abort();
	await listening;
	state.open--;
	const last = (await (await ask(`/api/packets/${packet}`)).json()) as PacketView;
	const pages = Object.values(last.pages);
	return {
		prepared: pages.filter((p) => p.prepared).length,
		read: pages.filter((p) => p.reading).length,
		name: last.packet.fileName,
		acknowledged
	};
}

async function timed(into: number[], work: () => Promise<Response>): Promise<number> {
	const began = performance.now();
	const answer = await work();
	await answer.arrayBuffer();
	into.push(performance.now() - began);
	return answer.status;
}

async function draw({ photographs, size }: Load): Promise<Buffer[]> {
	const lines = [
		'the lode runs slower near the reeds',
		'area times velocity gives the flow',
		'and read the meter for sixty seconds'
	];
	const all: Buffer[] = [];
	for (let i = 0; i < photographs; i++) {
		const page = writtenPage({
			seed: 900 + i,
			hand: hands()[i % hands().length]!,
			paper: 'A4',
			ruling: 'ruled',
			ink: [28, 34, 82],
			name: 'Given Family',
			pageNumber: `p. ${i + 1}/6`,
			scale: 6,
			blocks: [
				{ kind: 'label', text: `Q${i + 1}` },
				{ kind: 'text', lines: Array.from({ length: 12 }, (_, n) => lines[(n + i) % lines.length]!) }
			]
		});
		const { picture } = photograph(page.picture, {
			seed: i,
			size,
			desk: 'wood',
			fill: 0.85,
			slant: 3,
			tilt: 6,
			falloff: 0.25
		});
		const { data, width, height, channels } = picture;
		all.push(await sharp(data, { raw: { width, height, channels } }).jpeg({ quality: 85 }).toBuffer());
	}
	return all;
}

/** A course with so many students in an empty folder; returns its assignment. */
function fill(folder: string, students: number): Promise<string> {
	const pupils = Array.from({ length: students }, (_, i) => ({
		login: `s${i}`,
		given: `Given${i}`,
		family: `Family${i}`
	}));
	const questions = Array.from({ length: 6 }, (_, i) => ({ label: String(i + 1) }));
	const sheet = { title: 'Worksheet 9', course: 'HY-2', questions };
	return withSchool(folder, pupils, ({ db }, { course, teacher }) =>
		addAssignment(db, course, sheet, teacher)
	);
}

const pause = (milliseconds: number) => new Promise((done) => setTimeout(done, milliseconds));
