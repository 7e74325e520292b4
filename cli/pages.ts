import {
	analysePicture,
	preparePage,
	type PageFacts,
	type PictureFacts
} from '../src/lib/core/page/preparePage';
import { afterReading } from '../src/lib/core/legibility/afterReading';
import { cornersOf, effectiveSettings, turnOf } from '../src/lib/core/page/effective';
import type { Page } from '../src/lib/core/packet/packet';
import { firstHalf } from '../src/lib/core/sheet/fold';
import type { PaperName } from '../src/lib/core/sheet/paperSize';
import { greyOf, type FinishedPage } from '../src/lib/core/tone/finish';
import type { Tone } from '../src/lib/core/tone/tone';
import type { SourceType } from '../src/lib/server/codec/sniff';
import { decodeSource } from '../src/lib/server/codec/source';
import type { ReadLine } from '../src/lib/core/reading/readLine';
import type { LabelForms } from '../src/lib/core/reading/labelForms';
import { pageReading, type PageReading } from '../src/lib/core/reading/pageReading';
import { readPage } from '../src/lib/server/reader/readPage';
import { readTurn } from '../src/lib/server/reader/readTurn';

export interface CliPage {
	readonly page: Page;
	readonly picture: PictureFacts;
	readonly facts: PageFacts;
	readonly finished: FinishedPage;
	/** What the reader saw, from which the reading was made. */
	readonly lines: readonly ReadLine[];
	readonly reading: PageReading;
	readonly milliseconds: Record<string, number>;
}

/** Decodes, analyses and prepares one picture of a source; nobody has edited it. An open notebook gives two pages. */
export async function* preparePicture(
	path: string,
	type: SourceType,
	picture: Pick<Page, 'id' | 'source' | 'sourcePage'>,
	tone: Tone,
	labels: LabelForms,
	paper?: PaperName
): AsyncGenerator<CliPage> {
	const started = performance.now();
	const pixels = await decodeSource(path, type, picture.sourcePage);
	const decoded = performance.now();
	const seen = analysePicture(pixels);
	const analysed = performance.now();
	const whole: Page = { ...picture, corners: null, turn: null, tone: null };
	const toRead = seen.spread ? { ...whole, half: 0 as const } : whole;
	const facts = { ...seen, readTurn: await readTurn(pixels, cornersOf(toRead, seen)) };
	const read = performance.now();
	for (const page of pagesOf(whole, facts)) {
		const { milliseconds, ...prepared } = preparePage(pixels, effectiveSettings(page, facts, tone, paper));
		const made = performance.now();
		const plane = greyOf(prepared.finished);
		const lines = await readPage(plane, prepared.facts.dotsPerInch);
		const reading = pageReading(lines, [plane.width, plane.height], labels);
		const rounded = Object.fromEntries(
			Object.entries({
				decode: decoded - started,
				outline: analysed - decoded,
				...milliseconds,
				reading: read - analysed + performance.now() - made
			}).map(([step, time]) => [step, Math.round(time)])
		);
		yield {
			page,
			picture: facts,
			finished: prepared.finished,
			facts: afterReading(prepared.facts, reading.lines),
			lines,
			reading,
			milliseconds: rounded
		};
	}
}

/** The pages that a picture holds, in the order in which they are read. */
function pagesOf(whole: Page, facts: PictureFacts): Page[] {
	if (!facts.spread) return [whole];
	const first = firstHalf(facts.spread.stacked, turnOf(whole, facts));
	const second = first === 0 ? 1 : 0;
	return [
		{ ...whole, half: first },
		{ ...whole, id: `${whole.id}b`, half: second }
	];
}
