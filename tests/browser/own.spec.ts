import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createHash } from 'node:crypto';
import { expect, test } from '@playwright/test';
import { startOnEmptyFolder, type RunningApp } from '../support/start';
import { FOLDER } from './start';
import { expectAccessible } from './steps';

let server: RunningApp & { readonly folder: string };
test.beforeAll(async () => {
	server = await startOnEmptyFolder('mine');
});
test.afterAll(() => server.kill('SIGTERM'));

test('somebody without a school goes from pasted instructions to a file with its receipt', async ({
	page
}) => {
	const alive = () => page.waitForLoadState('networkidle').catch(() => undefined);
	await page.goto(server.address);
	await alive();
	await expectAccessible(page, 'an empty desk of one’s own');
	await page.getByLabel('Given name').fill('Ilka');
	await page.getByLabel('Family name').fill('Brandsma');
	await page.getByRole('button', { name: 'Go on' }).click();
	await page.getByRole('link', { name: 'New assignment' }).click();
	await alive();
	await page
		.getByLabel('What you were told to hand in')
		.fill(
			'Homework 3: The Old Sluice (GE-4)\nOne PDF, at most 10 MB, 1 to 3 pages, called Family_Given_HW3, due 14 March 2031 at 17:00; answer question 1. Scans in black and white are fine.'
		);
	await page.getByRole('button', { name: 'Find the rules in it' }).click();
	await expect(page.getByText('not sure')).toBeVisible();
	await expect(page.locator('mark').filter({ hasText: '1 to 3 pages' })).toBeVisible();
	await expect(page.getByLabel('Tone black and white')).not.toBeChecked();
	await expectAccessible(page, 'rules found in instructions');
	// SHOT own-instructions
	await page.getByRole('button', { name: 'Put 8 rules into the sheet' }).click();
	await expect(page.getByRole('textbox', { name: 'Title' })).toHaveValue('Homework 3: The Old Sluice');
	await page.getByRole('button', { name: 'Take them out again' }).click();
	await expect(page.getByRole('textbox', { name: 'Title' })).toHaveValue('');
	await page.getByRole('button', { name: 'Put 8 rules into the sheet' }).click();
	await expect(page.getByLabel('Name pattern')).toHaveValue('{family}_{given}_HW3');
	await page.getByRole('button', { name: 'Keep this assignment' }).click();
	await page.waitForURL(`${server.address}/`);
	await expect(page.getByRole('cell', { name: 'Homework 3: The Old Sluice GE-4' })).toBeVisible();

	await page.getByRole('button', { name: 'Begin with it' }).click();
	await expect(page.getByText('Asked: 1 to 3 pages.')).toBeVisible();
	await expect(page.getByRole('button', { name: 'Photograph with a phone' })).toHaveCount(0);
	// Chosen before the page has come to life.
	let open = () => {};
	const gate = new Promise<void>((done) => (open = done));
	await page.route('**/_app/**/*.js', async (route) => {
		await gate;
		await route.continue();
	});
	await page.reload({ waitUntil: 'commit' });
	await page
		.locator('input[type=file]')
		.first()
		.setInputFiles([join(FOLDER, 'pictures', 'rain-gauge', 'rain 1.jpg')]);
	open();
	await expect(page.getByText('Safe here (1)')).toBeVisible();
	await page.getByRole('link', { name: 'Map' }).click();
	const mark = page.getByRole('button', { name: /not attempted/i });
	await expect(mark.first()).toBeVisible();
	await mark.first().click();
	await page.getByRole('link', { name: 'Hand in' }).click();
	await page.getByRole('button', { name: 'Make the file and look at it' }).click();
	await expect(page.getByLabel('A folder on this computer')).toBeChecked();
	await page.getByRole('button', { name: /^Hand in/ }).click();
	await expect(page.getByRole('heading', { name: 'Saved' })).toBeVisible();
	await expect(
		page.getByText(`the folder ${join(server.folder, 'handed in')}`, { exact: true })
	).toBeVisible();
	const sha256 = await page.locator('dd code').first().textContent();
	const file = join(
		server.folder,
		'handed in',
		'GE-4',
		'Homework 3- The Old Sluice',
		'Brandsma_Ilka_HW3.pdf'
	);
	expect(createHash('sha256').update(readFileSync(file)).digest('hex')).toBe(sha256);
});
