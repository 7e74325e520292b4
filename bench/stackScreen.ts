import { chromium, type Page } from '@playwright/test';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { RuleSheet } from '../src/lib/core/rules/ruleSheet';
import { DEFAULT_TONE } from '../src/lib/core/tone/tone';
import { encodePreview } from '../src/lib/server/codec/encode';
import { decodePicture } from '../src/lib/server/codec/picture';
import type { Services } from '../src/lib/server/services/services';
import { addAssignment } from '../src/lib/server/store/assignments';
import { command, openStack } from '../src/lib/server/store/packets';
import { preparedPaths } from '../src/lib/server/vault/derived';
import { CHROMIUM } from '../tests/browser/chromium';
import { tasksDuring } from './mainThread';
import { addManyPages } from './manyPages';
import { samplePacket } from './packets';
import { readPacket, type ReadPage } from './readPacket';
import { withSchool, type School } from './school';
import { largestRenderer, serve } from './served';

/** Pages of each packet. */
const EACH = 6;
/** Milliseconds: a task longer than this is felt. */
const FELT = 50;

/**
 * The screen of a class's stack with so many pages, as a teacher uses it: what its main thread does in one go, and how
 * much memory the page takes. Its pages are one made-up page, prepared once.
 */
export async function benchStackScreen(pages: number, print: (line: string) => void): Promise<void> {
	const folder = await mkdtemp(join(tmpdir(), 'membrana-stack-screen-'));
	const pupils = Array.from({ length: Math.ceil(pages / EACH) }, (_, i) => ({
		login: `s${i}`,
		given: `Given${i}`,
		family: `Family${i}`
	}));
	const made = samplePacket(20_000);
	const [specimen] = await readPacket({ ...made, pages: made.pages.slice(0, 1) }, 20_000);
	const sample = { sheet: made.sheet, specimen: specimen! };
	const stacks = await withSchool(folder, pupils, async (services, school) => ({
		uncut: await aStack(services, school, sample, pages, false),
		cut: await aStack(services, school, sample, pages, true)
	}));
	const app = await serve(folder, false);
	const browser = await chromium.launch(CHROMIUM);
	try {
		const [name, value] = (await app.signIn('t')).split('=') as [string, string];
		const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
		await context.addCookies([{ name, value, url: app.address }]);
		for (const [kind, stack] of Object.entries(stacks)) {
			const page = await context.newPage();
			print(`${pages} pages, ${kind}`);
			const measure = async (what: string, does: () => Promise<void>) => {
				const tasks = await tasksDuring(browser, page, does);
				const longest = tasks.reduce((a, b) => (b.cpu > a.cpu ? b : a), { cpu: 0, clock: 0 });
				const felt = tasks.filter((t) => t.cpu > FELT).length;
				const spent = tasks.reduce((sum, t) => sum + t.cpu, 0);
				print(
					`  ${what.padEnd(34)} longest ${longest.cpu.toFixed(0).padStart(4)} ms, ${felt} of ${tasks.length} over ${FELT} ms, ${spent.toFixed(0)} ms in all`
				);
			};
			await measure('opened', async () => {
				await page.goto(`${app.address}/stacks/${stack}`, { waitUntil: 'networkidle' });
			});
			await measure('scrolled to its end', () => scroll(page));
			await measure('forty pages on, by arrow', () => press(page, 'ArrowRight', 40));
			if (kind === 'cut') {
				await measure('five cuts', () => press(page, 'x', 5, 'ArrowRight'));
				await measure('five undone', () => press(page, 'Control+z', 5));
				await measure('a page dragged to another packet', () => drag(page));
				await measure('ten cuts by somebody else', () => elsewhere(page, app.address, stack, pages));
			}
			print(`  memory of its process: ${(await largestRenderer()).toFixed(0)} MB`);
			await page.close();
		}
	} finally {
		await browser.close();
		await app.stop();
		await rm(folder, { recursive: true, force: true });
	}
}

interface Sample {
	readonly sheet: RuleSheet;
	readonly specimen: ReadPage;
}

