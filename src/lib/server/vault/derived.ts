import { createHash } from 'node:crypto';
import { join } from 'node:path';
import type { Page } from '../../core/packet/packet';
import type { PaperName } from '../../core/sheet/paperSize';
import type { Turn } from '../../core/sheet/turn';
import type { Question } from '../../core/rules/question';
import { DEFAULT_TONE, type Tone, type ToneName } from '../../core/tone/tone';

/** Raised whenever the same settings would give another page; old pages are then made anew. */
export const PIPELINE = 4;

/**
 * The key of a prepared page: a hash of everything that goes into it. Corners and turn that nobody
 * set are "as found", which the source determines.
 *
 * @param readTurn the turn in force where reading found another than the layout had told before
 */
export function preparedKey(
	sha256: string,
	page: Pick<Page, 'sourcePage' | 'half' | 'corners' | 'turn'>,
	tone: Tone,
	expectedPaper: PaperName | undefined,
	readTurn: Turn | null = null
): string {
	const all = [
		PIPELINE,
		sha256,
		page.sourcePage,
		page.corners,
		page.turn,
		[tone.name, tone.evenLight, tone.inkWeight, ...adjusted(tone)],
		expectedPaper ?? null,
		...(readTurn === null ? [] : [readTurn]),
		...(page.half === undefined ? [] : [`half ${page.half}`])
	];
	return createHash('sha256').update(JSON.stringify(all)).digest('hex').slice(0, 40);
}

/** Raised whenever the same page would be read otherwise. */
export const READER = 3;

/**
 * The key of what is read off a page: of everything its shape comes from, and of the labels that are looked for. Another
 * tone does not change what is written.
 */
export function readingKey(
	sha256: string,
	page: Pick<Page, 'sourcePage' | 'half' | 'corners' | 'turn'>,
	expectedPaper: PaperName | undefined,
	readTurn: Turn | null,
	questions: readonly Question[]
): string {
	const labels = questions.map((q) => [q.label, ...(q.parts ?? []).map((p) => p.label)]);
	const shape = preparedKey(sha256, page, DEFAULT_TONE, expectedPaper, readTurn);
	return createHash('sha256')
		.update(JSON.stringify([READER, shape, labels]))
		.digest('hex')
		.slice(0, 40);
}

/** Brightness and contrast, when they play a part. */
function adjusted({ name, brightness = 0, contrast = 0 }: Tone): number[] {
	return name === 'black-and-white' || (brightness === 0 && contrast === 0) ? [] : [brightness, contrast];
}

/** Where the pictures made of a page lie. All of them can be made again from the source. */
export interface PreparedPaths {
	readonly thumb: string;
	/** What a browser shows: JPEG, or PNG in black and white. */
	readonly view: string;
	/** The image as it goes into the file: JPEG or a Group 4 strip. */
	readonly image: string;
	/** The page as photographed, flattened; made when somebody asks for it. */
	readonly flat: string;
}

export function preparedPaths(folder: string, key: string, tone: ToneName): PreparedPaths {
	const base = join(folder, key.slice(0, 2), key);
	const isBlackAndWhite = tone === 'black-and-white';
	return {
		thumb: `${base}.thumb.jpg`,
		flat: `${base}.flat.jpg`,
		view: isBlackAndWhite ? `${base}.png` : `${base}.jpg`,
		image: isBlackAndWhite ? `${base}.g4` : `${base}.jpg`
	};
}

/** A page (from 0) of a made file, drawn for the screen. */
export function filePagePath(folder: string, sha256: string, index: number): string {
	return join(folder, 'file', `${sha256}-${index}.jpg`);
}

/** The picture a page is made from, small enough for a screen. */
export function previewPath(folder: string, sha256: string, index: number): string {
	return join(folder, 'preview', `${sha256}-${index}.jpg`);
}
