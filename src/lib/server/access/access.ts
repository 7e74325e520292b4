import { error } from '@sveltejs/kit';
import { assignmentById, type Assignment } from '../store/assignments';
import { courseById, roleIn, type CourseRow } from '../store/courses';
import type { Database } from '../store/database';
import { deliveryById, fileById, type DeliveryRow, type FileRow } from '../store/deliveries';
import { packetById, packetHead, type PacketHead, type PacketRow } from '../store/packets';
import { picturesUnder, type StoredPictures } from '../store/pageRecords';
import { isArchived, personById, type Person, type Role } from '../store/people';
import { phoneLinkByToken, type PhoneLink } from '../store/phoneLinks';
import { bundleById } from '../store/bundles';
import { studentsAmong } from '../store/board';
import { returnsOf } from '../store/returns';
import { troubleById, type TroubleRow } from '../store/troubles';
import type { UploadGrant, Uploads } from '../vault/uploads';
import { RateLimit } from './rateLimit';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

// What a person may not see does not exist for them: every refusal below is the same 404, so that
// nobody learns by asking which packets and assignments there are.
const nothingHere = () => error(404, 'There is nothing here, or it is not yours to see.');

/** The person signed in. Throws 401 otherwise. */
export function signedIn(locals: App.Locals): Person {
	return locals.person ?? error(401, 'Sign in first.');
}

export interface PacketAccess {
	readonly packet: PacketRow;
	readonly assignment: Assignment;
	/** Whose packet it is. */
	readonly owner: Person;
	readonly me: Person;
	readonly as: 'owner' | 'teacher';
}

/** A student sees and edits their own packets, a teacher those of their own courses; nobody else. */
export async function packetFor(db: Database, locals: App.Locals, id: string): Promise<PacketAccess> {
	const me = signedIn(locals);
	if (!UUID.test(id)) nothingHere();
	const packet = await packetById(db, id);
	if (!packet) return nothingHere();
	const assignment = (await assignmentById(db, packet.assignmentId))!;
	const owner = (await personById(db, packet.personId))!;
	const role = await roleIn(db, assignment.courseId, me.id);
	if (role === 'teacher') return { packet, assignment, owner, me, as: 'teacher' };
	if (role && packet.kind === 'packet' && packet.personId === me.id)
		return { packet, assignment, owner, me, as: 'owner' };
	return nothingHere();
}

/** A class's stack: its teachers only. */
export async function stackFor(db: Database, locals: App.Locals, id: string): Promise<PacketAccess> {
	const access = await packetFor(db, locals, id);
	return access.packet.kind === 'stack' && access.as === 'teacher' ? access : nothingHere();
}

/** A packet that this person may give back: one of a student of theirs. */
export async function packetToReturn(db: Database, locals: App.Locals, id: string): Promise<PacketAccess> {
	const access = await packetFor(db, locals, id);
	const { packet, as, me } = access;
	return as === 'teacher' && packet.kind === 'packet' && packet.personId !== me.id ? access : nothingHere();
}

/** A return of a packet, for whoever may give it back. */
export async function returnFor(
	db: Database,
	locals: App.Locals,
	packetId: string,
	id: string
): Promise<PacketAccess & { readonly returnId: string }> {
	const access = await packetToReturn(db, locals, packetId);
	const [found] = UUID.test(id) ? await returnsOf(db, access.packet.id, id) : [];
	return found ? { ...access, returnId: found.id } : nothingHere();
}

/** A delivery of a packet that this person may see. */
export async function deliveryFor(
	db: Database,
	locals: App.Locals,
	packetId: string,
	id: string
): Promise<PacketAccess & { readonly delivery: DeliveryRow }> {
	const access = await packetFor(db, locals, packetId);
	const delivery = UUID.test(id) ? await deliveryById(db, id) : null;
	return delivery?.packetId === packetId ? { ...access, delivery } : nothingHere();
}

/** A file that was made of a packet that this person may see. */
export async function fileFor(
	db: Database,
	locals: App.Locals,
	packetId: string,
	id: string
): Promise<PacketAccess & { readonly file: FileRow }> {
	const access = await packetFor(db, locals, packetId);
	const file = UUID.test(id) ? await fileById(db, id) : null;
	return file?.packetId === packetId ? { ...access, file } : nothingHere();
}

