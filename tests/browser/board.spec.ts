import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import {
	bringIn,
	expectAccessible,
	finding,
	openPacket,
	photographs,
	signIn,
	signInAs,
	stripImages,
	task
} from './steps';

// A teacher's board from what students brought in to bundles for the graders, with one packet given back in between.
test.describe.configure({ mode: 'serial' });
const PEOPLE = { yara: 'Yara Benhaddou', hugo: 'Hugo Lindqvist' } as const;

async function bringPages(page: Page, login: keyof typeof PEOPLE): Promise<void> {
	await signInAs(page, login, 'sandbank');
	await openPacket(page, 'Rain Gauge');
	await bringIn(page, photographs('rain-gauge'));
	await expect(stripImages(page)).toHaveCount(2);
	await expect(
		finding(page, 'allAnswered').getByRole('button', { name: /as read off the pages/ })
	).toBeVisible();
	await page.getByRole('button', { name: 'Sign out' }).click();
}

async function openBoard(page: Page): Promise<void> {
	await signIn(page, 'Maren Oskamp');
	await page.getByRole('row', { name: 'Rain Gauge' }).getByRole('link', { name: 'Board' }).click();
	await expect(page.getByRole('heading', { name: 'Board' })).toBeVisible();
}
const row = (page: Page, name: string) =>
	page.getByRole('row').filter({ hasText: name.split(' ').reverse().join(', ') });
const standing = (page: Page, name: string) => expect(row(page, name));

test('what was read is placed for all who are marked, and what is ready is handed in', async ({ page }) => {
	await bringPages(page, 'yara');
	await bringPages(page, 'hugo');
	await openBoard(page);
	for (const name of Object.values(PEOPLE)) {
		await standing(page, name).toHaveAttribute('data-standing', 'blocked');
	}
	await expect(page.getByText('2 packets carry questions that were read off the pages')).toBeVisible();
	await page.getByRole('button', { name: 'Mark them' }).click();
	for (const name of Object.values(PEOPLE)) {
		await expect(page.getByRole('checkbox', { name: `Mark ${name}` })).toBeChecked();
	}
	await page.getByRole('button', { name: 'Place what was read (2)' }).click();
	await expect(page.getByText('Placed: 2 of 2.')).toBeVisible();
	// What the board shows comes by itself; that the pages carry another's name is to be looked at.
	for (const name of Object.values(PEOPLE)) {
		await standing(page, name).toHaveAttribute('data-standing', 'ready');
		await expect(
			row(page, name).getByRole('link', { name: /^Question 1: to look at, page 1/ })
		).toBeVisible();
	}
	await expectAccessible(page, 'board');
	await page.getByRole('button', { name: 'Hand in the 2 that are ready' }).click();
	await expect(page.getByText('Handed in: 2 of 2.')).toBeVisible();
	for (const name of Object.values(PEOPLE)) {
		await standing(page, name).toHaveAttribute('data-standing', 'handed-in');
	}
	await page.getByRole('button', { name: 'Mark nobody' }).click();
	await page.getByLabel('Who', { exact: true }).selectOption('handed in');
	await page.getByPlaceholder('Find a student').fill('yara');
	await expect(page.locator('tbody tr')).toHaveCount(1);
});

test('a packet is given back, mended, handed in again, and the board says so', async ({ page, browser }) => {
	await openBoard(page);
	await row(page, PEOPLE.yara)
		.getByRole('link', { name: /^Question 2/ })
		.click();
	await page.waitForURL(/\?page=/);
	await page.getByRole('button', { name: 'Give back …' }).click();
	const dialog = page.getByRole('dialog', { name: `Give back to ${PEOPLE.yara}` });
	await dialog.getByLabel('A reason', { exact: true }).fill('The second reading has no unit.');
	await dialog.getByLabel('Which page it is about').selectOption('page 2');
	await dialog.getByRole('button', { name: 'Add', exact: true }).click();
	await dialog.getByLabel('Words to go with it').fill('Otherwise good.');
	await expectAccessible(page, 'giving back');
	await dialog.getByRole('button', { name: 'Give back', exact: true }).click();
	await expect(page.getByRole('heading', { name: 'Given back' })).toBeVisible();

	const student = await (await browser.newContext()).newPage();
	await signInAs(student, 'yara', 'sandbank');
	const desk = student.getByRole('row', { name: 'Rain Gauge' });
	await expect(desk).toContainText('Given back');
	await desk.getByRole('button', { name: 'Mend it' }).click();
	await student.waitForURL(/\/square\?page=/);
	const panel = student.getByRole('region', { name: 'Given back' });
	await expect(panel).toContainText('The second reading has no unit.');
	await expect(panel).toContainText('Otherwise good.');
	await expect(panel).toContainText('Nothing has been changed since.');
	await expect(student.locator('.result figcaption')).toContainText('Page 2');
	await student.locator('.strip [data-page]').first().click();
	await panel.getByRole('button', { name: 'Show page 2' }).click();
	await expect(student.locator('.result figcaption')).toContainText('Page 2');
	await expectAccessible(student, 'given back');
	await student.getByRole('button', { name: 'Turn right' }).click();
	await expect(panel).toContainText('Page 2: turned');
	await task(student, 'Hand in');
	await student.getByRole('button', { name: 'Make the file and look at it' }).click();
	await student.getByRole('button', { name: 'Hand in instead' }).click();
	await expect(panel).toHaveCount(0);
	await student.getByRole('button', { name: 'History' }).click();
	await expect(
		student.getByText('Gave it back: The second reading has no unit. Otherwise good.')
	).toBeVisible();

	await page.goto('/');
	await page.getByRole('row', { name: 'Rain Gauge' }).getByRole('link', { name: 'Board' }).click();
	await standing(page, PEOPLE.yara).toHaveAttribute('data-standing', 'handed-in');
});

test('answers become a bundle without names, once a person has looked where that is not sure', async ({
	page
}) => {
	await openBoard(page);
	await page.getByRole('link', { name: 'Bundles' }).click();
	await expect(page.getByRole('heading', { name: 'Bundles' })).toBeVisible();
	const one = page.locator('[data-question="1"]');
	await one.getByRole('button', { name: 'Make it' }).click();
	await expect(one).toHaveAttribute('data-state', /^(ready|unsure)$/);
	await expectAccessible(page, 'bundles');
	if ((await one.getAttribute('data-state')) === 'unsure') {
		await one.getByRole('button', { name: 'Look through' }).click();
		const dialog = page.getByRole('dialog', { name: 'Is every name covered?' });
		await expect(dialog.getByRole('img')).toBeVisible();
		await expectAccessible(page, 'looking through');
		while (await dialog.isVisible()) {
			await dialog.getByRole('button', { name: 'Cover the top of the page' }).click();
			const before = await dialog.getByText(/ of \d+ pages? · /).textContent();
			await dialog.getByRole('button', { name: 'Every name is covered' }).click();
			await expect(dialog.getByText(before!, { exact: true })).toHaveCount(0);
		}
		await expect(one).toHaveAttribute('data-state', 'ready');
	}
	const saving = page.waitForEvent('download');
	await one.getByRole('link', { name: 'question-1.pdf' }).click();
	const pdf = readFileSync(await (await saving).path());
	expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
	expect(pdf.toString('latin1')).not.toMatch(/Benhaddou|Lindqvist/);
	const key = page.waitForEvent('download');
	await page.getByRole('link', { name: 'Save the key to the codes' }).click();
	expect(readFileSync(await (await key).path(), 'utf8')).toMatch(/^\w{4},AF-2009,Yara,Benhaddou$/m);
});
