import { expect, test, type FileChooser, type Locator, type Page } from '@playwright/test';
import { finding, photographs, shuffledPhotographs, signIn, stripImages } from './steps';

// Somebody who has never seen it goes by what is largest: the first button of the desk, then always the next step.
test.describe.configure({ mode: 'serial' });
/** Presses, choices and pictures opened, from the desk to the receipt. */
const MOST_ACTIONS = 15;

class Actions {
	count = 0;
	readonly said: string[] = [];
	async press(button: Locator): Promise<void> {
		await expect(button).toBeEnabled();
		this.said.push((await button.textContent())!.trim());
		await button.click();
		this.count++;
	}
}

/** Sets an assignment that asks for what stands on the five photographs. */
async function setAssignment(page: Page, title: string): Promise<void> {
	await signIn(page, 'Maren Oskamp');
	await page.getByRole('link', { name: 'Write a rule sheet' }).click();
	await page
		.getByLabel('Your instructions')
		.fill(
			`${title}\nOne PDF of at most 6 pages, due 14 March 2031 at 16:30.\nAnswer questions 1, 2 (a) and (b), 3 and 4.`
		);
	await page.getByRole('button', { name: 'Find the rules in it' }).click();
	await page.getByRole('button', { name: /^Put \d rules into the sheet/ }).click();
	await page.getByRole('button', { name: 'Set this assignment' }).click();
	await page.waitForURL(/assignments\/[0-9a-f-]{36}$/);
	await page.getByRole('button', { name: 'Sign out' }).click();
}

async function walk(
	page: Page,
	title: string,
	pictures: Parameters<FileChooser['setFiles']>[0]
): Promise<Actions> {
	await signIn(page, 'Ilka Brandsma');
	const actions = new Actions();
	await actions.press(page.getByRole('row', { name: title }).getByRole('button'));
	await page.waitForURL('**/gather');
	// The page answers to clicks from here on.
	await page.waitForLoadState('networkidle').catch(() => undefined);
	const chooser = page.waitForEvent('filechooser');
	await actions.press(page.locator('.buttons').getByRole('button', { name: 'Choose files' }));
	await (await chooser).setFiles(pictures);
	actions.count++;
	// The blank one may have been set aside by itself.
	await expect(stripImages(page).nth(4)).toBeVisible();
	const next = page.locator('.next:visible').getByRole('button');
	const isSettled = async () => {
		const open = await page.locator('[data-level="open"]').count();
		return open === 0 || (await next.count()) > 0;
	};
	while (!page.url().endsWith('/hand-in') && actions.count < MOST_ACTIONS) {
		await expect.poll(isSettled).toBe(true);
		const before = await page.locator('.next:visible').innerText();
		await actions.press(next);
		await expect.poll(() => page.locator('.next:visible').innerText()).not.toBe(before);
	}
	await actions.press(page.getByRole('button', { name: 'Make the file and look at it' }));
	await actions.press(page.getByRole('button', { name: 'Hand in now' }));
	await expect(page.getByRole('heading', { name: 'Received' })).toBeVisible();
	await expect(finding(page, 'allAnswered')).toHaveAttribute('data-level', 'clear');
	return actions;
}

test('six photographs, one of them blank and one taken twice, become a receipt in fifteen actions, going by the next step', async ({
	page
}) => {
	const title = 'Worksheet 4: Walked Through';
	await setAssignment(page, title);
	const blank = photographs('more').filter((path) => path.endsWith('blank.jpg'));
	const six = [...photographs('gauging-the-lode'), ...blank];
	expect(six).toHaveLength(6);
	const actions = await walk(page, title, six);
	expect(actions.count, actions.said.join(' · ')).toBeLessThanOrEqual(MOST_ACTIONS);
});

test('the same on a phone, with pages in the wrong order', async ({ page }) => {
	const title = 'Worksheet 5: By Thumb';
	await setAssignment(page, title);
	await page.setViewportSize({ width: 390, height: 844 });
	const actions = await walk(page, title, shuffledPhotographs());
	expect(actions.count, actions.said.join(' · ')).toBeLessThanOrEqual(MOST_ACTIONS);
});
