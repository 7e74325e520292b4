import { usualTone } from '../../core/tone/usualTone';
import type { RuleSheet } from '../../core/rules/ruleSheet';
import type { Services } from '../services/services';
import type { StoredPage } from '../store/pageRecords';
import { forgetPrepared } from '../store/prepared';
import { hasPictures } from '../vault/derived';

/**
 * Which of some prepared pages have no pictures any more, as after a backup was restored, or where somebody took files
 * away. That they were prepared is forgotten, so that whoever asks for what pages lack has them made again.
 */
export async function forgetLost(
	{ db, derived }: Pick<Services, 'db' | 'derived'>,
	sheet: RuleSheet,
	pages: readonly Pick<StoredPage, 'page' | 'key' | 'prepared'>[]
): Promise<string[]> {
	const lost: string[] = [];
	for (const { page, key, prepared } of pages) {
		if (!prepared) continue;
		if (await hasPictures(derived, key, (page.tone ?? usualTone(sheet)).name)) continue;
		await forgetPrepared(db, key);
		lost.push(page.id);
	}
	return lost;
}
