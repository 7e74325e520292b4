import { withoutPerson } from '../../core/stack/edits';
import type { Packet } from '../../core/packet/packet';
import { packetChanged, rightsChanged } from '../events/packetEvents';
import { command } from '../store/packets';
import { noteDeed } from '../store/deeds';
import { erasePerson, preparedKeys, removeCourse, stacksWith } from '../store/erase';
import type { Person } from '../store/people';
import { bundleIds } from '../store/bundles';
import { sweepBundles, sweepFiles } from '../vault/sweep';
import type { Services } from './services';

/**
 * Erases a person, with their pages in stacks, and every file that was theirs alone. Backups, what was handed in elsewhere
 * and the one scan of a pile that holds others' pages as well are out of reach.
 */
export async function eraseForGood(services: Services, by: Person, person: Person): Promise<void> {
	const stacks = await stacksWith(services.db, person.id);
	for (const stack of stacks) {
		const change = (packet: Packet) => withoutPerson(packet, person.id);
		await command(services.db, stack, null, null, { kind: 'machine', change });
		packetChanged(stack);
	}
	return erase(services, by, 'Erased somebody and their work', { personId: person.id, stacks });
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
	of: { readonly personId: string; readonly stacks: readonly string[] } | { readonly courseId: string }
): Promise<void> {
	const begun = Date.now();
	const { gone, keys } = await db.transaction(async (tx) => {
		const gone =
			'personId' in of ? await erasePerson(tx, of.personId, of.stacks) : await removeCourse(tx, of.courseId);
		await noteDeed(tx, by, what);
		return { gone, keys: await preparedKeys(tx) };
	});
	rightsChanged();
	await sweepFiles(vault, derived, gone, keys, begun);
	await sweepBundles(derived, await bundleIds(db));
}
