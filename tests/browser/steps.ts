import { AxeBuilder } from '@axe-core/playwright';
import { expect, type Locator, type Page } from '@playwright/test';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { FOLDER } from './start';

export { CHROMIUM } from './chromium';

export async function signIn(page: Page, who: string): Promise<void> {
	await page.goto('/sign-in');
	await page.getByRole('button', { name: who }).click();
	await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
}

/** Signs in by the form, as those who are not offered as demo accounts. */
export async function signInAs(page: Page, login: string, password: string): Promise<void> {
	await page.goto('/sign-in');
	await page.getByLabel('Sign-in name').fill(login);
	await page.getByLabel('Password').fill(password);
	await page.getByRole('button', { name: 'Sign in', exact: true }).click();
	await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
}

/** Opens one's own packet of an assignment from the desk. */
export async function openPacket(page: Page, assignment: string): Promise<void> {
	await page.getByRole('row', { name: assignment }).getByRole('button').click();
	await page.waitForURL('**/gather');
	// The page answers to clicks from here on.
	await expect(page.getByRole('heading', { name: 'Rule sheet' })).toBeVisible();
	await page.waitForLoadState('networkidle').catch(() => undefined);
}

export function photographs(folder: string): string[] {
	const from = join(FOLDER, 'pictures', folder);
	return readdirSync(from)
		.filter((name) => name.endsWith('.jpg'))
		.sort()
		.map((name) => join(from, name));
}

/** The five photographs of the worksheet under names that put them out of order. */
export function shuffledPhotographs() {
	const files = photographs('gauging-the-lode');
	return [2, 1, 3, 0, 4].map((from, i) => ({
		name: `shot ${i + 1}.jpg`,
		mimeType: 'image/jpeg',
		buffer: readFileSync(files[from]!)
	}));
}

export async function bringIn(page: Page, files: string[]): Promise<void> {
	await page.getByLabel('Choose files').setInputFiles(files);
}

/** Pictures of pages that are ready on the strip. */
export const stripImages = (page: Page) => page.locator('.strip .row img');

export async function task(page: Page, name: string): Promise<void> {
	await page.getByRole('navigation', { name: 'Tasks' }).getByRole('link', { name }).click();
}

export const finding = (page: Page, rule: string) => page.locator(`[data-rule="${rule}"]`);

/** No screen has frames in it: axe need not open a page of its own to add up what it found in each. */
export const axe = (page: Page) => new AxeBuilder({ page }).setLegacyMode();

/**
 * Waits for what work leads to, for as long as the work goes on: its bars move, or it is there. That a machine has other
 * things to do is no fault of what is tested.
 */
export async function afterWork(page: Page, done: Locator): Promise<void> {
	const bars = page.getByRole('progressbar');
	const howFar = () => bars.evaluateAll((all) => all.map((bar) => bar.getAttribute('aria-valuenow')).join());
	let before: string;
	do {
		before = await howFar();
		await expect
			.poll(async () => (await done.isVisible()) || (await howFar()) !== before, {
				message: `${String(done)} is there, or the work for it goes on (${before})`
			})
			.toBe(true);
	} while (!(await done.isVisible()));
}

/** No serious or critical violation of WCAG 2.2 A and AA on the screen as it is now. */
export async function expectAccessible(page: Page, screen: string): Promise<void> {
	// What is still on its way to its place lies over others for a moment.
	await page.waitForFunction(() =>
		document
			.getAnimations()
			.every((a) => a.playState !== 'running' || a.effect?.getComputedTiming().iterations === Infinity)
	);
	const { violations } = await axe(page)
		.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
		.analyze();
	const bad = violations
		.filter((v) => v.impact === 'serious' || v.impact === 'critical')
		.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(' ')).join(' | ')}`);
	expect(bad, screen).toEqual([]);
}

/** From now on, notes tasks of the page's main thread that took longer than 50 ms. */
export function watchLongTasks(page: Page): Promise<void> {
	return page.evaluate(() => {
		const durations: number[] = [];
		(window as unknown as { longTasks: number[] }).longTasks = durations;
		new PerformanceObserver((list) => {
			for (const entry of list.getEntries()) durations.push(Math.round(entry.duration));
		}).observe({ entryTypes: ['longtask'] });
	});
}

/** Durations in milliseconds of the long tasks noted since. */
export function longTasks(page: Page): Promise<number[]> {
	return page.evaluate(() => (window as unknown as { longTasks: number[] }).longTasks);
}
