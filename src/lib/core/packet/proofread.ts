import type { Page, Proofread } from './packet';

/**
 * What a person said of a page, as long as the page is still the one they read.
 *
 * @param key of the page as it is prepared now
 */
export function verdictInForce(page: Page | undefined, key: string | undefined): Proofread['verdict'] | null {
	return page?.proofread && page.proofread.seen === key ? page.proofread.verdict : null;
}
