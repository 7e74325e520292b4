import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { EveryCore } from '../../cli/everyCore';
import type { PageFacts } from '../../src/lib/core/page/preparePage';
import type { PageReading } from '../../src/lib/core/reading/pageReading';
import { DEFAULT_TONE } from '../../src/lib/core/tone/tone';
import { blankBack, fedPage } from './feed';
import { sampleStack, type SampleStack } from './sampleStack';
import type { Part } from '../../training/hands';

/** A stack whose pages have been prepared and looked at. */
export interface LookedStack {
	readonly stack: SampleStack;
	readonly pages: readonly { readonly facts: PageFacts; readonly reading: PageReading }[];
}

/** Draws, prepares and looks at a stack; kept in a folder, as each page takes a second or two. */
export async function lookedStack(seed: number, part: Part, most: number): Promise<LookedStack> {
	const stack = sampleStack(seed, part, most);
	const folder = join(tmpdir(), 'membrana-stacks');
	mkdirSync(folder, { recursive: true });
	const key = createHash('sha256').update(JSON.stringify(stack)).digest('hex').slice(0, 16);
	const file = join(folder, key);
	if (existsSync(file)) return { stack, pages: deserialize(readFileSync(file)) as LookedStack['pages'] };
	const cores = new EveryCore();
	const like = stack.pages.find((p) => p.spec)!;
	const pages: Promise<LookedStack['pages'][number]>[] = [];
	for (const [i, page] of stack.pages.entries()) {
		const path = join(folder, `${key}-${i}.jpg`);
		const fed = page.spec ? { spec: page.spec, lies: page.lies } : blankBack({ spec: like.spec!, lies: 0 });
		writeFileSync(path, await fedPage(fed, stack.seed * 1000 + i));
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
	writeFileSync(file, serialize(all));
	return { stack, pages: all };
}
