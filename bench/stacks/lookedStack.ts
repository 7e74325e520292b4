import { writeFileSync } from 'node:fs';
import { EveryCore } from '../../cli/everyCore';
import { Random } from '../../demo/generator/random';
import type { PageFacts } from '../../src/lib/core/page/preparePage';
import type { PageReading } from '../../src/lib/core/reading/pageReading';
import { DEFAULT_TONE } from '../../src/lib/core/tone/tone';
import { PIPELINE, READER } from '../../src/lib/server/store/derivedKeys';
import { kept } from '../kept';
import { photographPage } from '../packetShots';
import { blankBack, fedPage } from './feed';
import { sampleStack, type ClassStack, type Kind, type SampleStack, type StackPage } from './sampleStack';
import type { Part } from '../../training/hands';

/** What is known of a stack's pages once they are prepared and looked at. */
export type LookedPages = readonly { readonly facts: PageFacts; readonly reading: PageReading }[];

/** A stack whose pages have been prepared and looked at. */
export interface LookedStack<S extends ClassStack = ClassStack> {
	readonly stack: S;
	readonly pages: LookedPages;
}

/** Draws, prepares and looks at a stack; kept in a folder, as each page takes a second or two. */
export async function lookedStack(
	seed: number,
	part: Part,
	most: number,
	kind?: Kind
): Promise<LookedStack<SampleStack>> {
	const stack = sampleStack(seed, part, most, kind);
	const picture = (i: number) => stackPicture(stack, stack.pages[i]!, stack.seed * 1000 + i);
	const pages = await kept('membrana-stacks', [stack, PIPELINE, READER], (path) =>
		lookedPages(stack, picture, path)
	);
	return { stack, pages };
}

/**
 * Prepares and looks at a stack.
 *
 * @param picture of each page
 * @param beside where pictures may be put, each with a number and a name behind it
 */
export async function lookedPages(
	{ pages: { length }, sheet }: ClassStack,
	picture: (index: number) => Promise<Buffer>,
	beside: string
): Promise<LookedPages> {
	const cores = new EveryCore();
	const pages: Promise<LookedPages[number]>[] = [];
	for (let i = 0; i < length; i++) {
		const path = `${beside}-${i}.jpg`;
		writeFileSync(path, await picture(i));
		pages.push(
			cores
				.pages({
					path,
					type: 'jpeg',
					picture: { id: `p${i}`, source: 'pile.pdf', sourcePage: i },
					tone: { ...DEFAULT_TONE, name: 'greyscale' },
					questions: sheet.questions,
					paper: 'A4',
					reading: 'starts',
					images: false
				})
				.then(([made]) => ({ facts: made!.facts, reading: made!.reading! }))
		);
	}
	const all = await Promise.all(pages);
	await cores.close();
	return all;
}

/** A side of a stack as it is brought in: from a feeder, or as a photograph. */
export async function stackPicture(stack: SampleStack, page: StackPage, seed: number): Promise<Buffer> {
	const like = { spec: stack.pages.find((p) => p.spec)!.spec!, lies: 0 } as const;
	const { spec, lies } = page.spec ? { spec: page.spec, lies: page.lies } : blankBack(like);
	if (!stack.isPhotographed) return fedPage({ spec, lies }, seed);
	const random = new Random(seed);
	return (await photographPage(spec, lies, random.between(0.3, 0.9), random)).jpeg;
}
