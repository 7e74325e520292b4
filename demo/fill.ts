import { basename, join } from 'node:path';
import { randomUUID } from 'node:crypto';
import type { Change } from '../src/lib/core/packet/change';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import { expectedFileName } from '../src/lib/core/rules/expectedFileName';
import { hashPassword } from '../src/lib/server/access/password';
import { Portal } from '../src/lib/server/delivery/portal';
import type { Services } from '../src/lib/server/services/services';
import { pageRecords } from '../src/lib/server/store/pageRecords';
import { addAssignment, assignmentById } from '../src/lib/server/store/assignments';
import { addCourse, enrol } from '../src/lib/server/store/courses';
import { beginDelivery, beginFile, deliveryById, fileById } from '../src/lib/server/store/deliveries';
import { command, openPacket, packetById, type PacketRow } from '../src/lib/server/store/packets';
import { addPerson } from '../src/lib/server/store/people';
import { foundSchool } from '../src/lib/server/store/school';
import { addSource } from '../src/lib/server/store/sources';
import { ADMINISTRATOR, COURSE, elsewhere, ruleSheets, SCHOOL, STUDENTS, TEACHER } from './school';

/** Fills an empty data folder: the school, three assignments, one half done and one handed in. */
export async function fill(services: Services, pictures: string): Promise<void> {
	const { db } = services;
	await foundSchool(db, { kind: 'school', name: SCHOOL });
	const course = await addCourse(db, COURSE.code, COURSE.title, {
		timeZone: 'Europe/Amsterdam',
		language: 'en'
	});
	const hash = new Map<string, string>();
	for (const { password } of [TEACHER, ADMINISTRATOR, ...STUDENTS]) {
		if (!hash.has(password)) hash.set(password, await hashPassword(password));
	}
	const add = async (p: {
		login: string;
		given: string;
		family: string;
		password: string;
		identifier?: string;
		isAdministrator?: boolean;
	}) => addPerson(db, { ...p, email: `${p.login}@alderfen.example`, passwordHash: hash.get(p.password)! });
	await add({ ...ADMINISTRATOR, isAdministrator: true });
	const teacher = await add(TEACHER);
	await enrol(db, course, teacher, 'teacher');
	const students: string[] = [];
	for (const student of STUDENTS) {
		const id = await add(student);
		students.push(id);
		await enrol(db, course, id, 'student');
	}
	const sheets = ruleSheets(Date.now());
	await addAssignment(db, course, sheets.lode, teacher);
	const levelling = await addAssignment(db, course, sheets.levelling, teacher);
	const rainfall = await addAssignment(db, course, sheets.rainfall, teacher);
	await addAssignment(db, course, sheets.quiz, teacher);

	const file = (name: string) => join(pictures, name);
	const ilka = students[0]!;
	const half = await bringIn(services, levelling, ilka, [
		file('more/scan 14 (2).jpg'),
		file('more/upside down.jpg'),
		file('more/lamp on the page.jpg'),
		file('more/blank.jpg')
	]);
	await edit(services, half.id, ilka, { kind: 'setSeam', seam: seam(half, 0, 0.08, '1') });
	await edit(services, half.id, ilka, {
		kind: 'place',
		page: half.state.strip[3]!,
		to: { on: 'tray', index: 0, reason: 'blank' }
	});

	const done = await bringIn(services, rainfall, ilka, [
		file('rain-gauge/rain 1.jpg'),
		file('rain-gauge/rain 2.jpg')
	]);
	await edit(services, done.id, ilka, { kind: 'setSeam', seam: seam(done, 0, 0.08, '1') });
	await edit(services, done.id, ilka, { kind: 'setSeam', seam: seam(done, 1, 0.08, '2') });
	await handIn(services, done.id, ilka, sheets.rainfall, STUDENTS[0]);
}

/** What else the school's portal holds: assignments of other courses, which Membrana does not know of. */
export async function publishElsewhere(portal: string): Promise<void> {
	const client = new Portal(portal);
	for (const assignment of elsewhere(Date.now())) await client.publish(assignment);
}

function seam(packet: PacketRow, index: number, y: number, question: string) {
	return { id: randomUUID(), page: packet.state.strip[index]!, y, questions: [question] };
}

async function edit(services: Services, packetId: string, personId: string, change: Change): Promise<void> {
	await command(services.db, packetId, personId, null, { kind: 'edit', change });
}

/** Brings files in as an upload would, and waits until their pages are prepared. */
async function bringIn(
	services: Services,
	assignmentId: string,
	personId: string,
	files: readonly string[]
): Promise<PacketRow> {
	const { db, vault, queue } = services;
	const packetId = await openPacket(db, assignmentId, personId);
	for (const [place, path] of files.entries()) {
		const kept = await vault.put(path);
		const { id } = await addSource(db, {
			...kept,
			packetId,
			uploadId: randomUUID(),
			name: basename(path),
			batch: 1,
			place
		});
		await queue.add('take-in', { sourceId: id });
	}
	const assignment = (await assignmentById(db, assignmentId))!;
	return until('its pages to be prepared', async () => {
		const packet = (await packetById(db, packetId))!;
		const pages = await pageRecords(db, packet, assignment);
		const ready = Object.values(pages).filter((p) => p.prepared).length;
		return ready === files.length ? packet : null;
	});
}

async function handIn(
	services: Services,
	packetId: string,
	personId: string,
	sheet: RuleSheet,
	person: { given: string; family: string }
): Promise<void> {
	const { db, queue } = services;
	const packet = (await packetById(db, packetId))!;
	const file = await beginFile(db, packetId, packet.version, expectedFileName(sheet, person), 'pdf');
	await queue.add('make-file', { fileId: file.id });
	await until('the file to be made', async () => (await fileById(db, file.id))!.state === 'ready');
	const id = await beginDelivery(db, {
		packetId,
		fileId: file.id,
		personId,
		idempotencyKey: `${packetId}/${randomUUID()}`,
		target: 'portal',
		destination: { to: packet.assignmentId, title: sheet.title, course: sheet.course ?? '' },
		comment: '',
		replaces: null
	});
	await queue.add('deliver-portal', { deliveryId: id });
	await until('the portal to confirm', async () => (await deliveryById(db, id))!.state === 'received');
}

async function until<T>(what: string, look: () => Promise<T | null | false>): Promise<T> {
	for (let i = 0; i < 600; i++) {
		const found = await look();
		if (found) return found;
		await new Promise((done) => setTimeout(done, 100));
	}
	throw new Error(`Waited a minute in vain for ${what}.`);
}