/** An assignment that this person may see: anyone in its course. */
export async function assignmentFor(
	db: Database,
	locals: App.Locals,
	id: string
): Promise<{ assignment: Assignment; me: Person; role: Role }> {
	const me = signedIn(locals);
	if (!UUID.test(id)) nothingHere();
	const assignment = await assignmentById(db, id);
	const role = assignment && (await roleIn(db, assignment.courseId, me.id));
	return assignment && role ? { assignment, me, role } : nothingHere();
}

/** An assignment whose rule sheet this person may write: a teacher of its course, or whoever has it for oneself. */
export async function assignmentToEdit(db: Database, locals: App.Locals, id: string) {
	const found = await assignmentFor(db, locals, id);
	return writesRules(found.role) ? found : nothingHere();
}

/** An assignment whose class this person teaches. */
export async function assignmentToTeach(db: Database, locals: App.Locals, id: string) {
	const found = await assignmentFor(db, locals, id);
	return found.role === 'teacher' ? found : nothingHere();
}

/** A bundle of an assignment whose class this person teaches. */
export async function bundleFor(db: Database, locals: App.Locals, id: string) {
	signedIn(locals);
	const bundle = UUID.test(id) ? await bundleById(db, id) : null;
	if (!bundle) return nothingHere();
	return { ...(await assignmentToTeach(db, locals, bundle.assignmentId)), bundle };
}

/** Some students of an assignment's class, for whoever teaches it; refused where one of them is not of it. */
export async function classFor(db: Database, locals: App.Locals, id: string, people: readonly string[]) {
	const found = await assignmentToTeach(db, locals, id);
	const wanted = new Set(people);
	const students = await studentsAmong(db, found.assignment.id, [...wanted]);
	return students.length === wanted.size ? { ...found, students } : nothingHere();
}

const writesRules = (role: Role | null) => role === 'teacher' || role === 'own';

/** Whether this person may set assignments in a course. */
export async function courseToTeach(db: Database, locals: App.Locals, courseId: string): Promise<Person> {
	const me = signedIn(locals);
	if (!UUID.test(courseId) || !writesRules(await roleIn(db, courseId, me.id))) nothingHere();
	return me;
}

/** Whoever writes rule sheets, in any course. */
export function rulesWriter(locals: App.Locals): Person {
	const me = signedIn(locals);
	return me.roles.some(writesRules) ? me : nothingHere();
}

/** An administrator. */
export function administrator(locals: App.Locals): Person {
	const me = signedIn(locals);
	return me.isAdministrator ? me : nothingHere();
}

/** Anybody of the school, for an administrator. */
export async function personToManage(
	db: Database,
	locals: App.Locals,
	id: string
): Promise<{ readonly me: Person; readonly person: Person & { readonly isArchived: boolean } }> {
	const me = administrator(locals);
	const person = UUID.test(id) ? await personById(db, id) : null;
	return person ? { me, person: { ...person, isArchived: await isArchived(db, id) } } : nothingHere();
}

/** A course that this person runs: one of its teachers, or an administrator, who sees no packets by that. */
export async function courseToRun(
	db: Database,
	locals: App.Locals,
	id: string
): Promise<{ readonly course: CourseRow; readonly me: Person; readonly as: 'administrator' | 'teacher' }> {
	const me = signedIn(locals);
	const course = UUID.test(id) ? await courseById(db, id) : null;
	if (!course) return nothingHere();
	if (me.isAdministrator) return { course, me, as: 'administrator' };
	return (await roleIn(db, course.id, me.id)) === 'teacher' ? { course, me, as: 'teacher' } : nothingHere();
}

/**
 * Somebody in a course to whom this person may give a new way in. A teacher may to their students; but not to whoever
 * also runs something, since the way in would lead there as well.
 */
export async function memberToLetIn(
	db: Database,
	locals: App.Locals,
	courseId: string,
	personId: string
): Promise<{ readonly course: CourseRow; readonly me: Person; readonly person: Person }> {
	const { course, me, as } = await courseToRun(db, locals, courseId);
	const person = UUID.test(personId) ? await personById(db, personId) : null;
	if (!person || (await roleIn(db, course.id, person.id)) === null) return nothingHere();
	if (as === 'teacher' && (person.isAdministrator || person.roles.includes('teacher'))) nothingHere();
	return { course, me, person };
}

/** Where a phone link's token stands in requests that are not for its page. */
export const PHONE_HEADER = 'x-phone-link';

/** Tokens cannot be guessed; who tries is slowed down all the same. */
const wrongTokens = new RateLimit(20, 60_000);

/**
 * The open phone link with this token. It lets nobody do more than add pages to its packet.
 * @param from the address of the one who asks
 */
