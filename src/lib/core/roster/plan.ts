import type { Roster, RosterCourse, RosterEntry, RosterRole, RowProblem } from './roster';

/** What is there before a roster comes in. */
export interface Standing {
	readonly people: readonly KnownPerson[];
	readonly courses: readonly KnownCourse[];
	readonly places: readonly {
		readonly courseId: string;
		readonly personId: string;
		readonly role: RosterRole;
	}[];
}
export interface KnownPerson extends Omit<RosterEntry, 'key' | 'login'> {
	readonly id: string;
	readonly login: string;
	readonly isArchived: boolean;
	/** Administrators stay, whatever a roster says. */
	readonly isAdministrator: boolean;
}
export interface KnownCourse extends Omit<RosterCourse, 'identifier'> {
	readonly id: string;
	readonly identifier: string | null;
	readonly isArchived: boolean;
}

/** What a roster would change. People and courses that are not there yet are called by their key and identifier. */
export interface RosterPlan {
	readonly newPeople: readonly (RosterEntry & { readonly login: string })[];
	readonly changedPeople: readonly { readonly before: KnownPerson; readonly after: RosterEntry }[];
	/** Their way in ends; everything of theirs is kept. */
	readonly gonePeople: readonly KnownPerson[];
	readonly newCourses: readonly RosterCourse[];
	readonly changedCourses: readonly { readonly before: KnownCourse; readonly after: RosterCourse }[];
	readonly newPlaces: readonly Place[];
	readonly changedPlaces: readonly Place[];
	/** They leave the course. */
	readonly gonePlaces: readonly {
		readonly courseId: string;
		readonly personId: string;
		readonly name: string;
	}[];
	readonly problems: readonly RowProblem[];
	/** People and places that stay as they are. */
	readonly same: number;
}

/** `personId` and `courseId` are null for those that are new. */
export interface Place {
	readonly courseId: string | null;
	readonly course: string;
	readonly personId: string | null;
	readonly person: string;
	readonly role: RosterRole;
}

/**
 * What changes when a roster comes in. People are told by their identifier, else by their mail address, else, in a list
 * without either, by their name among those of the course.
 *
 * @param course the course that a list is of; null for a roster of the whole school, in which who is not named is gone
 */
export function planRoster(roster: Roster, standing: Standing, course: KnownCourse | null): RosterPlan {
	const known = new KnownPeople(standing, course);
	const problems = [...roster.problems];
	const ids = new Map<string, string>();
	const newPeople: (RosterEntry & { login: string })[] = [];
	const changedPeople: { before: KnownPerson; after: RosterEntry }[] = [];
	const logins = new Set(standing.people.map((p) => p.login));
	let same = 0;
	for (const entry of roster.people) {
		const found = known.find(entry);
		if (!found) {
			newPeople.push({ ...entry, login: freeLogin(entry, logins) });
			continue;
		}
		ids.set(entry.key, found.id);
		if (differs(found, entry)) changedPeople.push({ before: found, after: entry });
		else same++;
	}
	const courses = planCourses(roster.courses, standing.courses);
	const courseIds = new Map<string, string>(courses.ids);
	if (course) courseIds.set('', course.id);

	const before = new Map(standing.places.map((p) => [`${p.courseId} ${p.personId}`, p]));
	const touched = new Set<string>();
	const newPlaces: Place[] = [];
	const changedPlaces: Place[] = [];
	for (const { course: courseKey, person, role } of roster.places) {
		const courseId = courseIds.get(courseKey) ?? null;
		const personId = ids.get(person) ?? null;
		const place = { courseId, course: courseKey, personId, person, role };
		const old = before.get(`${courseId} ${personId}`);
		if (old) touched.add(`${courseId} ${personId}`);
		if (!old) newPlaces.push(place);
		else if (old.role !== role) changedPlaces.push(place);
		else same++;
	}
	const names = new Map(standing.people.map((p) => [p.id, `${p.given} ${p.family}`]));
	// A list of students says nothing of the teachers of its course, unless it names some.
	const speaksOf = new Set(roster.places.map((p) => p.role));
	const inReach = (courseId: string) => (course ? courseId === course.id : courses.known.has(courseId));
	const gonePlaces = standing.places
		.filter((p) => inReach(p.courseId) && !touched.has(`${p.courseId} ${p.personId}`))
		.filter((p) => course === null || speaksOf.has(p.role))
		.map(({ courseId, personId }) => ({ courseId, personId, name: names.get(personId) ?? '' }));
	const named = new Set(ids.values());
	const gonePeople = course
		? []
		: standing.people.filter(
				(p) => p.identifier !== null && !p.isArchived && !p.isAdministrator && !named.has(p.id)
			);
	return {
		newPeople,
		changedPeople,
		gonePeople,
		newCourses: courses.fresh,
		changedCourses: courses.changed,
		newPlaces,
		changedPlaces,
		gonePlaces,
		problems,
		same
	};
}

