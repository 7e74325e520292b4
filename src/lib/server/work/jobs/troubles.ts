import { packetChanged } from '../../events/packetEvents';
import type { Services } from '../../services/services';
import { packetById } from '../../store/packets';
import { setPictureProblem, waitAgain } from '../../store/sources';
import { addTrouble, removeTrouble, type TroubleRow } from '../../store/troubles';
import { type JobName, type Jobs, PRIORITY } from '../kinds';

/** Asks again for a job that failed for good, as if it never had. */
export async function tryAgain(services: Services, trouble: TroubleRow): Promise<void> {
	const { db, queue, pages } = services;
	const { job, data, packetId } = trouble;
	if ('sourceId' in data && job === 'take-in') await waitAgain(db, data.sourceId);
	if ('pageId' in data && job === 'prepare-page' && packetId) {
		const page = (await packetById(db, packetId))?.state.pages[data.pageId];
		if (page) await setPictureProblem(db, page.source, page.sourcePage, null);
	}
	await removeTrouble(db, trouble.id);
	await queue.add(job, data, { priority: PRIORITY.looked, ...(packetId ? { packetId } : {}) });
	if (!packetId) return;
	packetChanged(packetId);
	await pages.ensure(packetId);
}

/** Keeps a failure where the person looks, with what to try again. */
export async function noteTrouble<Name extends JobName>(
	{ db }: Services,
	packetId: string,
	job: Name,
	data: Jobs[Name],
	problem: string
): Promise<void> {
	await addTrouble(db, packetId, job, data, problem);
	packetChanged(packetId);
}
