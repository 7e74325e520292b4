import { expect, test, type Locator, type Page } from '@playwright/test';
import { finding, photographs, signInAs, stripImages } from './steps';

// From the desk to the receipt without a mouse: every place is reached by Tab, and nothing is clicked.

/** Goes on by Tab until something has the focus; as many steps as a person would make at most. */
async function tabTo(page: Page, target: Locator, most = 90): Promise<void> {
	await expect(target).toBeVisible();
	for (let i = 0; i < most; i++) {
		if (await target.evaluate((e) => e === document.activeElement)) return;
		await page.keyboard.press('Tab');
	}
	throw new Error(`${most} times Tab did not lead to ${String(target)}.`);
}

async function press(page: Page, target: Locator): Promise<void> {
	await tabTo(page, target);
	await page.keyboard.press('Enter');
}

const toTask = async (page: Page, name: string) => {
	await press(page, page.getByRole('navigation', { name: 'Tasks' }).getByRole('link', { name, exact: true }));
	await expect(page).toHaveURL(new RegExp(name.toLowerCase().replace(' ', '-')));
};

test('a packet goes from photographs to its receipt by the keyboard alone', async ({ page }) => {
	await signInAs(page, 'jorrit', 'sandbank');
	await press(page, page.getByRole('row', { name: 'Rain Gauge' }).getByRole('button'));
	await page.waitForURL('**/gather');
	await page.waitForLoadState('networkidle').catch(() => undefined);

	const chooser = page.waitForEvent('filechooser');
	await press(page, page.locator('.buttons').getByRole('button', { name: 'Choose files' }));
	await (await chooser).setFiles(photographs('rain-gauge'));
	await expect(stripImages(page)).toHaveCount(2);

	await toTask(page, 'Square');
	await tabTo(page, page.getByRole('button', { name: 'Corner bottom right' }));
	await page.keyboard.press('ArrowLeft');
	await expect(page.getByText('Corners set by hand.')).toBeVisible();
	await press(page, page.getByRole('button', { name: 'As found' }));
	await expect(page.getByText('Corners set by hand.')).toBeHidden();

	await toTask(page, 'Tone');
	await tabTo(page, page.getByRole('radio', { name: 'Greyscale' }));
	await page.keyboard.press('Space');
	await expect(page.getByRole('radio', { name: 'Greyscale' })).toHaveAttribute('aria-checked', 'true');

	// It is not one that is allowed: the rule leads back.
	await expect(finding(page, 'tone')).toHaveAttribute('data-level', 'blocks');
	await press(page, finding(page, 'tone').getByRole('button'));
	await expect(finding(page, 'tone')).toHaveAttribute('data-level', 'clear');

	await toTask(page, 'Order');
	const pages = page.locator('.strip .row [data-page]');
	const ids = () => pages.evaluateAll((all) => all.map((e) => (e as HTMLElement).dataset.page));
	const [first, second] = await ids();
	await tabTo(page, pages.first());
	await page.keyboard.press('Alt+ArrowRight');
	await expect.poll(ids).toEqual([second, first]);
	await page.keyboard.press('Control+z');
	await expect.poll(ids).toEqual([first, second]);

	await toTask(page, 'Map');
	await expect(page.getByText('2 seams read off the pages')).toBeVisible();
	await page.keyboard.press('n');
	await page.keyboard.press('Enter');
	await page.keyboard.press('n');
	await page.keyboard.press('Enter');
	await expect(finding(page, 'allAnswered')).toHaveAttribute('data-level', 'clear');
	await tabTo(page, page.getByRole('slider', { name: 'Seam of 2' }));
	const at = () => page.getByRole('slider', { name: 'Seam of 2' }).getAttribute('aria-valuenow');
	const before = await at();
	await page.keyboard.press('Shift+ArrowDown');
	await expect.poll(at).not.toBe(before);

	await toTask(page, 'Name');
	const name = page.getByLabel('File name, without .pdf');
	await tabTo(page, name);
	const asked = await name.inputValue();
	await page.keyboard.press('Control+a');
	await page.keyboard.type('scan');
	await page.keyboard.press('Enter');
	await expect(finding(page, 'fileName')).toHaveAttribute('data-level', 'blocks');
	await press(page, finding(page, 'fileName').getByRole('button', { name: 'Use the asked name' }));
	await expect(finding(page, 'fileName')).toHaveAttribute('data-level', 'clear');
	await expect(name).toHaveValue(asked);

	await toTask(page, 'Hand in');
	await press(page, page.getByRole('button', { name: 'Make the file and look at it' }));
	await press(page, page.getByRole('button', { name: 'Hand in now' }));
	await expect(page.getByRole('heading', { name: 'Received' })).toBeVisible();
	// Whoever does not see it is told so.
	await expect(page.getByRole('status').filter({ hasText: 'Received' }).first()).toBeAttached();
});
