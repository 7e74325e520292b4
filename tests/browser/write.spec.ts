import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { worksheetForm } from '../support/worksheetForm';
import {
	bringIn,
	expectAccessible,
	finding,
	openPacket,
	photographs,
	signInAs,
	stripImages,
	task
} from './steps';

/** Draws on the page with the mouse, by fractions of it. */
async function draw(page: Page, ...points: (readonly [number, number])[]): Promise<void> {
	const box = (await page.locator('.layer svg').boundingBox())!;
	const at = ([x, y]: readonly [number, number]) => [box.x + x * box.width, box.y + y * box.height] as const;
	await page.mouse.move(...at(points[0]!));
	await page.mouse.down();
	for (const point of points) await page.mouse.move(...at(point), { steps: 4 });
	await page.mouse.up();
}

async function savedText(page: Page): Promise<{ text: string; path: string }> {
	const download = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Save as PDF' }).click();
	const path = await (await download).path();
	return { text: execFileSync('pdftotext', ['-l', '1', path, '-'], { encoding: 'utf8' }), path };
}

test('what is written on a page, and what is covered, is so in the file', async ({ page }) => {
	await signInAs(page, 'senna', 'sandbank');
	await page.getByRole('row', { name: 'Rain Gauge' }).getByRole('button').click();
	await page.waitForURL('**/gather');
	await page.waitForLoadState('networkidle').catch(() => undefined);
	await page.getByLabel('Choose files').setInputFiles(photographs('rain-gauge'));
	await expect(stripImages(page)).toHaveCount(2);
	await expect(page.locator('.saved')).toHaveText('All saved');

	// The pages carry Ilka's name; whoever knows better says so, and can take it back.
	const own = finding(page, 'ownPages');
	await expect(own).toContainText('carry the name');
	await own.getByRole('button', { name: 'They belong here' }).click();
	await expect(own).toContainText('said to be this packet’s own');
	await own.getByRole('button', { name: 'Take that back' }).click();
	await expect(own.getByRole('button', { name: 'They belong here' })).toBeVisible();

	await task(page, 'Write');
	// Whichever came in first is shown; what is looked at in the file is its first page.
	await page.locator('.strip [data-page]').first().click();
	const added = page.getByRole('region', { name: 'What was added to this page' });
	await expect(added).toContainText('Nothing so far');
	await draw(page, [0.3, 0.8], [0.5, 0.82], [0.7, 0.8]);
	await expect(added.getByRole('button', { name: 'Stroke of the pen', exact: true })).toBeVisible();
	await page.getByLabel('Broad marker').check();
	await draw(page, [0.3, 0.9], [0.6, 0.9]);
	await expect(added.getByRole('listitem')).toHaveCount(2);

	// Words begin where one presses, are typed beside the page, and kept.
	await page.getByLabel('Typed words').check();
	const box = (await page.locator('.layer svg').boundingBox())!;
	await page.mouse.click(box.x + 0.3 * box.width, box.y + 0.6 * box.height);
	await page.getByLabel('The words').fill('Zirconium overleaf');
	await page.getByRole('button', { name: 'Keep these words' }).click();
	await expect(added.getByRole('button', { name: '“Zirconium overleaf”', exact: true })).toBeVisible();

	// A strip over the head of the page: what is under it is gone.
	await page.getByLabel('Strip of paper').check();
	await draw(page, [0.02, 0.005], [0.98, 0.075]);
	await expect(added.getByRole('listitem')).toHaveCount(4);
	await expect(page.locator('.saved')).toHaveText('All saved');
	await expectAccessible(page, 'Write');

	// By keyboard: chosen in the list, moved, taken off; and undone.
	const stroke = added.getByRole('button', { name: 'Stroke of the pen', exact: true });
	await stroke.focus();
	await page.keyboard.press('Enter');
	const place = () => page.locator('.layer svg .chosen').getAttribute('y');
	const before = Number(await place());
	await page.keyboard.press('Shift+ArrowUp');
	await expect.poll(async () => Number(await place())).toBeLessThan(before - 50);
	await page.keyboard.press('Delete');
	await expect(added.getByRole('listitem')).toHaveCount(3);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(added.getByRole('listitem')).toHaveCount(4);

	await task(page, 'Hand in');
	await page.getByRole('button', { name: 'Make the file and look at it' }).click();
	const { text, path } = await savedText(page);
	expect(text).toContain('Zirconium overleaf');
	expect(text).not.toMatch(/Brandsma|Ilka/i);
	// Nothing under the strip is dark in the file's picture either.
	const darkest = execFileSync('pdftoppm', ['-l', '1', '-r', '60', '-gray', path], { maxBuffer: 1 << 26 });
	expect(Math.min(...headOf(darkest, 0.01, 0.065))).toBeGreaterThan(200);

	// As notes of their own, which a reader can move, from the next file on.
	await task(page, 'Write');
	await page.getByLabel(/can still be moved/).check();
	await task(page, 'Hand in');
	await page.getByRole('button', { name: 'Make the file and look at it' }).click();
	const apart = await savedText(page);
	const objects = execFileSync('qpdf', ['--qdf', '--object-streams=disable', apart.path, '-'], {
		encoding: 'latin1',
		maxBuffer: 1 << 28
	});
	expect(objects.match(/\/Subtype \/(Ink|FreeText)/g)).toHaveLength(3);
});

