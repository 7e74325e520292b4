import type { RequestHandler } from '@sveltejs/kit';
import { csvFormat } from 'd3-dsv';
import { safeName } from '$lib/core/naming/namePattern';
import { asCells } from '$lib/core/text/csvCells';
import { assignmentToTeach } from '$lib/server/access/access';
import { asFile } from '$lib/server/edge/asFile';
import { services } from '$lib/server/services/services';
import { codedPackets } from '$lib/server/store/bundles';

/** The key from codes to people, as a table of its own. */
export const GET: RequestHandler = async ({ params, locals }) => {
	const { db } = await services();
	const { assignment } = await assignmentToTeach(db, locals, params.id!);
	const rows = (await codedPackets(db, assignment.id)).map((c) =>
		asCells({ code: c.code, sourcedId: c.identifier ?? '', givenName: c.given, familyName: c.family })
	);
	return new Response(`${csvFormat(rows, ['code', 'sourcedId', 'givenName', 'familyName'])}\n`, {
		headers: {
			'content-type': 'text/csv; charset=utf-8',
			'content-disposition': asFile(`${safeName(assignment.ruleSheet.title)} codes.csv`),
			'cache-control': 'private, no-store'
		}
	});
};
