import { rightsChanged } from '../events/packetEvents';
import { noteDeed } from '../store/deeds';
import { erasePerson, preparedKeys, removeCourse } from '../store/erase';
import type { Person } from '../store/people';
import { bundleIds } from '../store/bundles';
import { sweepBundles, sweepFiles } from '../vault/sweep';
import type { Services } from './services';

/** Erases a person, and every file that was theirs alone. Backups, and what was handed in elsewhere, are out of reach. */
export function eraseForGood(services: Services, by: Person, person: Person): Promise<void> {
	return erase(services, by, 'Erased somebody and their work', { personId: person.id });
}

/** Deletes a course with its rule sheets and packets, and every file that was in it alone. */
export function deleteCourse(
	services: Services,
	by: Person,
	course: { readonly id: string; readonly code: string }
): Promise<void> {
	return erase(services, by, `Deleted the course ${course.code} with its packets`, { courseId: course.id });
}

async function erase(
	{ db, vault, derived }: Services,
	by: Person,
	what: string,
	of: { readonly personId: string } | { readonly courseId: string }
): Promise<void> {
	const begun = Date.now();
	const { gone, keys } = await db.transaction(async (tx) => {
		const gone = 'personId' in of ? await erasePerson(tx, of.personId) : await removeCourse(tx, of.courseId);
		await noteDeed(tx, by, what);
		return { gone, keys: await preparedKeys(tx) };
	});
	rightsChanged();
	await sweepFiles(vault, derived, gone, keys, begun);
	await sweepBundles(derived, await bundleIds(db));
}
