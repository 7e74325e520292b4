import { describe, expect, it } from 'vitest';
import { changesNothing, planRoster, type KnownCourse, type KnownPerson, type Standing } from './plan';
import type { Roster, RosterEntry, RosterPlace } from './roster';

const known = (id: string, change: Partial<KnownPerson> = {}): KnownPerson => ({
	id,
	identifier: null,
	given: 'Ilka',
	family: 'Brandsma',
	email: null,
	login: id,
	isArchived: false,
	isAdministrator: false,
	...change
});
const COURSE: KnownCourse = {
	id: 'k',
	identifier: null,
	code: 'HY-2',
	title: 'Hydrology',
	isArchived: false
};
const entry = (key: string, change: Partial<RosterEntry> = {}): RosterEntry => ({
	key,
	identifier: null,
	given: 'Ilka',
	family: 'Brandsma',
	email: null,
	login: null,
	...change
});
const roster = (people: RosterEntry[], change: Partial<Roster> = {}): Roster => ({
	people,
	courses: [],
	places: people.map((p): RosterPlace => ({ course: '', person: p.key, role: 'student' })),
	problems: [],
	...change
});
const standing = (people: KnownPerson[], change: Partial<Standing> = {}): Standing => ({
	people,
	courses: [COURSE],
	places: people.map((p) => ({ courseId: 'k', personId: p.id, role: 'student' })),
	...change
});

describe('a list of a course', () => {
	it('changes nothing where all is as it says', () => {
		const plan = planRoster(roster([entry('x')]), standing([known('p1')]), COURSE);
		expect(changesNothing(plan)).toBe(true);
		expect(plan.same).toBe(2);
	});

	it('knows people by their number, whatever else it says of them', () => {
		const before = known('p1', { identifier: 'S-1', email: 'old@reedmere.example' });
		const after = entry('S-1', { identifier: 'S-1', given: 'Illa', email: 'new@reedmere.example' });
		const { changedPeople, newPeople } = planRoster(roster([after]), standing([before]), COURSE);
		expect(newPeople).toEqual([]);
		expect(changedPeople).toEqual([{ before, after }]);
	});

	it('knows people by our own number, where they had none: such lists we wrote ourselves', () => {
		const plan = planRoster(roster([entry('p1', { identifier: 'p1' })]), standing([known('p1')]), COURSE);
		expect(changesNothing(plan)).toBe(true);
	});

	it('knows people by their mail address, but not where their numbers differ', () => {
		const before = known('p1', { email: 'Ilka@Reedmere.example' });
		const mail = { email: 'ilka@reedmere.example' };
		expect(planRoster(roster([entry('x', mail)]), standing([before]), COURSE).newPeople).toEqual([]);
		const numbered = { ...before, identifier: 'S-1' };
		const other = entry('S-2', { ...mail, identifier: 'S-2' });
		expect(planRoster(roster([other]), standing([numbered]), COURSE).newPeople).toHaveLength(1);
	});

	it('knows people by their name only within the course, where one has it, and where nothing else is said', () => {
		const here = standing([known('p1')]);
		expect(planRoster(roster([entry('x', { given: 'ILKA' })]), here, COURSE).newPeople).toEqual([]);
		const elsewhere = standing([known('p1')], { places: [] });
		expect(planRoster(roster([entry('x')]), elsewhere, COURSE).newPeople).toHaveLength(1);
		const two = standing([known('p1'), known('p2')]);
		expect(planRoster(roster([entry('x')]), two, COURSE).newPeople).toHaveLength(1);
		const numbered = entry('S-9', { identifier: 'S-9' });
		expect(planRoster(roster([numbered]), here, COURSE).newPeople).toHaveLength(1);
	});

	it('does not take away what it does not say', () => {
		const before = known('p1', { identifier: 'S-1', email: 'ilka@reedmere.example' });
		const plan = planRoster(roster([entry('S-1', { identifier: 'S-1' })]), standing([before]), COURSE);
		expect(plan.changedPeople).toEqual([]);
	});

	it('brings back who was archived', () => {
		const before = known('p1', { isArchived: true });
		expect(planRoster(roster([entry('x')]), standing([before]), COURSE).changedPeople).toHaveLength(1);
	});

	it('lets who is not in it leave the course, and nothing else', () => {
		const plan = planRoster(
			roster([entry('x')]),
			standing([known('p1'), known('p2', { given: 'Piet', family: 'Amsel', identifier: 'S-2' })]),
			COURSE
		);
		expect(plan.gonePlaces).toEqual([{ courseId: 'k', personId: 'p2', name: 'Piet Amsel' }]);
		expect(plan.gonePeople).toEqual([]);
	});

	it('says nothing of teachers unless it names some', () => {
		const teacher = known('t', { given: 'Maren', family: 'Solberg' });
		const there = standing([known('p1'), teacher], {
			places: [
				{ courseId: 'k', personId: 'p1', role: 'student' },
				{ courseId: 'k', personId: 't', role: 'teacher' }
			]
		});
		expect(planRoster(roster([entry('x')]), there, COURSE).gonePlaces).toEqual([]);
		const other = entry('y', { given: 'Owen', family: 'Mbeki' });
		const named = roster([entry('x'), other], {
			places: [
				{ course: '', person: 'x', role: 'student' },
				{ course: '', person: 'y', role: 'teacher' }
			]
		});
		expect(planRoster(named, there, COURSE).gonePlaces.map((p) => p.personId)).toEqual(['t']);
	});

	it('tells who has another part in the course now', () => {
		const places: RosterPlace[] = [{ course: '', person: 'x', role: 'teacher' }];
		const plan = planRoster(roster([entry('x')], { places }), standing([known('p1')]), COURSE);
		expect(plan.changedPlaces).toEqual([
			{ courseId: 'k', course: '', personId: 'p1', person: 'x', role: 'teacher' }
		]);
		expect(plan.newPlaces).toEqual([]);
	});
});

