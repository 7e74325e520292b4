import { fail, redirect } from '@sveltejs/kit';
import { administrator } from '$lib/server/access/access';
import { services } from '$lib/server/services/services';
import { courseFields } from '$lib/server/roster/courseFields';
import { addCourse, allCourses, isCodeTaken } from '$lib/server/store/courses';
import { noteDeed } from '$lib/server/store/deeds';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	administrator(locals);
	return { courses: await allCourses((await services()).db) };
};

export const actions: Actions = {
	make: async ({ locals, request }) => {
		const me = administrator(locals);
		const { db } = await services();
		const { fields, problem } = courseFields(await request.formData());
		if (problem) return fail(400, { ...fields, problem });
		if (await isCodeTaken(db, fields.code, null)) {
			return fail(400, { ...fields, problem: `There is a course ${fields.code} already.` });
		}
		const id = await db.transaction(async (tx) => {
			await noteDeed(tx, me, `Made the course ${fields.code}`);
			return addCourse(tx, fields.code, fields.title, fields);
		});
		redirect(303, `/courses/${id}`);
	}
};
