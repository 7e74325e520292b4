import type { PacketSummary } from '../../core/board/summarise';
import type { Finding } from '../../core/rules/finding';
import type { Database } from './database';

/** What findings were worked out from; where one of these is another, they may be others too. */
export interface CheckedAt {
	readonly version: number;
	readonly news: number;
	readonly sheetVersion: number;
}

/** Keeps what the rules say of a packet; what was said of it as it is now is not put back to what was said before. */
export async function keepFindings(
	db: Database,
	packetId: string,
	{ version, news, sheetVersion }: CheckedAt,
	findings: readonly Finding[],
	summary: PacketSummary
): Promise<void> {
	await db.query(
		`insert into packet_findings as f (packet_id, version, news, sheet_version, findings, summary)
		values ($1, $2, $3, $4, $5::jsonb, $6::jsonb)
		on conflict (packet_id) do update set version = excluded.version, news = excluded.news,
			sheet_version = excluded.sheet_version, findings = excluded.findings, summary = excluded.summary,
			checked_at = now()
		where (f.version, f.news, f.sheet_version) <= (excluded.version, excluded.news, excluded.sheet_version)`,
		[packetId, version, news, sheetVersion, JSON.stringify(findings), JSON.stringify(summary)]
	);
}

/**
 * Whether the findings that are kept are those of the packet as it is now: `stale` where more has become known of its
 * pages since, `none` where it or its rule sheet is another.
 */
export type FindingsKept = 'none' | 'stale' | 'all';
export async function findingsKept(
	db: Database,
	packetId: string,
	{ version, news, sheetVersion }: CheckedAt
): Promise<FindingsKept> {
	const rows = await db.query<{ kept: FindingsKept }>(
		`select case when news = $3 then 'all' else 'stale' end as kept from packet_findings
		where packet_id = $1 and version = $2 and sheet_version = $4 and summary is not null`,
		[packetId, version, news, sheetVersion]
	);
	return rows[0]?.kept ?? 'none';
}

/** The findings that are kept of a packet, of this state of it or an earlier one. */
export async function keptFindings(db: Database, packetId: string): Promise<Finding[] | null> {
	const rows = await db.query<{ findings: Finding[] }>(
		'select findings from packet_findings where packet_id = $1',
		[packetId]
	);
	return rows[0]?.findings ?? null;
}
