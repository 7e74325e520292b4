import { error, type RequestHandler } from '@sveltejs/kit';
import Joi from 'joi';
import { safeName } from '$lib/core/naming/namePattern';
import { memberToLetIn, courseToRun } from '$lib/server/access/access';
import { invite } from '$lib/server/access/invitations';
import { asFile } from '$lib/server/edge/asFile';
import { services } from '$lib/server/services/services';
import { noteDeed } from '$lib/server/store/deeds';
import { schoolOf } from '$lib/server/store/school';

const body = Joi.object<{ people: string[] }>({
	people: Joi.array().items(Joi.string().uuid()).min(1).max(300).required()
});

/** Slips for people of a course, as a PDF. Each slip takes the place of the one before it. */
export const POST: RequestHandler = async ({ params, locals, request, url }) => {
	const { db, pool } = await services();
	const { course, me } = await courseToRun(db, locals, params.id!);
	const { value, error: problem } = body.validate(await request.json().catch(() => null));
	if (problem) error(400, problem.message);
	const slips = [];
	let until = new Date();
	for (const id of (value as { people: string[] }).people) {
		const { person } = await memberToLetIn(db, locals, course.id, id);
		const { code, expires } = await invite(db, person.id, 'slip', me.id);
		until = expires;
		slips.push({
			name: `${person.given} ${person.family}`.trim(),
			login: person.login,
			code,
			link: `${url.origin}/come-in/${code}`
		});
	}
	await noteDeed(
		db,
		me,
		`Printed ${slips.length === 1 ? `a slip for ${slips[0]!.name}` : `${slips.length} slips`} in ${course.code}`
	);
	const pdf = await pool.run('slips', {
		school: (await schoolOf(db))?.name ?? 'Membrana',
		course: course.code,
		address: `${url.host}/come-in`,
		until: until.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' }),
		slips
	});
	return new Response(pdf as BodyInit, {
		headers: {
			'content-type': 'application/pdf',
			'content-disposition': asFile(`${safeName(course.code)} slips.pdf`)
		}
	});
};
