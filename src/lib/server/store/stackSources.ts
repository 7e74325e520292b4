import type { Page } from '../../core/packet/packet';
import type { Database } from './database';

/**
 * Files of a stack as sources of a packet, with what is known of the packet's own pages, and of no others: what a packet
 * has no picture of, nobody gets at through it. The originals are kept once. Copied again, they are the same.
 *
 * @returns the packet's source for each of the stack's
 */
export async function copySources(
	db: Database,
	pages: readonly Pick<Page, 'source' | 'sourcePage'>[],
	packetId: string,
	personId: string
): Promise<Map<string, string>> {
	return db.transaction(async (tx) => {
		const wanted = JSON.stringify([...new Set(pages.map((p) => p.source))]);
		const own = JSON.stringify(pages.map(({ source, sourcePage }) => ({ source, index: sourcePage })));
		await tx.query(
			`insert into source (packet_id, upload_id, name, sha256, bytes, batch, place, type, state, taken_at, brought_by)
			select $2::uuid, s.id || '/' || ($2::uuid)::text, s.name, s.sha256, s.bytes, s.batch, s.place, s.type, 'ready', s.taken_at, $3::uuid
			from source s where s.id in (select value::uuid from jsonb_array_elements_text($1::jsonb))
			on conflict (upload_id) do nothing`,
			[wanted, packetId, personId]
		);
		const copies = await tx.query<{ from: string; id: string }>(
			`select s.id as from, c.id from source s join source c on c.upload_id = s.id || '/' || ($2::uuid)::text
			where s.id in (select value::uuid from jsonb_array_elements_text($1::jsonb))`,
			[wanted, packetId]
		);
		await tx.query(
			`insert into picture (source_id, index, facts, problem)
			select c.id, p.index, p.facts, p.problem from picture p
			join source c on c.upload_id = p.source_id || '/' || ($2::uuid)::text
			join jsonb_to_recordset($1::jsonb) as own(source uuid, index int)
				on own.source = p.source_id and own.index = p.index
			on conflict (source_id, index) do nothing`,
			[own, packetId]
		);
		return new Map(copies.map((c) => [c.from, c.id]));
	});
}
