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
import { sampleStack, type Kind, type SampleStack, type StackPage } from './sampleStack';
import type { Part } from '../../training/hands';

/** A stack whose pages have been prepared and looked at. */
export interface LookedStack {
	readonly stack: SampleStack;
	readonly pages: readonly { readonly facts: PageFacts; readonly reading: PageReading }[];
}

/** Draws, prepares and looks at a stack; kept in a folder, as each page takes a second or two. */
export async function lookedStack(seed: number, part: Part, most: number, kind?: Kind): Promise<LookedStack> {
	const stack = sampleStack(seed, part, most, kind);
	const pages = await kept('membrana-stacks', [stack, PIPELINE, READER], (path) => looked(stack, path));
	return { stack, pages };
}

/** @param beside where pictures may be put, each with a number and a name behind it */
async function looked(stack: SampleStack, beside: string): Promise<LookedStack['pages']> {
	const cores = new EveryCore();
	const pages: Promise<LookedStack['pages'][number]>[] = [];
	for (const [i, page] of stack.pages.entries()) {
		const path = `${beside}-${i}.jpg`;
		writeFileSync(path, await stackPicture(stack, page, stack.seed * 1000 + i));
		pages.push(
			cores
				.pages({
					path,
					type: 'jpeg',
					picture: { id: `p${i}`, source: 'pile.pdf', sourcePage: i },
					tone: { ...DEFAULT_TONE, name: 'greyscale' },
					questions: stack.sheet.questions,
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