/** A stack whose pages are all prepared; cut every few pages, or not yet. */
async function aStack(
	{ db, derived }: Services,
	{ course, teacher, pupils }: School,
	{ sheet, specimen }: Sample,
	pages: number,
	isCut: boolean
): Promise<string> {
	const { shot, facts, picture } = specimen;
	const assignment = await addAssignment(db, course, sheet, teacher);
	const stack = await openStack(db, assignment, teacher);
	const tone = { ...DEFAULT_TONE, name: 'greyscale' } as const;
	const { source, ids } = await addManyPages(db, stack, teacher, assignment, pages, tone);
	await db.query('update picture set facts = $2::jsonb where source_id = $1', [
		source,
		JSON.stringify({ ...picture, readTurn: { turn: 0, confidence: 1 } })
	]);
	await db.query(
		`insert into prepared (key, facts, bytes) select prepared_key, $2::jsonb, 60000 from packet_page where packet_id = $1`,
		[stack, JSON.stringify(facts)]
	);
	const view = await shotPicture(shot.jpeg, 1600);
	const thumb = await shotPicture(shot.jpeg, 360);
	const keys = await db.query<{ key: string }>(
		'select prepared_key as key from packet_page where packet_id = $1',
		[stack]
	);
	for (const { key } of keys) {
		const paths = preparedPaths(derived, key, 'greyscale');
		await mkdir(dirname(paths.view), { recursive: true });
		for (const path of new Set([paths.view, paths.image])) await writeFile(path, view);
		await writeFile(paths.thumb, thumb);
	}
	if (isCut) {
		const cuts = pupils.map((person, i) => ({
			kind: 'putCut' as const,
			cut: {
				page: `p${EACH * i}`,
				person,
				sure: 1,
				personSure: i % 5 === 0 ? 0.7 : 1,
				because: ['another name', 'page number 1'],
				personBecause: ['name on page 1'],
				packet: null
			}
		}));
		const looked = { kind: 'setLooked' as const, pages: ids };
		await command(db, stack, teacher, null, {
			kind: 'machine',
			change: { kind: 'together', changes: [...cuts, looked] }
		});
	}
	return stack;
}

async function shotPicture(jpeg: Uint8Array, longest: number): Promise<Buffer> {
	const path = join(await mkdtemp(join(tmpdir(), 'membrana-shot-')), 'shot.jpg');
	await writeFile(path, jpeg);
	const picture = await encodePreview(await decodePicture(path), longest);
	await rm(dirname(path), { recursive: true });
	return picture;
}

async function scroll(page: Page): Promise<void> {
	await page.mouse.move(500, 500);
	const height = () => page.evaluate(() => document.documentElement.scrollHeight - innerHeight - scrollY);
	for (let i = 0; i < 200 && (await height()) > 2; i++) {
		await page.mouse.wheel(0, 900);
		await page.waitForTimeout(60);
	}
	await page.evaluate(() => scrollTo(0, 0));
}

async function press(page: Page, key: string, times: number, between?: string): Promise<void> {
	await page.locator('[data-page]').first().focus();
	await page.locator('[data-page]').first().click();
	for (let i = 0; i < times; i++) {
		if (between) await page.keyboard.press(between);
		await page.keyboard.press(key);
		await page.waitForTimeout(150);
	}
}

async function drag(page: Page): Promise<void> {
	const packets = page.locator('section.heap');
	await packets.nth(1).locator('[data-page]').nth(1).dragTo(packets.nth(0).locator('header'));
	await page.waitForTimeout(300);
}

/** Cuts in another window, which this one hears of. */
async function elsewhere(page: Page, address: string, stack: string, pages: number): Promise<void> {
	for (let i = 0; i < 10; i++) {
		const { version } = (await (await page.request.get(`${address}/api/packets/${stack}`)).json()) as {
			version: number;
		};
		const sent = await page.request.post(`${address}/api/packets/${stack}/changes`, {
			headers: { origin: address },
			data: {
				kind: 'edit',
				base: version,
				change: { kind: 'setCut', page: `p${Math.max(1, pages - 2 - 7 * i)}`, person: null }
			}
		});
		if (!sent.ok()) throw new Error(`Not cut: ${await sent.text()}`);
		await page.waitForTimeout(150);
	}
}
