import { fuseRecognition } from '../../core/legibility/fuseRecognition';
import { cornersOf, effectiveSettings, turnOf } from '../../core/page/effective';
import { preparePage, type PageFacts, type PictureFacts } from '../../core/page/preparePage';
import type { Page } from '../../core/packet/packet';
import { labelForms } from '../../core/reading/labelForms';
import type { PageReading } from '../../core/reading/pageReading';
import type { Question } from '../../core/assignment/question';
import { firstHalf } from '../../core/sheet/fold';
import type { PaperName } from '../../core/sheet/paperSize';
import type { FinishedPage } from '../../core/tone/finish';
import type { Tone } from '../../core/tone/tone';
import { factsOf } from '../codec/coverCode';
import { encodePage, encodePng, type PageImage } from '../codec/encode';
import { decodePlane } from '../codec/picture';
import type { SourceType } from '../codec/sniff';
import { decodeSource } from '../codec/source';
import { readTurn } from '../reader/readTurn';
import { beginReading, wholeReading } from '../reader/wholeReading';

export interface WholePictureInput {
	readonly path: string;
	readonly type: SourceType;
	readonly picture: Pick<Page, 'id' | 'source' | 'sourcePage'>;
	readonly tone: Tone;
	/** The assignment's questions; null: the general grammar of labels. */
	readonly questions: readonly Question[] | null;
	readonly paper?: PaperName;
	/** It lies in a class's stack. */
	readonly inStack?: boolean;
	/** Whether the pages are read, or only their lines' beginnings; if not, they are turned by their layout alone. */
	readonly reading: boolean | 'starts';
	/** Whether images for a file are made. */
	readonly images: boolean;
}

export interface WholePage {
	readonly page: Page;
	readonly picture: PictureFacts;
	readonly facts: PageFacts;
	/** Null where it was not read. */
	readonly reading: PageReading | null;
	/** For the file, and as a picture that any program opens; null where they were not asked for. */
	readonly made: PageImages | null;
	/** Spent on each step. */
	readonly milliseconds: Readonly<Record<string, number>>;
}

export interface PageImages {
	readonly image: PageImage;
	readonly view: Buffer;
}

/** From a picture to its pages, with nobody's settings: an open notebook gives two. @throws SourceError */
export async function pagesOfPicture(input: WholePictureInput): Promise<WholePage[]> {
	const started = performance.now();
	const pixels = await decodeSource(input.path, input.type, input.picture.sourcePage);
	const decoded = performance.now();
	const seen = await factsOf(pixels, input.inStack ?? false);
	const analysed = performance.now();
	const whole: Page = { ...input.picture, corners: null, turn: null, tone: null };
	const toRead = seen.spread ? { ...whole, half: 0 as const } : whole;
	const facts = input.reading ? { ...seen, readTurn: await readTurn(pixels, cornersOf(toRead, seen)) } : seen;
	const read = performance.now();
	const pages: WholePage[] = [];
	for (const page of pagesOf(whole, facts)) {
		const settings = effectiveSettings(page, facts, input.tone, input.paper);
		const { milliseconds, ...prepared } = preparePage(pixels, settings);
		const made = performance.now();
		const images = input.reading || input.images ? await pageImages(prepared.finished) : null;
		const reading = input.reading ? await readingOf(images!, prepared.facts, input) : null;
		const took = {
			decode: decoded - started,
			outline: analysed - decoded,
			...milliseconds,
			...(input.reading ? { reading: read - analysed + performance.now() - made } : {})
		};
		pages.push({
			page,
			picture: facts,
			facts: reading && !reading.startsOnly ? fuseRecognition(prepared.facts, reading.lines) : prepared.facts,
			reading,
			made: input.images ? images : null,
			milliseconds: Object.fromEntries(Object.entries(took).map(([step, time]) => [step, Math.round(time)]))
		});
	}
	return pages;
}

/** What is read is the page as it is kept, here as on the server. */
async function readingOf(
	{ view }: PageImages,
	{ dotsPerInch }: PageFacts,
	{ questions, reading }: Pick<WholePictureInput, 'questions' | 'reading'>
) {
	const page = await decodePlane(view);
	const forms = labelForms(questions);
	if (reading === 'starts') return (await beginReading(page, dotsPerInch, forms)).reading;
	return wholeReading(page, dotsPerInch, forms);
}

/** A page's image for the file, and as a picture that any program opens. */
export async function pageImages(finished: FinishedPage): Promise<PageImages> {
	const image = await encodePage(finished);
	const view = finished.holds === 'ink' ? await encodePng(finished.plane) : image.bytes;
	return { image, view };
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
