import { createHash } from 'node:crypto';
import { stripsOf } from '../../core/marks/mark';
import type { Page } from '../../core/packet/packet';
import type { PaperName } from '../../core/sheet/paperSize';
import type { Turn } from '../../core/sheet/turn';
import type { Question } from '../../core/assignment/question';
import { DEFAULT_TONE, heldBy, type Tone } from '../../core/tone/tone';

/** Raised whenever the same settings would give another page; old pages are then made anew. */
export const PIPELINE = 12;

/**
 * The key of a prepared page: a hash of everything that goes into it, of what was added to it the strips. Corners and turn that nobody
 * set are "as found", which the source determines.
 *
 * @param readTurn the turn in force where reading found another than the layout had told before
 */
export function preparedKey(
	sha256: string,
	page: Pick<Page, 'sourcePage' | 'half' | 'corners' | 'turn' | 'level' | 'marks'>,
	tone: Tone,
	expectedPaper: PaperName | undefined,
	readTurn: Turn | null = null
): string {
	const strips = stripsOf(page.marks);
	const all = [
		PIPELINE,
		sha256,
		page.sourcePage,
		page.corners,
		page.turn,
		[tone.name, tone.evenLight, tone.inkWeight, ...adjusted(tone)],
		expectedPaper ?? null,
		...(readTurn === null ? [] : [readTurn]),
		...(page.half === undefined ? [] : [`half ${page.half}`]),
		...(page.level === false ? ['as photographed'] : []),
		...(strips.length > 0 ? [{ strips }] : [])
	];
	return createHash('sha256').update(JSON.stringify(all)).digest('hex').slice(0, 40);
}

/** Raised whenever the same page would be read otherwise. */
export const READER = 31;

/** Raised whenever the same writing would be taken for another name; pages are then matched to their roster anew. */
export const MATCHER = 2;

/**
 * The key of what is read off a page: of everything its shape comes from, and of the labels that are looked for. Another
 * tone does not change what is written.
 */
export function readingKey(
	sha256: string,
	page: Pick<Page, 'sourcePage' | 'half' | 'corners' | 'turn' | 'level' | 'marks'>,
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
	return heldBy(name) === 'ink' || (brightness === 0 && contrast === 0) ? [] : [brightness, contrast];
}
