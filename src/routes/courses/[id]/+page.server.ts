import { error, fail, redirect } from '@sveltejs/kit';
import { courseToRun, memberToLetIn } from '$lib/server/access/access';
import { courseFields } from '$lib/server/roster/courseFields';
import { deleteCourse } from '$lib/server/services/erasing';
import { services } from '$lib/server/services/services';
import {
	archiveCourse,
	changeCourse,
	enrol,
	isCodeTaken,
	leaveCourse,
	membersOf
} from '$lib/server/store/courses';
import { holdingsOf } from '$lib/server/store/erase';
import { noteDeed } from '$lib/server/store/deeds';
import { personCalled } from '$lib/server/store/people';
import { rightsChanged } from '$lib/server/events/packetEvents';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db, targets } = await services();
	const { course, as } = await courseToRun(db, locals, params.id);
	return { course, as, members: await membersOf(db, course.id), mails: targets.mail !== null };
};

/** Only administrators make, rename and archive courses. */
async function administrated(locals: App.Locals, id: string) {
	const { db } = await services();
	const { course, me, as } = await courseToRun(db, locals, id);
	if (as !== 'administrator') error(404, 'There is nothing here, or it is not yours to see.');
	return { db, course, me };
}

export const actions: Actions = {
	change: async ({ params, locals, request }) => {
		const { db, course, me } = await administrated(locals, params.id);
		const form = await request.formData();
		const { fields, problem } = courseFields(form);
		if (problem) return fail(400, { problem });
		if (await isCodeTaken(db, fields.code, course.id)) {
			return fail(400, { problem: `There is another course ${fields.code} already.` });
		}
		const done = await db.transaction(async (tx) => {
			await noteDeed(tx, me, `Changed the course ${course.code}: ${fields.code}, ${fields.title}`);
			return changeCourse(tx, course.id, Number(form.get('version')), fields);
		});
		if (!done) {
			return fail(409, {
				problem:
					'Somebody else has changed this course meanwhile. What it says now stands here; change it again.'
			});
		}
		return { changed: true };
	},
	archive: async ({ params, locals }) => {
		const { db, course, me } = await administrated(locals, params.id);
		if (course.isArchived && (await isCodeTaken(db, course.code, course.id))) {
			return fail(409, {
				problem: `Another course has the code ${course.code} by now. Change that one first.`
			});
		}
		await db.transaction(async (tx) => {
			await noteDeed(tx, me, `${course.isArchived ? 'Took back' : 'Archived'} the course ${course.code}`);
			await archiveCourse(tx, course.id, !course.isArchived);
		});
		return { changed: true };
	},
	/** Says what would go, before anything does. */
	holdings: async ({ params, locals }) => {
		const { db, course } = await administrated(locals, params.id);
		if (!course.isArchived) return fail(400, { problem: 'Archive the course first.' });
		return { holdings: await holdingsOf(db, { courseId: course.id }) };
	},
	delete: async ({ params, locals }) => {
		const { course, me } = await administrated(locals, params.id);
		if (!course.isArchived) return fail(400, { problem: 'Archive the course first.' });
		await deleteCourse(await services(), me, course);
		redirect(303, '/school');
	},
	add: async ({ params, locals, request }) => {
		const { db } = await services();
		const { course, me, as } = await courseToRun(db, locals, params.id);
		const form = await request.formData();
		const called = String(form.get('called') ?? '').slice(0, 200);
		const role = form.get('role') === 'teacher' ? 'teacher' : 'student';
		if (role === 'teacher' && as !== 'administrator') error(404, 'There is nothing here.');
		const person = called.trim() === '' ? null : await personCalled(db, called);
		if (!person) {
			return fail(400, {
				called,
				problem: `Nobody here has the sign-in name, mail address or number “${called}”. ${as === 'administrator' ? 'Add them under School, People first, or' : 'Ask an administrator, or'} bring in a list.`
			});
		}
		await db.transaction(async (tx) => {
			await enrol(tx, course.id, person.id, role);
			await noteDeed(tx, me, `Made ${person.given} ${person.family} a ${role} of ${course.code}`);
		});
		return { changed: true };
	},
	remove: async ({ params, locals, request }) => {
		const id = String((await request.formData()).get('person') ?? '');
		const { db } = await services();
		const { course, me, person } = await memberToLetIn(db, locals, params.id, id);
		await db.transaction(async (tx) => {
			await leaveCourse(tx, course.id, person.id);
			await noteDeed(tx, me, `Took ${person.given} ${person.family} out of ${course.code}`);
		});
		rightsChanged();
		return { changed: true };
	},
	letter: async ({ params, locals, request, url }) => {
		const { db, queue, targets } = await services();
		const form = await request.formData();
		if (!targets.mail) return fail(409, { problem: 'No mail server is set. Print slips instead.' });
		let sent = 0;
		for (const id of form.getAll('person').slice(0, 300)) {
			const { me, person } = await memberToLetIn(db, locals, params.id, String(id));
			if (!person.email) continue;
			await queue.add('send-invitation', { personId: person.id, madeBy: me.id, origin: url.origin });
			sent++;
		}
		return { letters: sent };
	}
};
