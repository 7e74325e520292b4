import type { PageWeight } from '../../core/size/pageWeights';
import type { ToneName } from '../../core/tone/tone';
import type { Database } from './database';

/** Which tones a page could be given is part of what was weighed. */
const tonesKey = (tones: readonly ToneName[] | undefined) => [...(tones ?? [])].sort().join(' ');

/** What the prepared pages with these keys weigh in other forms, where that is known. */
export async function weightsByKeys(
	db: Database,
	keys: readonly string[],
	tones: readonly ToneName[] | undefined
): Promise<Map<string, PageWeight[]>> {
	if (keys.length === 0) return new Map();
	const rows = await db.query<{ key: string; weights: PageWeight[] }>(
		`select key, weights from weighed
		where tones = $2 and key in (select jsonb_array_elements_text($1::jsonb))`,
		[JSON.stringify(keys), tonesKey(tones)]
	);
	return new Map(rows.map((r) => [r.key, r.weights]));
}

export async function addWeights(
	db: Database,
	key: string,
	tones: readonly ToneName[] | undefined,
	weights: readonly PageWeight[]
): Promise<void> {
	await db.query(
		`insert into weighed (key, tones, weights) values ($1, $2, $3::jsonb)
		on conflict (key, tones) do update set weights = excluded.weights`,
		[key, tonesKey(tones), JSON.stringify(weights)]
	);
}
