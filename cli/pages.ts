import {
	analysePicture,
	preparePage,
	type PageFacts,
	type PictureFacts
} from '../src/lib/core/page/preparePage';
import { effectiveSettings } from '../src/lib/core/page/effective';
import type { Page } from '../src/lib/core/packet/packet';
import type { PaperName } from '../src/lib/core/sheet/paperSize';
import type { FinishedPage } from '../src/lib/core/tone/finish';
import type { Tone } from '../src/lib/core/tone/tone';
import type { SourceType } from '../src/lib/server/codec/sniff';
import { decodeSource } from '../src/lib/server/codec/source';
import { readTurn } from '../src/lib/server/reader/readTurn';

export interface CliPage {
	readonly picture: PictureFacts;
	readonly facts: PageFacts;
	readonly finished: FinishedPage;
	readonly milliseconds: Record<string, number>;
}

/** Decodes, analyses and prepares one picture of a source; nobody has edited it. */
export async function preparePicture(
	path: string,
	type: SourceType,
	page: Page,
	tone: Tone,
	paper?: PaperName
): Promise<CliPage> {
	const started = performance.now();
	const pixels = await decodeSource(path, type, page.sourcePage);
	const decoded = performance.now();
	const seen = analysePicture(pixels);
	const analysed = performance.now();
	const picture = { ...seen, readTurn: await readTurn(pixels, seen.outline.corners) };
	const read = performance.now();
	const { finished, facts, milliseconds } = preparePage(
		pixels,
		effectiveSettings(page, picture, tone, paper)
	);
	const rounded = Object.fromEntries(
		Object.entries({
			decode: decoded - started,
			outline: analysed - decoded,
			...milliseconds,
			reading: read - analysed
		}).map(([step, time]) => [step, Math.round(time)])
	);
	return { picture, facts, finished, milliseconds: rounded };
}
