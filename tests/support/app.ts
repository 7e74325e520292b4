import { existsSync } from 'node:fs';
import { cp, readFile, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { inject } from 'vitest';
import { hashPassword } from '../../src/lib/server/access/password';
import { openServices } from '../../src/lib/server/services/services';
import { addAssignment } from '../../src/lib/server/store/assignments';
import { addCourse, enrol } from '../../src/lib/server/store/courses';
import { addPerson } from '../../src/lib/server/store/people';
import { foundSchool } from '../../src/lib/server/store/school';
import type { RuleSheet } from '../../src/lib/core/rules/ruleSheet';
import { startProgram, type RunningApp } from './start';

export { freePort, pause, until, type RunningApp } from './start';

export const PASSWORD = 'sandbank';
export const SHEET: RuleSheet = {
	title: 'Worksheet 9',
	course: 'HY-2',
	questions: [{ label: '1' }],
	pages: { min: 1, max: 9 }
};

interface Seeded {
	readonly assignment: string;
	readonly course: string;
}

/**
 * Fills a data folder with two courses; returns the assignment of the first. A new database takes seconds to make:
 * it is made once in a run and copied.
 */
export async function seed(data: string): Promise<Seeded> {
	const template = inject('seededFolder');
	const ids = join(template, 'seeded.json');
	if (!existsSync(ids)) {
		const own = `${template}-${process.pid}`;
		await writeFile(join(own, 'seeded.json'), JSON.stringify(await fill(own)));
		// Another worker may have been quicker: then that one is taken, and the run's end sweeps this one away.
		await rename(own, template).catch(() => undefined);
	}
	await cp(template, data, { recursive: true });
	return JSON.parse(await readFile(ids, 'utf8')) as Seeded;
}

/** Makes the two courses with their people in a data folder. */
export async function fill(data: string, more: NodeJS.ProcessEnv = {}): Promise<Seeded> {
	const services = await openServices({ MEMBRANA_DATA: data, ...more });
	const { db } = services;
	const passwordHash = await hashPassword(PASSWORD);
	const add = (login: string) => addPerson(db, { login, given: login, family: 'Test', passwordHash });
	await addPerson(db, {
		login: 'wessel',
		given: 'wessel',
		family: 'Test',
		passwordHash,
		isAdministrator: true
	});
	const [ilka, tobias, maren, other] = [
		await add('ilka'),
		await add('tobias'),
		await add('maren'),
		await add('other')
	];
	await foundSchool(db, { kind: 'school', name: 'Alder Fen Field School' });
	const course = await addCourse(db, 'HY-2', 'Stream Hydrology');
	const elsewhere = await addCourse(db, 'BO-1', 'Fen Botany');
	await enrol(db, course, maren, 'teacher');
	await enrol(db, course, ilka, 'student');
	await enrol(db, course, tobias, 'student');
	await enrol(db, elsewhere, other, 'teacher');
	const assignment = await addAssignment(db, course, SHEET, maren);
	await services.close();
	return { assignment, course };
}

/** Starts the built server on a data folder. */
export function startApp(
	data: string,
	port: number,
	portal = 'http://127.0.0.1:9',
	reader: 'on' | 'off' = 'off',
	more: NodeJS.ProcessEnv = {}
): Promise<RunningApp> {
	return startProgram('serve', port, {
		MEMBRANA_DATA: data,
		MEMBRANA_PORTAL: portal,
		MEMBRANA_READER: reader,
		...more
	});
}

/** A signed-in client. Throws where the line breaks, as a browser's fetch would. */
export class Client {
	constructor(
		readonly address: string,
		readonly cookie: string,
		readonly headers: Readonly<Record<string, string>> = {}
	) {}

	static async signIn(address: string, login: string, password = PASSWORD): Promise<Client> {
		const response = await fetch(`${address}/sign-in`, {
			method: 'POST',
			redirect: 'manual',
			headers: { origin: address, accept: 'text/html', 'content-type': 'application/x-www-form-urlencoded' },
			body: new URLSearchParams({ login, password })
		});
		const cookie = response.headers.get('set-cookie')?.split(';')[0];
		if (!cookie) throw new Error(`${login} was not let in: ${response.status}`);
		return new Client(address, cookie);
	}

	fetch(path: string, init: RequestInit = {}): Promise<Response> {
		return fetch(this.address + path, {
			redirect: 'manual',
			...init,
			headers: { origin: this.address, cookie: this.cookie, ...this.headers, ...init.headers }
		});
	}

	send(path: string, body: unknown, method = 'POST'): Promise<Response> {
		return this.fetch(path, {
			method,
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify(body)
		});
	}

	async json<T>(path: string): Promise<T> {
		return (await (await this.fetch(path)).json()) as T;
	}

	/** Opens one's own packet and returns its id. */
	async openPacket(assignment: string): Promise<string> {
		const response = await this.fetch(`/assignments/${assignment}/packet`, {
			method: 'POST',
			body: new URLSearchParams()
		});
		return /packets\/([0-9a-f-]+)\//.exec(response.headers.get('location') ?? '')?.[1] ?? '';
	}

	/** Opens the class's stack of an assignment and returns its id. */
	async openStack(assignment: string): Promise<string> {
		const response = await this.fetch(`/assignments/${assignment}/stack`, {
			method: 'POST',
			body: new URLSearchParams()
		});
		return /stacks\/([0-9a-f-]+)/.exec(response.headers.get('location') ?? '')?.[1] ?? '';
	}

	/** Begins a tus upload and returns its path. */
	async beginUpload(
		packet: string,
		name: string,
		bytes: number,
		more: Readonly<Record<string, string>> = {}
	): Promise<string> {
		const base64 = (text: string) => Buffer.from(text).toString('base64');
		const response = await this.fetch('/api/uploads', {
			method: 'POST',
			headers: {
				'tus-resumable': '1.0.0',
				'upload-length': String(bytes),
				'upload-metadata': Object.entries({ packet, name, ...more })
					.map(([key, value]) => `${key} ${base64(value)}`)
					.join(',')
			}
		});
		if (response.status !== 201) throw new Error(`The upload was not begun: ${response.status}`);
		return new URL(response.headers.get('location')!, this.address).pathname;
	}

	/** How much of an upload the server has. */
	async uploadOffset(path: string): Promise<number> {
		const response = await this.fetch(path, { method: 'HEAD', headers: { 'tus-resumable': '1.0.0' } });
		if (!response.ok) throw new Error(`The upload is gone: ${response.status}`);
		return Number(response.headers.get('upload-offset'));
	}

	/** Sends some of an upload from an offset on; the answer is the server's. */
	patchUpload(path: string, bytes: Buffer, offset: number, length = bytes.length): Promise<Response> {
		return this.fetch(path, {
			method: 'PATCH',
			headers: {
				'tus-resumable': '1.0.0',
				'upload-offset': String(offset),
				'content-type': 'application/offset+octet-stream'
			},
			body: bytes.subarray(offset, Math.min(bytes.length, offset + length)) as BodyInit
		});
	}

	async continueUpload(path: string, bytes: Buffer, offset: number, length = bytes.length): Promise<number> {
		const response = await this.patchUpload(path, bytes, offset, length);
		if (!response.ok) throw new Error(`The upload broke: ${response.status}`);
		return Number(response.headers.get('upload-offset'));
	}
}
