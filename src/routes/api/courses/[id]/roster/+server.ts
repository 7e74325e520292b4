import { error, json, type RequestHandler } from '@sveltejs/kit';
import { COLUMNS, type Column, type Columns } from '$lib/core/roster/columns';
import { courseToRun } from '$lib/server/access/access';
import { asFile } from '$lib/server/edge/asFile';
import { orSay } from '$lib/server/edge/said';
import { previewRoster, receiveRoster, takeRoster } from '$lib/server/roster/bringRoster';
import { listCsv } from '$lib/server/roster/exportRoster';
import { services } from '$lib/server/services/services';
import { safeName } from '$lib/core/naming/namePattern';

/**
 * The list of one course: what it would change, or, with `seen` of such an answer, the change itself. `columns` says what
 * the columns hold where that was not found.
 */
export const POST: RequestHandler = async ({ params, request, locals, url }) => {
	const all = await services();
	const { course, me } = await courseToRun(all.db, locals, params.id!);
	const brought = await orSay(
		receiveRoster(all, request, course, columnsIn(url.searchParams.get('columns')))
	);
	const seen = url.searchParams.get('seen');
	if (seen === null) return json(await previewRoster(all, brought));
	await orSay(takeRoster(all, brought, seen, me));
	return json({ taken: true });
};

/** The course's list as CSV. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { course } = await courseToRun(db, locals, params.id!);
	return new Response(await listCsv(db, course.id), {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': asFile(`${safeName(course.code)}.csv`)
		}
	});
};

function columnsIn(text: string | null): Columns | null {
	if (text === null) return null;
	const columns = text.split(',').map((c) => (c === '' ? null : (c as Column)));
	return columns.every((c) => c === null || COLUMNS.includes(c))
		? columns
		: error(400, 'There is no such column.');
}
