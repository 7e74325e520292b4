import type { Change } from './change';
import type { Page } from './packet';

export type PagePicture = Pick<Page, 'source' | 'sourcePage' | 'half'>;

/**
 * The pictures that a page was made from before the one it is made from now, latest first, each once.
 *
 * @param changes of the packet, oldest first
 */
export function earlierPictures(changes: readonly Change[], page: Page): PagePicture[] {
	const had: PagePicture[] = [];
	const look = (change: Change): void => {
		if (change.kind === 'together') change.changes.forEach(look);
		else if (change.kind === 'addPages') had.push(...change.pages.filter((p) => p.id === page.id));
		else if (change.kind === 'setPicture' && change.page === page.id) had.push(change.picture);
	};
	changes.forEach(look);
	const name = ({ source, sourcePage }: PagePicture) => `${source}/${sourcePage}`;
	const seen = new Set([name(page)]);
	const earlier: PagePicture[] = [];
	for (const picture of had.reverse()) {
		if (seen.has(name(picture))) continue;
		seen.add(name(picture));
		const { source, sourcePage, half } = picture;
		earlier.push({ source, sourcePage, ...(half === undefined ? {} : { half }) });
	}
	return earlier;
}
