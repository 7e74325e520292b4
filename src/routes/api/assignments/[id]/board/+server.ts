import { json, type RequestHandler } from '@sveltejs/kit';
import { csvFormat } from 'd3-dsv';
import { boardTable } from '$lib/core/board/boardTable';
import { safeName } from '$lib/core/naming/namePattern';
import { asCells } from '$lib/core/text/csvCells';
import { assignmentToTeach } from '$lib/server/access/access';
import { asFile } from '$lib/server/edge/asFile';
import { services } from '$lib/server/services/services';
import { boardView } from '$lib/server/view/boardView';

/** The class against every question and rule; as a table with `?as=csv`. */
export const GET: RequestHandler = async ({ params, locals, url }) => {
	const { db } = await services();
	const { assignment } = await assignmentToTeach(db, locals, params.id!);
	const board = await boardView(db, assignment);
	if (url.searchParams.get('as') !== 'csv') return json(board);
	return new Response(`${csvFormat(boardTable(board).map(asCells))}\n`, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': asFile(`${safeName(assignment.ruleSheet.title)} board.csv`)
		}
	});
};
