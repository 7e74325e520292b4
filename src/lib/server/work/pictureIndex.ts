import type { Tone } from '../../core/tone/tone';
import type { Page } from '../../core/packet/packet';

/** Where a page's pictures lie, without loading its packet. */
export interface PagePictures {
	readonly key: string;
	readonly tone: Tone;
	readonly sha256: string;
	readonly sourcePage: number;
}

/** Packets whose pictures are remembered; the one longest unused is let go. */
const MOST = 1_000;

const index = new Map<string, Map<string, PagePictures>>();

/** Remembers the pages of a packet that was loaded. Of pages that are not among those given, what was known stays. */
export function rememberPictures(
	packetId: string,
	pages: Readonly<
		Record<
			string,
			{ readonly key: string; readonly page: Page; readonly source: { readonly sha256: string } }
		>
	>,
	usual: Tone
): void {
	const known = index.get(packetId) ?? new Map<string, PagePictures>();
	for (const [id, { key, page, source }] of Object.entries(pages)) {
		known.set(id, { key, tone: page.tone ?? usual, sha256: source.sha256, sourcePage: page.sourcePage });
	}
	index.delete(packetId);
	index.set(packetId, known);
	if (index.size > MOST) index.delete(index.keys().next().value!);
}

/** A page's pictures as they were when its packet was last loaded. */
export function picturesOfPage(packetId: string, pageId: string): PagePictures | null {
	return index.get(packetId)?.get(pageId) ?? null;
}