export async function phoneLinkFor(db: Database, token: string, from: string): Promise<PhoneLink> {
	const link = await phoneLinkByToken(db, token);
	if (link) return link;
	if (wrongTokens.isTooMany(from))
		error(429, 'Too many links that lead nowhere. Wait a minute, then try again.');
	return error(404, 'This link has ended, or never was. Ask the computer for a new code.');
}

/** What a request about uploads says of itself. */
export interface UploadRequest {
	readonly method: string;
	/** What stands after the address of uploads: nothing, or one upload's id. */
	readonly path: string;
	readonly search: string;
	readonly headers: Headers;
	readonly phoneToken: string | null;
	/** The address of the one who asks. */
	readonly from: string;
}

/**
 * What may be done to which upload, or into which packet one may be begun: whoever may edit the packet, or a phone with
 * its open link, which reaches only what came through that link. The grant names the upload and the packet, and nothing
 * that the request says of them is looked at again.
 */
export async function uploadGrant(
	db: Database,
	locals: App.Locals,
	uploads: Uploads,
	{ method, path, search, headers, phoneToken, from }: UploadRequest
): Promise<UploadGrant> {
	if (search !== '') error(400, 'The address of an upload holds nothing but its number.');
	if (headers.has('x-http-method-override')) error(400, 'A request is what its method says.');
	const begins = method === 'POST';
	if (begins !== (path === '')) error(begins ? 400 : 404, 'There is no such upload.');
	const upload = begins ? null : await uploads.find(path);
	if (!begins && !upload) error(404, 'There is no such upload.');
	const packetId = upload?.packetId ?? packetIn(headers.get('upload-metadata'));
	const bringer = await bringerFor(db, locals, packetId, phoneToken, from);
	if (upload && bringer.phoneLinkId !== null && upload.phoneLinkId !== bringer.phoneLinkId) nothingHere();
	return { id: upload?.id ?? null, packetId, ...bringer };
}

/** The packet out of the tus header `Upload-Metadata: key base64, …`, which names it once. */
function packetIn(header: string | null): string {
	const named = (header ?? '').split(',').flatMap((pair) => {
		const [key, value] = pair.trim().split(' ');
		return key === 'packet' ? [Buffer.from(value ?? '', 'base64').toString('utf8')] : [];
	});
	return named.length === 1 ? named[0]! : error(400, 'An upload names the one packet that it is for.');
}

/** Who may bring files into a packet: whoever may edit it, or a phone with the packet's open link. */
async function bringerFor(
	db: Database,
	locals: App.Locals,
	packetId: string,
	phoneToken: string | null,
	from: string
): Promise<{ readonly personId: string; readonly phoneLinkId: string | null }> {
	if (phoneToken === null) {
		return { personId: (await packetFor(db, locals, packetId)).me.id, phoneLinkId: null };
	}
	const link = await phoneLinkFor(db, phoneToken, from);
	if (link.packetId !== packetId) nothingHere();
	return { personId: link.personId, phoneLinkId: link.id };
}

/** A failed job of a packet that this person may see. */
export async function troubleFor(
	db: Database,
	locals: App.Locals,
	packetId: string,
	id: string
): Promise<PacketAccess & { readonly trouble: TroubleRow }> {
	const access = await packetFor(db, locals, packetId);
	const trouble = UUID.test(id) ? await troubleById(db, id) : null;
	return trouble?.packetId === packetId ? { ...access, trouble } : nothingHere();
}

/** A packet that this person may see, without its state. Refused like everything else. */
export async function packetHeadFor(
	db: Database,
	locals: App.Locals,
	id: string
): Promise<PacketHead & { readonly as: PacketAccess['as'] }> {
	const me = signedIn(locals);
	if (!UUID.test(id)) nothingHere();
	const head = await packetHead(db, id, me.id);
	if (!head || !maySee(head, me)) return nothingHere();
	return { ...head, as: head.role === 'teacher' ? 'teacher' : 'owner' };
}

function maySee(
	{ personId, kind, role }: Pick<PacketHead, 'personId' | 'kind' | 'role'>,
	me: Person
): boolean {
	return role === 'teacher' || (role !== null && kind === 'packet' && personId === me.id);
}

/** Pictures of a page of a packet that this person may see, asked without loading it. */
export async function picturesFor(
	db: Database,
	locals: App.Locals,
	packetId: string,
	key: string
): Promise<StoredPictures> {
	const me = signedIn(locals);
	if (!UUID.test(packetId)) nothingHere();
	const found = await picturesUnder(db, packetId, key, me.id);
	return found && maySee(found, me) ? found : nothingHere();
}
