import { createHash, randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Columns } from '../../core/roster/columns';
import { changesNothing, planRoster, type KnownCourse, type RosterPlan } from '../../core/roster/plan';
import { receiveFile } from '../edge/receiveFile';
import { SaidError } from '../edge/said';
import { rightsChanged } from '../events/packetEvents';
import type { Services } from '../services/services';
import { noteDeed } from '../store/deeds';
import type { Person } from '../store/people';
import { applyRoster, standingOf } from '../store/roster';
import type { ReadRoster } from './readRoster';

const MOST_BYTES = 20e6;
/** People in one course. */
const MOST_IN_COURSE = 2_000;
/** How many of each kind the preview names; the counts are of all. */
const NAMED = 200;

export interface Preview {
	/** Of everything that would change: nothing else happens than what was seen. */
	readonly seen: string;
	readonly changesNothing: boolean;
	readonly counts: Readonly<Record<keyof Omit<RosterPlan, 'same'>, number>>;
	/** The first of each kind. */
	readonly plan: RosterPlan;
	readonly list: ReadRoster['list'];
}

interface Brought {
	readonly read: ReadRoster;
	/** The course whose list it is; null for the whole school's roster. */
	readonly course: KnownCourse | null;
}

/** Reads what somebody brings. @throws SaidError */
export async function receiveRoster(
	services: Services,
	request: Request,
	course: KnownCourse | null,
	columns: Columns | null
): Promise<Brought> {
	const folder = join(services.derived, 'rosters');
	await mkdir(folder, { recursive: true });
	const path = join(folder, randomUUID());
	try {
		await receiveFile(request, path, MOST_BYTES);
		const read = await services.pool.run('readRosterFile', { path, columns });
		if (!read.ok) throw new SaidError(422, read.problem);
		if (course === null && read.list !== null) {
			throw new SaidError(
				422,
				'This is the list of one course. Open the course and bring it in there; here goes a OneRoster ZIP of the whole school.'
			);
		}
		if (course !== null && read.list === null) {
			throw new SaidError(
				422,
				'This is a roster of the whole school: an administrator brings it in under School.'
			);
		}
		const { length } = read.roster.people;
		if (course !== null && length > MOST_IN_COURSE) {
			throw new SaidError(
				422,
				`This list has ${length} people; a course takes at most ${MOST_IN_COURSE}. For a whole school an administrator brings in a OneRoster ZIP, with its courses.`
			);
		}
		return { read, course };
	} finally {
		await rm(path, { force: true });
	}
}

/** What would change. */
export async function previewRoster({ db }: Services, { read, course }: Brought): Promise<Preview> {
	const plan = planRoster(read.roster, await standingOf(db), course);
	const { same, ...lists } = plan;
	const first = Object.fromEntries(Object.entries(lists).map(([kind, list]) => [kind, list.slice(0, NAMED)]));
	return {
		seen: hashOf(plan),
		changesNothing: changesNothing(plan),
		counts: Object.fromEntries(
			Object.entries(lists).map(([kind, list]) => [kind, list.length])
		) as Preview['counts'],
		plan: { ...first, same } as RosterPlan,
		list: read.list
	};
}

/**
 * Does what was seen in the preview, all of it or nothing.
 * @throws SaidError where it would now do something else
 */
export async function takeRoster(
	{ db }: Services,
	{ read, course }: Brought,
	seen: string,
	by: Person
): Promise<RosterPlan> {
	const plan = await db.transaction(async (tx) => {
		// One roster at a time, whoever brings it.
		await tx.query('select pg_advisory_xact_lock(7301156)');
		const plan = planRoster(read.roster, await standingOf(tx), course);
		if (hashOf(plan) !== seen) {
			throw new SaidError(409, 'Something has changed since you looked at it. Look at it again.');
		}
		await applyRoster(tx, plan);
		const what = `${plan.newPeople.length} new, ${plan.changedPeople.length} changed, ${plan.gonePlaces.length} left`;
		await noteDeed(tx, by, `Brought in the roster of ${course ? course.code : 'the school'}: ${what}`);
		return plan;
	});
	// Whoever has left hears no more of packets.
	if (plan.gonePlaces.length > 0 || plan.gonePeople.length > 0) rightsChanged();
	return plan;
}

const hashOf = (plan: RosterPlan) =>
	createHash('sha256').update(JSON.stringify(plan)).digest('hex').slice(0, 32);