describe('a sign-in name for somebody new', () => {
	const login = (change: Partial<RosterEntry>, taken: KnownPerson[] = []) =>
		planRoster(roster([entry('x', change)]), standing(taken, { places: [] }), COURSE).newPeople[0]!.login;

	it('is the wanted one, the address, the number, or made of the name', () => {
		expect(login({ login: 'illa', email: 'i@b.example', identifier: 'S-1' })).toBe('illa');
		expect(login({ email: 'i@b.example', identifier: 'S-1' })).toBe('i@b.example');
		expect(login({ identifier: 'S-1' })).toBe('s-1');
		expect(login({})).toBe('ilka.brandsma');
		expect(login({ given: 'Anaïs', family: 'de la Cour' })).toBe('anais.delacour');
	});

	it('is one that nobody has, neither of those there nor of those who come with them', () => {
		expect(login({ login: 'ilka' }, [known('ilka', { given: 'A', family: 'B' })])).toBe('ilka.brandsma');
		const twins = ['a', 'b', 'c'].map((key) => entry(key, { identifier: `no number ${key}` }));
		const { newPeople } = planRoster(roster(twins), standing([]), COURSE);
		expect(newPeople.map((p) => p.login)).toEqual(['ilka.brandsma', 'ilka.brandsma2', 'ilka.brandsma3']);
	});

	it('is made up where a name has no letters for one', () => {
		expect(login({ given: '', family: '–' })).toBe('person2');
	});
});

describe('a roster of the whole school', () => {
	const whole = (people: RosterEntry[], there: KnownPerson[]) =>
		planRoster(roster(people, { places: [] }), standing(there, { places: [] }), null);

	it('lets go who is not in it, but for administrators and those it never knew', () => {
		const there = [
			known('p1', { identifier: 'S-1' }),
			known('p2', { identifier: 'S-2' }),
			known('p3', { identifier: 'S-3', isAdministrator: true }),
			known('p4', { identifier: 'S-4', isArchived: true }),
			known('p5')
		];
		const { gonePeople } = whole([entry('S-1', { identifier: 'S-1' })], there);
		expect(gonePeople.map((p) => p.id)).toEqual(['p2']);
	});

	it('takes courses by their number, or by their code where they had none', () => {
		const plan = planRoster(
			roster([], {
				courses: [
					{ identifier: 'c1', code: 'HY-2', title: 'Hydrology' },
					{ identifier: 'c2', code: 'HY-3', title: 'More hydrology' }
				]
			}),
			standing([]),
			null
		);
		expect(plan.newCourses.map((c) => c.identifier)).toEqual(['c2']);
		expect(plan.changedCourses).toEqual([
			{ before: COURSE, after: { identifier: 'c1', code: 'HY-2', title: 'Hydrology' } }
		]);
	});

	it('says nothing of the places of courses that it does not name', () => {
		const there = standing([known('p1')]);
		expect(planRoster(roster([], { places: [] }), there, null).gonePlaces).toEqual([]);
		const named = { ...COURSE, identifier: 'c1' };
		const plan = planRoster(
			roster([], { places: [], courses: [{ identifier: 'c1', code: 'HY-2', title: 'Hydrology' }] }),
			{ ...there, courses: [named] },
			null
		);
		expect(plan.gonePlaces.map((p) => p.personId)).toEqual(['p1']);
	});

	it('hands on what could not be read', () => {
		const problems = [{ file: 'users.csv', line: 4, reason: 'There is no sourcedId.' }];
		expect(planRoster(roster([], { problems }), standing([]), null).problems).toEqual(problems);
	});
});
