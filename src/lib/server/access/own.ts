import type { Database } from '../store/database';
import { addCourse, enrol } from '../store/courses';
import { addPerson, onlyPerson, type Person } from '../store/people';
import { whoHas } from './sessions';
import { foundSchool, schoolOf } from '../store/school';

/** This folder belongs to a school, or to one person, and was started as the other. */
export class OtherKindError extends Error {
	constructor(message: string) {
		super(message);
		this.name = 'OtherKindError';
	}
}

/** Whether this process serves one person on this computer, without signing in. */
export function isOwn(environment: NodeJS.ProcessEnv = process.env): boolean {
	return environment.MEMBRANA_MINE === '1';
}

/**
 * Makes sure that a folder is what it is started as: of one person's own, the person and their course are made where they
 * are missing.
 * @throws OtherKindError
 */
export async function settleKind(db: Database, own: boolean): Promise<void> {
	const school = await schoolOf(db);
	if (!own) {
		if (school?.kind !== 'own') return;
		throw new OtherKindError('This folder is one person’s own: start it with ./membrana mine.');
	}
	if (school?.kind === 'school') {
		throw new OtherKindError('This folder is a school’s: start it with ./membrana serve.');
	}
	await db.transaction(async (tx) => {
		if (!(await foundSchool(tx, { kind: 'own', name: '' }))) return;
		const person = await addPerson(tx, { login: 'me', given: '', family: '', passwordHash: null });
		// Its code stands nowhere: each rule sheet says what course it is of.
		await enrol(tx, await addCourse(tx, '', ''), person, 'own');
	});
}

/** Who asks: whoever has the session of this token, or, on one's own, the one person there is. */
export function whoAsks(db: Database, token: string | undefined): Promise<Person | null> {
	if (isOwn()) return ownPerson(db);
	return token ? whoHas(db, token) : Promise.resolve(null);
}

/** The person of a Membrana of one's own. */
async function ownPerson(db: Database): Promise<Person> {
	return (await onlyPerson(db))!;
}
