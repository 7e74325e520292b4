import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Browser } from '@playwright/test';
import { PIPELINE, READER } from '../../src/lib/server/store/derivedKeys';
import { CHROMIUM } from '../../tests/browser/chromium';
import type { Part } from '../../training/hands';
import { benchHiddenNames } from '../hiddenNames';
import { kept } from '../kept';
import { lookedPages } from '../stacks/lookedStack';
import { countStack } from '../stacks/main';
import { StackFigures } from '../stacks/score';
import { browserStack, pictureOf, type BrowserStack } from './classStack';
import { desksOf } from './draw';

/** Which stacks to draw. */
export interface BrowserStacks {
	readonly part: Part;
	readonly stacks: number;
	readonly firstSeed: number;
	/** People in a stack, at most. */
	readonly most: number;
	/** A folder of pictures for sheets to lie on; null: drawn ones. */
	readonly desks: string | null;
}

/**
 * Cuts stacks that a browser laid out, wrote and photographed or scanned, or hides the names in them, and says what was
 * right. Nothing was fitted on such.
 */
export async function benchBrowserStacks(
	what: 'cuts' | 'names',
	which: BrowserStacks,
	print: (line: string) => void
): Promise<void> {
	const browser = await chromium.launch(CHROMIUM);
	const folder = await mkdtemp(join(tmpdir(), 'membrana-browser-'));
	const stacks = drawn(browser, which, folder);
	const picture = (stack: BrowserStack, index: number) => pictureOf(browser, stack, index, folder);
	try {
		if (what === 'cuts') await cutAll(stacks, picture, print);
		else await benchHiddenNames({ stacks, picture, nameAt: ({ nameAt }) => startOf(nameAt!) }, print);
	} finally {
		await browser.close();
		await rm(folder, { recursive: true, force: true });
	}
}

async function* drawn(
	browser: Browser,
	{ part, stacks, firstSeed, most, desks }: BrowserStacks,
	folder: string
): AsyncIterable<BrowserStack> {
	const under = await desksOf(desks);
	for (let i = 0; i < stacks; i++) yield browserStack(browser, firstSeed + i, part, most, under, folder);
}

async function cutAll(
	stacks: AsyncIterable<BrowserStack>,
	picture: (stack: BrowserStack, index: number) => Promise<Buffer>,
	print: (line: string) => void
): Promise<void> {
	const all = new StackFigures();
	for await (const stack of stacks) {
		const drawnFrom = stack.pages.map(({ markup, lies }) => [markup, lies]);
		const from = [stack.seed, stack.camera, stack.sheet, drawnFrom, PIPELINE, READER];
		const pages = await kept('membrana-browser-stacks', from, (beside) =>
			lookedPages(stack, (index) => picture(stack, index), beside)
		);
		countStack(all, { stack, pages }, print);
	}
	for (const line of all.lines()) print(line);
}

/** Somewhere in a name, behind what may introduce it. */
function startOf([x0, y0, x1, y1]: NonNullable<BrowserStack['pages'][number]['nameAt']>) {
	return [x0 + 0.6 * (x1 - x0), (y0 + y1) / 2] as const;
}