const CHANGES = [
	'newPeople',
	'changedPeople',
	'gonePeople',
	'newCourses',
	'changedCourses',
	'newPlaces',
	'changedPlaces',
	'gonePlaces'
] as const;

/** Whether nothing would change. */
export function changesNothing(plan: RosterPlan): boolean {
	return CHANGES.every((kind) => plan[kind].length === 0);
}

class KnownPeople {
	readonly #byIdentifier: ReadonlyMap<string, KnownPerson>;
	readonly #byEmail: ReadonlyMap<string, KnownPerson>;
	/** Of the course; null where two have the same name. */
	readonly #byName = new Map<string, KnownPerson | null>();

	constructor({ people, places }: Standing, course: KnownCourse | null) {
		// Rosters that we wrote ourselves name people without one by our own.
		this.#byIdentifier = new Map(people.map((p) => [p.identifier ?? p.id, p]));
		this.#byEmail = new Map(people.filter((p) => p.email).map((p) => [p.email!.toLowerCase(), p]));
		const inCourse = new Set(places.filter((p) => p.courseId === course?.id).map((p) => p.personId));
		for (const person of people) {
			if (!inCourse.has(person.id)) continue;
			const name = nameOf(person);
			this.#byName.set(name, this.#byName.has(name) ? null : person);
		}
	}

	find(entry: RosterEntry): KnownPerson | null {
		if (entry.identifier && this.#byIdentifier.has(entry.identifier))
			return this.#byIdentifier.get(entry.identifier)!;
		const byEmail = entry.email ? this.#byEmail.get(entry.email) : undefined;
		// Another number is another person, even at the same address.
		if (byEmail && (!entry.identifier || !byEmail.identifier)) return byEmail;
		if (entry.identifier || entry.email) return null;
		return this.#byName.get(nameOf(entry)) ?? null;
	}
}

const nameOf = ({ given, family }: Pick<RosterEntry, 'given' | 'family'>) =>
	`${given}|${family}`.toLowerCase();

function differs(before: KnownPerson, { identifier, given, family, email }: RosterEntry): boolean {
	return (
		before.isArchived ||
		before.given !== given ||
		before.family !== family ||
		// What a list does not say, it does not take away.
		(identifier !== null && (before.identifier ?? before.id) !== identifier) ||
		(email !== null && before.email?.toLowerCase() !== email)
	);
}

function planCourses(courses: readonly RosterCourse[], standing: readonly KnownCourse[]) {
	const byIdentifier = new Map(standing.map((c) => [c.identifier ?? c.id, c]));
	const byCode = new Map(standing.filter((c) => !c.identifier && !c.isArchived).map((c) => [c.code, c]));
	const ids: [string, string][] = [];
	const fresh: RosterCourse[] = [];
	const changed: { before: KnownCourse; after: RosterCourse }[] = [];
	for (const course of courses) {
		const before = byIdentifier.get(course.identifier) ?? byCode.get(course.code);
		if (!before) {
			fresh.push(course);
			continue;
		}
		ids.push([course.identifier, before.id]);
		const isOther =
			before.isArchived ||
			(before.identifier ?? before.id) !== course.identifier ||
			before.code !== course.code ||
			before.title !== course.title;
		if (isOther) changed.push({ before, after: course });
	}
	return { ids, known: new Set(ids.map(([, id]) => id)), fresh, changed };
}

/** A sign-in name that nobody has: the wanted one, the mail address, the number, or one made of the name. */
function freeLogin(entry: RosterEntry, taken: Set<string>): string {
	const { login, email, identifier } = entry;
	const made = [entry.given, entry.family]
		.map((name) =>
			name
				.normalize('NFD')
				.toLowerCase()
				.replace(/[^\p{L}\p{N}]/gu, '')
		)
		.filter(Boolean)
		.join('.');
	const wanted = [login, email, identifier?.toLowerCase(), made].filter(
		(name): name is string => !!name && /^[\p{L}\p{N}._@+-]{2,100}$/u.test(name)
	);
	let free = wanted.find((name) => !taken.has(name));
	for (let n = 2; !free; n++) {
		const next = `${made || 'person'}${n}`;
		if (!taken.has(next)) free = next;
	}
	taken.add(free);
	return free;
}
