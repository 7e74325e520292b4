import { expect, test, type Locator, type Page } from '@playwright/test';
import { mkdirSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { runningOut } from '../../bench/drawnPictures';
import { photographCurled } from '../../demo/generator/curled';
import { fullPage } from '../../demo/generator/fullPage';
import { printedPage } from '../../demo/generator/printedPage';
import { noPage } from '../../demo/generator/scene';
import { jpeg, testPage, testPhotograph } from '../support/pictures';
import { bringIn, expectAccessible, finding, openPacket, signInAs, stripImages, task } from './steps';

const FOLDER = resolve('test-results/prepare');
/** Files come in in the order of their names. */
const NAMES = { notebook: 'a notebook', glare: 'b glare', again: 'c again' } as const;

/** An open notebook lying sideways, a page with a mirrored lamp on it, and a picture to take a page's place. */
async function pictures(): Promise<{ notebook: string; glare: string; again: string }> {
	mkdirSync(FOLDER, { recursive: true });
	const a5 = (seed: number) => testPage(seed, { paper: 'A5', scale: 9 }).picture;
	const shots = {
		notebook: testPhotograph(
			{ picture: a5(1), labels: [] },
			{
				seed: 3,
				size: [1500, 2000],
				lies: 90,
				opposite: a5(2)
			}
		),
		glare: testPhotograph(testPage(3, { scale: 7 }), { seed: 4, size: [1500, 2000], glare: 1 }),
		again: testPhotograph(testPage(3, { scale: 7 }), { seed: 9, size: [1500, 2000], desk: 'dark' })
	};
	const paths: Record<string, string> = {};
	for (const [name, { picture }] of Object.entries(shots)) {
		paths[name] = join(FOLDER, `${NAMES[name as keyof typeof NAMES]}.jpg`);
		writeFileSync(paths[name], await jpeg(picture));
	}
	return paths as Awaited<ReturnType<typeof pictures>>;
}

async function drag(page: Page, what: Locator, dx: number, dy: number): Promise<void> {
	const box = (await what.boundingBox())!;
	const x = box.x + box.width / 2;
	const y = box.y + box.height / 2;
	await page.mouse.move(x, y);
	await page.mouse.down();
	await page.mouse.move(x + dx / 2, y + dy / 2);
	await page.mouse.move(x + dx, y + dy);
	await page.mouse.up();
}

/** Corners of the outline that is shown, as they stand in the drawing. */
const outline = (page: Page) => page.locator('polygon.line').getAttribute('points');
const strip = (page: Page) => page.locator('.strip .row [data-page]');
const saved = (page: Page) => expect(page.locator('.saved')).toHaveText(/^All saved/);

test('a notebook becomes two pages; corner, side and fold are dragged, and the fold moves both pages', async ({
	page
}) => {
	const { notebook, glare } = await pictures();
	await signInAs(page, 'jorrit', 'sandbank');
	await openPacket(page, 'Levelling the Weir');
	await bringIn(page, [notebook, glare]);
	await expect(stripImages(page)).toHaveCount(3);
	await saved(page);

	await strip(page).nth(0).click();
	await task(page, 'Square');
	await expect(page.getByText('One page of an open notebook.')).toBeVisible();
	await expectAccessible(page, 'square, half a notebook');
	const before = await outline(page);
	await strip(page).nth(1).click();
	await expect.poll(() => outline(page)).not.toBe(before);
	const otherBefore = await outline(page);
	await strip(page).nth(0).click();

	// The fold: both pages follow.
	await drag(page, page.getByRole('button', { name: 'Fold' }), 0, 14);
	await expect(page.getByText('Corners set by hand.')).toBeVisible();
	const folded = await outline(page);
	expect(folded).not.toBe(before);
	await strip(page).nth(1).click();
	await expect.poll(() => outline(page)).not.toBe(otherBefore);
	const shared = (await outline(page))!.split(' ').filter((corner) => folded!.split(' ').includes(corner));
	expect(shared).toHaveLength(2);

	// A side, let go a little inside the sheet, settles on its edge again; with Alt it stays where it was put.
	await strip(page).nth(2).click();
	await expect(page.getByText('Sheet found')).toBeVisible();
	const found = numbers(await outline(page));
	await drag(page, page.getByRole('button', { name: 'Side at the left' }), 2, 0);
	await expect(page.getByText('Corners set by hand.')).toBeVisible();
	const settled = numbers(await outline(page));
	expect(Math.max(...settled.map((v, i) => Math.abs(v - found[i]!)))).toBeLessThan(4);
	await page.keyboard.down('Alt');
	await drag(page, page.getByRole('button', { name: 'Side at the left' }), 12, 0);
	await page.keyboard.up('Alt');
	await expect.poll(async () => numbers(await outline(page))[0]! - settled[0]!).toBeGreaterThan(20);
	const corner = numbers(await outline(page));
	await drag(page, page.getByRole('button', { name: 'Corner top right' }), -30, 30);
	await expect.poll(async () => numbers(await outline(page))[2]).toBeLessThan(corner[2]! - 20);
	await page.getByRole('button', { name: 'As found' }).click();
	await expect(page.getByText('Sheet found')).toBeVisible();

	// One page again, and two again by undo.
	await strip(page).nth(0).click();
	await page.getByRole('button', { name: 'More …' }).click();
	await page.getByRole('button', { name: 'Join the two pages' }).click();
	await expect(strip(page)).toHaveCount(2);
	await page.keyboard.press('Control+z');
	await expect(strip(page)).toHaveCount(3);

	// Turn this and all after it, by key.
	await strip(page).nth(1).click();
	const turned = page.locator('figcaption').filter({ hasText: 'turned' });
	await expect(turned).toContainText('Page 2');
	const turn = /turned (\d+)/.exec((await turned.textContent())!)![1];
	await page.keyboard.press('Alt+t');
	await expect(turned).not.toContainText(`turned ${turn}°`);
	await page.keyboard.press('Control+z');
	await expect(turned).toContainText(`turned ${turn}°`);
	await saved(page);
});

const numbers = (points: string | null) => points!.split(/[ ,]/).map(Number);

test('tones are compared at full zoom, weak places shown, a picture replaced and brought back', async ({
	page
}) => {
	const { again } = await pictures();
	await signInAs(page, 'jorrit', 'sandbank');
	await openPacket(page, 'Levelling the Weir');
	await strip(page).nth(2).click();
	await task(page, 'Tone');
	const wipe = page.getByRole('slider', { name: 'Compare with the photograph' });
	await expect(wipe).toHaveAttribute('aria-valuenow', '50');
	await expect(page.getByText(/suits this page/)).toBeVisible();
	await drag(page, wipe, 120, 0);
	await expect.poll(async () => Number(await wipe.getAttribute('aria-valuenow'))).toBeGreaterThan(60);
	await wipe.press('Home');
	await expect(wipe).toHaveAttribute('aria-valuenow', '0');
	const pane = page.getByRole('group', { name: /^The page\./ });
	await page.getByRole('button', { name: 'Every pixel' }).click();
	await expect(pane.getByText('100 %')).toBeVisible();
	await pane.focus();
	await page.keyboard.press('-');
	await expect(pane.getByText('71 %')).toBeVisible();
	await pane.hover();
	await page.mouse.wheel(0, -400);
	await expect(pane.getByText('71 %')).toBeHidden();

	// The lamp's reflection is shown where it is, with what to do.
	const place = page.getByRole('listitem').filter({ hasText: 'a lamp is mirrored on the paper' });
	await place.getByRole('button').first().click();
	await expect(place.getByRole('button').first()).toHaveAttribute('aria-pressed', 'true');
	await expect(page.locator('.pane svg rect').first()).toBeVisible();
	await expectAccessible(page, 'tone, weak places');

	// Two pages are marked and given this page's tone; what was looked at stays where it is.
	await expect(pane.getByText('80 %')).toBeVisible();
	await page.getByRole('radio', { name: /Black and white/ }).click();
	await strip(page)
		.nth(1)
		.click({ modifiers: ['ControlOrMeta'] });
	await page.getByRole('button', { name: 'Use on the 2 marked pages' }).click();
	await saved(page);
	await expect(pane.getByText('80 %')).toBeVisible();
	await strip(page).nth(1).click();
	await expect(page.getByRole('radio', { name: /Black and white/ })).toHaveAttribute('aria-checked', 'true');
	await strip(page).nth(0).click();
	await expect(page.getByRole('radio', { name: /Greyscale/ })).toHaveAttribute('aria-checked', 'true');

	// Another picture in its place; the old one comes back.
	await strip(page).nth(2).click();
	await task(page, 'Square');
	await expect(page.getByText('b glare.jpg')).toBeVisible();
	await page.getByLabel('Another picture in its place').setInputFiles([again]);
	await expect(page.getByText('c again.jpg', { exact: true })).toBeVisible();
	await expect(strip(page)).toHaveCount(3);
	await page.getByRole('button', { name: 'Bring back b glare.jpg' }).click();
	await expect(page.getByText('b glare.jpg', { exact: true })).toBeVisible();
	await expect(page.getByRole('button', { name: 'Bring back c again.jpg' })).toBeVisible();
	await saved(page);
});

test('a reading pass goes by the keyboard alone, and is remembered', async ({ page }) => {
	await signInAs(page, 'jorrit', 'sandbank');
	await openPacket(page, 'Levelling the Weir');
	await task(page, 'Tone');
	await expect(page.getByRole('button', { name: 'Read through all 3 pages' })).toBeVisible();
	await page.keyboard.press('r');
	const reading = page.getByRole('dialog', { name: 'Read through' });
	await expect(reading.getByRole('heading', { name: 'Page 1 of 3' })).toBeVisible();
	await expect(reading.getByRole('button', { name: 'Fine' })).toBeEnabled();
	await expectAccessible(page, 'reading pass');
	await page.keyboard.press('f');
	await expect(reading.getByRole('heading', { name: 'Page 2 of 3' })).toBeVisible();
	await page.keyboard.press('w');
	await page.keyboard.press('x');
	await expect(reading.getByText('Needs work: page 2.')).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(reading).toBeHidden();
	await expect(strip(page)).toHaveCount(2);
	await expect(page.getByRole('heading', { name: 'Side tray (1)' })).toBeVisible();
	await saved(page);

	await page.reload();
	await expect(page.getByTitle('Read through and found fine')).toHaveCount(1);
	// A page that has changed has not been read.
	await task(page, 'Square');
	await strip(page).nth(0).click();
	await expect(page.getByRole('button', { name: 'Turn right' })).toBeVisible();
	await page.keyboard.press('t');
	await expect(page.getByTitle('Read through and found fine')).toHaveCount(0);
	await page.keyboard.press('Control+z');
	await expect(page.getByTitle('Read through and found fine')).toHaveCount(1);
});

test('a framed scan comes in whole, four lines are not blank, no page is pointed out, a bent one made level', async ({
	page
}) => {
	mkdirSync(FOLDER, { recursive: true });
	const framed = fullPage(printedPage({ seed: 21, kind: 'framed', size: [1240, 1754] }), 'grey scan', 22);
	const lines = ['so we took three verticals', 'and read the meter', 'for sixty seconds', 'at each depth'];
	const few = testPage(4, {
		scale: 7,
		ruling: 'ruled',
		pageNumber: undefined,
		blocks: [{ kind: 'text', lines }]
	});
	const shots = {
		'd framed': framed.picture,
		'e four lines': testPhotograph(few, { seed: 6, size: [1500, 2000], lies: 0 }).picture,
		'f shelf': noPage(23, 'shelf', [1200, 900]),
		'g bent': photographCurled(testPage(7, { ruling: 'ruled' }).picture, {
			seed: 12,
			curl: 'fold',
			strength: 0.8,
			framing: 'near',
			desk: 'wood',
			size: [1500, 2000]
		}).picture,
		'h running out': runningOut(760656).picture
	};
	const paths: string[] = [];
	for (const [name, picture] of Object.entries(shots)) {
		paths.push(join(FOLDER, `${name}.jpg`));
		writeFileSync(paths.at(-1)!, await jpeg(picture));
	}
	await signInAs(page, 'dov', 'sandbank');
	await openPacket(page, 'Levelling the Weir');
	await bringIn(page, paths);
	await expect(stripImages(page)).toHaveCount(5);
	await expect(finding(page, 'wholeSheet')).toContainText('Pages 3, 4 and 5: no sheet was made out');
	await expect(finding(page, 'pageCount')).toContainText('5 pages');

	await task(page, 'Square');
	await strip(page).nth(0).click();
	await expect(page.getByText('A scan: the whole picture is the page.')).toBeVisible();
	const corners = numbers(await outline(page));
	expect(Math.min(...corners)).toBeLessThan(1);
	await strip(page).nth(1).click();
	await expect(page.getByText(/Sheet found/)).toBeVisible();

	// The sheet that bends into a fold is level, and back again as a person wants it.
	await strip(page).nth(3).click();
	await expect(page.getByText('The sheet is bent: its lines are made level.')).toBeVisible();
	await page.getByRole('button', { name: 'Leave them as photographed' }).click();
	await expect(page.getByText('Lines are left as photographed.')).toBeVisible();
	await page.getByRole('button', { name: 'Make them level' }).click();
	await expect(page.getByText('The sheet is bent: its lines are made level.')).toBeVisible();

	// Of the fifth it is not sure where the sheet is: it is proposed, taken, and let go again.
	await strip(page).nth(4).click();
	await expect(page.getByText('The dashed line may be it.')).toBeVisible();
	const proposed = numbers(await page.locator('polygon.perhaps').getAttribute('points'));
	await page.getByRole('button', { name: 'Take the dashed line' }).click();
	await expect(page.getByText('Corners set by hand.')).toBeVisible();
	expect(numbers(await outline(page))).toEqual(proposed);
	await page.getByRole('button', { name: 'Undo' }).click();
	await expect(page.getByText('The dashed line may be it.')).toBeVisible();
	await page.getByRole('button', { name: 'Redo' }).click();

	// Nothing is known of the third: it is cropped by hand, and then nobody asks again.
	await strip(page).nth(2).click();
	await expect(page.getByText(/No sheet was made out for certain/)).toBeVisible();
	await expectAccessible(page, 'square, no page in the picture');
	await drag(page, page.getByRole('button', { name: 'Corner top left' }), 60, 40);
	await expect(page.getByText('Corners set by hand.')).toBeVisible();
	await saved(page);
	await task(page, 'Gather');
	await expect(finding(page, 'wholeSheet')).toContainText('Page 4: no sheet');
});
