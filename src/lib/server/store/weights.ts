import type { PageWeight } from '../../core/size/pageWeights';
import type { ToneName } from '../../core/tone/tone';
import type { Database } from './database';
import { newOfPage } from './pageKeys';

/** Which tones a page could be given is part of what was weighed. */
export const tonesKey = (tones: readonly ToneName[] | undefined) => [...(tones ?? [])].sort().join(' ');

/** @returns the packets in which they are new */
export async function addWeights(
	db: Database,
	key: string,
	tones: readonly ToneName[] | undefined,
	weights: readonly PageWeight[]
): Promise<string[]> {
	await db.query(
		`insert into weighed (key, tones, weights) values ($1, $2, $3::jsonb)
		on conflict (key, tones) do update set weights = excluded.weights`,
		[key, tonesKey(tones), JSON.stringify(weights)]
	);
	return newOfPage(db, { prepared: key });
}
