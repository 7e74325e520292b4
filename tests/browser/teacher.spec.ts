import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { expectAccessible, signIn } from './steps';

test('a teacher writes a rule sheet, and a student sees it', async ({ page }) => {
	await page.goto('/sign-in');
	await expectAccessible(page, 'sign in');
	await signIn(page, 'Maren Oskamp');
	await expectAccessible(page, 'desk of a teacher');
	await page.getByRole('link', { name: 'Write a rule sheet' }).click();
	await expect(page.getByRole('heading', { name: 'New rule sheet' })).toBeVisible();
	await page.waitForLoadState('networkidle').catch(() => undefined);

	await page.getByRole('textbox', { name: 'Title' }).fill('Worksheet 4: The Sluice');
	await page.getByLabel('Due', { exact: true }).fill('2031-03-14T16:30');
	await page.getByLabel('Marks').first().fill('4');
	await page.getByRole('button', { name: 'Add a question' }).click();
	await page.getByRole('button', { name: 'Split into parts' }).nth(1).click();
	await page.getByLabel('At least').fill('5');
	await page.getByLabel('At most', { exact: true }).fill('3');
	await page.getByLabel('Name pattern').fill('{family}_{surname}');
	await page.getByRole('button', { name: 'Set this assignment' }).click();
	await expect(page.getByText('At least must not be more than at most.').first()).toBeVisible();
	await expect(page.getByText('there is no token {surname}').first()).toBeVisible();
	await page.getByLabel('At least').fill('2');
	await page.getByLabel('Name pattern').fill('{family}_{given}_W4');
	await page.getByText('Change what a rule does').click();
	await page.getByLabel('Same page twice').selectOption('blocks');

	const specimen = page.getByRole('region', { name: 'Worksheet 4: The Sluice' });
	await expect(specimen).toContainText('2 to 3 pages');
	await expect(specimen).toContainText('An answer to 1, 2a and 2b');
	await expect(specimen).toContainText('Brandsma_Ilka_W4.pdf');
	await expect(specimen).toContainText('Fri 14 Mar 16:30 (UTC+1)');
	await expectAccessible(page, 'rule sheet editor');

	const download = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Export as JSON' }).click();
	const path = await (await download).path();
	const exported = JSON.parse(readFileSync(path, 'utf8'));
	expect(exported).toMatchObject({ due: '2031-03-14T16:30:00+01:00', levels: { duplicates: 'blocks' } });

	await page.getByRole('button', { name: 'Set this assignment' }).click();
	await page.waitForURL(/assignments\/[0-9a-f-]{36}$/);
	await expect(page.getByRole('textbox', { name: 'Title' })).toHaveValue('Worksheet 4: The Sluice');
	await page.waitForLoadState('networkidle').catch(() => undefined);

	const wrong = {
		name: 'bad.json',
		mimeType: 'application/json',
		buffer: Buffer.from('{"title":"x","questions":[]}')
	};
	await page.getByLabel('Rule sheet to import').setInputFiles(wrong);
	await expect(page.getByText('"questions" must contain at least 1 items')).toBeVisible();
	const right = Buffer.from(JSON.stringify({ ...exported, title: 'Worksheet 4: The Old Sluice' }));
	await page.getByLabel('Rule sheet to import').setInputFiles({ ...wrong, name: 'good.json', buffer: right });
	await expect(page.getByRole('textbox', { name: 'Title' })).toHaveValue('Worksheet 4: The Old Sluice');
	await page.getByRole('button', { name: 'Save', exact: true }).click();
	await expect(page.getByText('Saved. Students see it')).toBeVisible();

	await page.getByRole('link', { name: 'Board' }).click();
	await expect(page.getByText('12 not begun')).toBeVisible();
	await expectAccessible(page, 'class');
	await page.getByRole('button', { name: 'Sign out' }).click();
	await signIn(page, 'Ilka Brandsma');
	await expect(page.getByRole('row', { name: 'The Old Sluice' })).toContainText('Not begun');
	await page.getByPlaceholder('Find an assignment').fill('sluice');
	await expect(page.getByRole('row')).toHaveCount(2);
});