/** Samples of some rows of a grey picture (PGM), by fractions of its height; its sides, where the desk may be, left out. */
function headOf(pgm: Buffer, from: number, to: number): number[] {
	const header = /^P5\s+(\d+)\s+(\d+)\s+255\s/.exec(pgm.toString('latin1', 0, 40))!;
	const [width, height] = [Number(header[1]), Number(header[2])];
	const samples = pgm.subarray(header[0].length);
	const rows: number[] = [];
	for (let y = Math.ceil(from * height); y < to * height; y++) {
		rows.push(...samples.subarray(Math.round((y + 0.05) * width), Math.round((y + 0.95) * width)));
	}
	return rows;
}

test('a worksheet that came as PDF is filled in, ticked, and handed on as a page', async ({ page }) => {
	const folder = resolve('test-results/write');
	mkdirSync(folder, { recursive: true });
	const path = join(folder, 'worksheet.pdf');
	writeFileSync(path, await worksheetForm());
	await signInAs(page, 'dov', 'sandbank');
	await openPacket(page, 'Rain Gauge');
	await expect(stripImages(page)).toHaveCount(0);
	await bringIn(page, [path]);
	await expect(stripImages(page)).toHaveCount(2);
	await task(page, 'Write');
	await page.locator('.strip [data-page]').first().click();
	const form = page.getByRole('region', { name: 'Fields of this worksheet' });
	await expect(form).toContainText('0 of 6 filled in');
	// All by keyboard: from field to field.
	await form.getByLabel('group').focus();
	await page.keyboard.type('Kingfishers');
	await page.keyboard.press('Tab');
	await expect(form).toContainText('1 of 6 filled in');
	await form.getByLabel('meter').selectOption('float');
	await form.getByLabel('calm water').check();
	await form.getByLabel('bank, choice 1').check();
	await form.getByLabel('bank, choice 2').check();
	await expect(form.getByLabel('bank, choice 1')).not.toBeChecked();
	await form.getByLabel('remarks').fill('Reeds on both sides, and two moorhens that would not move.');
	await page.keyboard.press('Tab');
	await expect(form).toContainText('5 of 6 filled in');
	await expectAccessible(page, 'Write, a form');
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(form.getByLabel('remarks')).toHaveValue('');
	await page.getByRole('button', { name: 'Redo' }).click();
	await expect(page.locator('.saved')).toHaveText('All saved');
	// The second page has no fields.
	await page.locator('.strip [data-page]').nth(1).click();
	await expect(form).toHaveCount(0);
	await task(page, 'Hand in');
	const { text } = await savedText(page);
	expect(text).toContain('Kingfishers');
	expect(text).toContain('float');
	expect(text).toContain('moorhens');
});
