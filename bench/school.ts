import { hashPassword } from '../src/lib/server/access/password';
import { openServices, type Services } from '../src/lib/server/services/services';
import { addCourse, enrol } from '../src/lib/server/store/courses';
import { addPerson } from '../src/lib/server/store/people';
import { foundSchool } from '../src/lib/server/store/school';
import { PASSWORD } from './served';

export interface Pupil {
	readonly login: string;
	readonly given: string;
	readonly family: string;
	readonly identifier?: string;
}

export interface School {
	readonly course: string;
	/** Signs in as `t`. */
	readonly teacher: string;
	/** In the order in which they were given. */
	readonly pupils: readonly string[];
}

/** Makes a school of one course in an empty folder, with all that `more` adds to it, and closes it again. */
export async function withSchool<T>(
	folder: string,
	pupils: readonly Pupil[],
	more: (services: Services, school: School) => Promise<T>
): Promise<T> {
	const services = await openServices({ MEMBRANA_DATA: folder, MEMBRANA_JOBS: 'off' });
	try {
		const { db } = services;
		await foundSchool(db, { kind: 'school', name: 'Alder Fen Field School' });
		const course = await addCourse(db, 'HY-2', 'Stream Hydrology');
		const passwordHash = await hashPassword(PASSWORD);
		const teacher = await addPerson(db, { login: 't', given: 'Maren', family: 'Oskamp', passwordHash });
		await enrol(db, course, teacher, 'teacher');
		const ids = [];
		for (const pupil of pupils) {
			const id = await addPerson(db, { ...pupil, passwordHash });
			await enrol(db, course, id, 'student');
			ids.push(id);
		}
		return await more(services, { course, teacher, pupils: ids });
	} finally {
		await services.close();
	}
}
