import { createHash } from 'node:crypto';
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import type { PacketView } from '../../src/lib/server/view/packetView';
import { PORTAL } from './start';
import {
	bringIn,
	expectAccessible,
	finding,
	openPacket,
	photographs,
	shuffledPhotographs,
	signIn,
	signInAs,
	stripImages,
	task
} from './steps';

/** Clicks a page in Map at a fraction of its height. */
async function placeSeam(page: Page, index: number, y: number): Promise<void> {
	const sheet = page.locator('[data-sheet]').nth(index);
	await sheet.scrollIntoViewIfNeeded();
	const box = (await sheet.boundingBox())!;
	const before = await page.getByRole('slider', { name: /Seam/ }).count();
	await page.mouse.click(box.x + 0.7 * box.width, box.y + y * box.height);
	await expect(page.getByRole('slider', { name: /Seam/ })).toHaveCount(before + 1);
}

test('a student takes five photographs all the way to a receipt', async ({ page }) => {
	await signIn(page, 'Ilka Brandsma');
	await expectAccessible(page, 'desk');
	await openPacket(page, 'Gauging the Lode');
	await expectAccessible(page, 'gather, empty');
	await page.getByLabel('Choose files').setInputFiles(shuffledPhotographs());
	await expect(stripImages(page)).toHaveCount(5);
	await expect(page.getByText('Safe here (5)')).toBeVisible();
	await expect(finding(page, 'allAnswered')).toHaveAttribute('data-level', 'blocks');

	// Square: nudge a corner with the mouse and with the keyboard, turn the page, undo over a reload.
	await task(page, 'Square');
	await page.locator('.strip [data-page]').nth(1).click();
	await expect(page.getByText('turned 270°')).toBeVisible();
	const corner = page.getByRole('button', { name: 'Corner bottom right' });
	const box = (await corner.boundingBox())!;
	await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
	await page.mouse.down();
	await page.mouse.move(box.x + box.width / 2 - 6, box.y + box.height / 2 - 4, { steps: 3 });
	await page.mouse.up();
	await expect(page.getByText('Corners set by hand.')).toBeVisible();
	await corner.focus();
	await corner.press('ArrowLeft');
	await page.getByRole('button', { name: 'Turn right' }).click();
	await expect(page.getByText('turned 0°')).toBeVisible();
	await expect(page.getByText('All saved')).toBeVisible();
	await expectAccessible(page, 'square');
	await page.reload();
	await page.locator('.strip [data-page]').nth(1).click();
	await expect(page.getByText('turned 0°')).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(page.getByText('turned 270°')).toBeVisible();
	await page.keyboard.press('Control+Shift+z');
	await expect(page.getByText('turned 0°')).toBeVisible();
	await page.keyboard.press('Control+z');
	await expect(page.getByText('turned 270°')).toBeVisible();

	// Tone, on one page.
	await task(page, 'Tone');
	await page.getByRole('radio', { name: 'Black and white' }).click();
	await expect(page.getByRole('radio', { name: 'Black and white' })).toHaveAttribute('aria-checked', 'true');
	await page.getByRole('radio', { name: 'Colour' }).click();
	await expect(finding(page, 'tone')).toHaveAttribute('data-level', 'blocks');
	await finding(page, 'tone').getByRole('button').click();
	await expect(finding(page, 'tone')).toHaveAttribute('data-level', 'clear');
	await expectAccessible(page, 'tone');

	// Order: the blurred second picture of page 2 is pointed out and set aside; then keyboard and drag.
	await task(page, 'Order');
	await expect(finding(page, 'duplicates')).toContainText('Pages 2 and 5 carry the same writing');
	await finding(page, 'duplicates').getByRole('button', { name: 'Keep page 2' }).click();
	// Whether any other page is there twice is known once all have been read.
	await expect(finding(page, 'duplicates')).toHaveAttribute('data-level', 'clear');
	await expect(page.locator('.strip .row [data-page]')).toHaveCount(4);
	const ids = () =>
		page
			.locator('.strip .row [data-page]')
			.evaluateAll((all) => all.map((e) => (e as HTMLElement).dataset.page));
	// The order is read off the pages, and taken with one press; a wrong number is corrected and put back.
	await expect(page.getByRole('heading', { name: 'Going by what is written: move 2 pages' })).toBeVisible();
	await expect(finding(page, 'pageNumbers')).toHaveAttribute('data-level', 'look');
	const mixed = await ids();
	await expect(page.getByText('It reads page 1 of 4.')).toBeVisible();
	await expectAccessible(page, 'order, proposed');
	await page.getByRole('button', { name: 'Put in this order' }).click();
	await expect(finding(page, 'pageNumbers')).toHaveAttribute('data-level', 'clear');
	await expect.poll(ids).toEqual([mixed[3], mixed[1], mixed[0], mixed[2]]);
	await page.keyboard.press('Control+z');
	await expect.poll(ids).toEqual(mixed);
	await page.keyboard.press('Control+Shift+z');
	await expect(page.getByRole('heading', { name: 'In order, as far as can be read' })).toBeVisible();
	await page.locator('.strip .row [data-page]').nth(3).click();
	await page.getByRole('button', { name: 'Correct' }).click();
	await page.getByLabel('Number on the page').fill('1');
	await page.getByRole('button', { name: 'Save' }).click();
	await expect(finding(page, 'pageNumbers')).toHaveAttribute('data-level', 'look');
	await page.getByRole('button', { name: 'Back to what was read' }).click();
	await expect(finding(page, 'pageNumbers')).toHaveAttribute('data-level', 'clear');
	const [a, b, c, d] = await ids();
	await page.locator(`.strip .row [data-page="${b}"]`).focus();
	await page.keyboard.press('Alt+ArrowRight');
	await expect.poll(ids).toEqual([a, c, b, d]);
	const from = (await page.locator(`.strip .row [data-page="${b}"]`).boundingBox())!;
	const to = (await page.locator(`.strip .row [data-page="${c}"]`).boundingBox())!;
	await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
	await page.mouse.down();
	await page.mouse.move(from.x, from.y + 40, { steps: 4 });
	await page.mouse.move(to.x + 10, to.y + to.height / 2, { steps: 12 });
	await page.waitForTimeout(400);
	await page.mouse.up();
	await expect.poll(ids).toEqual([a, b, c, d]);
	// The page that was let go flies to its place, outside every list; it has to have landed.
	await expect(page.locator('#dnd-action-dragged-el')).toHaveCount(0);
	await expectAccessible(page, 'order');

	// Map: seams were read; one is declined and placed by hand, one confirmed by keyboard, the rest at once.
	await task(page, 'Map');
	await expect(page.getByText('5 seams read off the pages')).toBeVisible();
	await expectAccessible(page, 'map, proposed');
	await page.keyboard.press('n');
	await expect(page.getByRole('button', { name: 'Proposed seam of 1' })).toBeFocused();
	await page.keyboard.press('Enter');
	await expect(page.getByText('4 seams read off the pages')).toBeVisible();
	// A label that was misread is said as it stands; what is wrong is said again, and undone.
	await page.getByRole('button', { name: 'Proposed seam of 3' }).focus();
	await page.getByLabel('It says').fill('Q9');
	await page.getByRole('button', { name: 'Correct' }).click();
	await expect(page.getByRole('alert').filter({ hasText: 'has no “Q9”' })).toBeVisible();
	await page.getByLabel('It says').fill('Q 2 (b)');
	await page.getByLabel('It says').press('Enter');
	await expect(page.getByRole('slider', { name: 'Seam of 2b' })).toBeFocused();
	await page.keyboard.press('Control+z');
	await expect(page.getByRole('button', { name: 'Proposed seam of 3' })).toBeVisible();
	await expect(page.getByRole('slider', { name: /Seam of/ })).toHaveCount(1);
	const last = page.getByRole('button', { name: 'Proposed seam of 4' });
	await last.focus();
	await last.press('Delete');
	await expect(page.getByText('3 seams read off the pages')).toBeVisible();
	await page.getByRole('button', { name: 'Confirm all' }).click();
	await expect(finding(page, 'allAnswered')).toContainText('Nothing is placed for 4');
	await page.getByRole('button', { name: '4 was not attempted' }).click();
	await expect(finding(page, 'allAnswered')).toHaveAttribute('data-level', 'clear');
	await page.getByRole('button', { name: '4', exact: true }).click();
	await page.getByRole('button', { name: '4 was attempted' }).click();
	await placeSeam(page, 3, 0.06);
	const seam = page.getByRole('slider', { name: 'Seam of 2b' });
	await seam.scrollIntoViewIfNeeded();
	await seam.focus();
	const place = async () => Number(await seam.getAttribute('aria-valuenow'));
	const placed = await place();
	await seam.press('Shift+ArrowUp');
	await expect.poll(place).toBeLessThan(placed);
	const raised = await place();
	const grip = (await seam.boundingBox())!;
	await page.mouse.move(grip.x + 120, grip.y + grip.height / 2);
	await page.mouse.down();
	await page.mouse.move(grip.x + 120, grip.y + grip.height / 2 + 30, { steps: 5 });
	await page.mouse.up();
	await expect.poll(place).toBeGreaterThan(raised);
	await page.getByRole('button', { name: 'Cut-outs' }).click();
	await expect(page.getByRole('heading', { name: 'What the grader will see' })).toBeVisible();
	await expect(page.getByRole('img', { name: 'part for 2a' })).toBeVisible();
	await expectAccessible(page, 'map');
	await page.getByRole('button', { name: 'Rule sheet' }).click();

	// Name: a wrong one is pointed out, the asked one comes back.
	await task(page, 'Name');
	const name = page.getByLabel('File name, without .pdf');
	await name.fill('scan 14 (2)');
	await page.getByRole('button', { name: 'Use this name' }).click();
	await expect(finding(page, 'fileName')).toHaveAttribute('data-level', 'blocks');
	await expectAccessible(page, 'name');
	await finding(page, 'fileName').getByRole('button', { name: 'Use the asked name' }).click();
	await expect(finding(page, 'fileName')).toContainText('Brandsma_Ilka_HY-2_W3.pdf');

	// Everything clear; hand in. A file can be made before its pages' whole text is read; what is looked for in it is text.
	await expect(page.locator('[data-level="blocks"], [data-level="look"]')).toHaveCount(0);
	const [, packet] = /packets\/([0-9a-f-]+)/.exec(page.url())!;
	await expect
		.poll(async () => {
			const view = (await (await page.request.get(`/api/packets/${packet}`)).json()) as PacketView;
			return view.packet.strip.every((id) => {
				const reading = view.pages[id]?.reading;
				return reading && !reading.startsOnly;
			});
		})
		.toBe(true);
	await task(page, 'Hand in');
	await page.getByRole('button', { name: 'Make the file and look at it' }).click();
	await expect(
		page.getByRole('list', { name: 'Pages of the file, in sequence' }).getByRole('listitem')
	).toHaveCount(4);
	const promised = (await page.locator('.hash code').textContent())!;
	await expectAccessible(page, 'hand in, proof');
	await page.getByRole('button', { name: 'Hand in now' }).click();
	await expect(page.getByRole('heading', { name: 'Received' })).toBeVisible();
	await expectAccessible(page, 'receipt');
	const number = (await page.locator('.receipt .large').textContent())!;
	expect(await page.locator('.receipt code').textContent()).toBe(promised);

	// The very file lies at the portal, and is a good PDF.
	const arrived = Buffer.from(await (await fetch(`${PORTAL}/api/submissions/${number}/file`)).arrayBuffer());
	expect(createHash('sha256').update(arrived).digest('hex')).toBe(promised);
	writeFileSync('test-results/arrived.pdf', arrived);
	const text = execFileSync('pdftotext', ['test-results/arrived.pdf', '-'], { encoding: 'utf8' });
	expect(text).toContain('rating curve');
	expect(execFileSync('qpdf', ['--check', 'test-results/arrived.pdf'], { encoding: 'utf8' })).toContain(
		'No syntax'
	);
	expect(execFileSync('pdfinfo', ['test-results/arrived.pdf'], { encoding: 'utf8' })).toMatch(/Pages:\s+4/);
	const { outlines } = JSON.parse(
		execFileSync('qpdf', ['--json', '--json-key=outlines', 'test-results/arrived.pdf'], { encoding: 'utf8' })
	);
	expect(
		outlines.map((o: { title: string; destpageposfrom1: number }) => [o.title, o.destpageposfrom1])
	).toEqual([
		['Question 1', 1],
		['Question 2a', 2],
		['Question 2b', 2],
		['Question 3', 3],
		['Question 4', 4]
	]);
	await page.goto(PORTAL);
	await expect(page.getByRole('row', { name: number })).toContainText('received');
});

test('a delivery is recalled, and the desk says so', async ({ page }) => {
	await signIn(page, 'Ilka Brandsma');
	await expect(page.getByRole('row', { name: 'Rain Gauge' })).toContainText('Received');
	await openPacket(page, 'Rain Gauge');
	await task(page, 'Hand in');
	await page.getByRole('button', { name: 'Recall' }).click();
	await page.getByRole('button', { name: 'Yes, recall it' }).click();
	await expect(page.getByText('recalled', { exact: true })).toBeVisible();
	await expect(page.getByRole('heading', { name: 'Received' })).toHaveCount(0);
	await page.goto(PORTAL);
	await expect(page.getByRole('row', { name: 'Brandsma_Ilka_HY-2_W1.pdf' }).first()).toContainText(
		'recalled'
	);
});

test('signs in under another name of this machine as well', async ({ page, baseURL }) => {
	await page.goto(`${baseURL!.replace('127.0.0.1', 'localhost')}/sign-in`);
	await page.getByRole('button', { name: 'Tobias Okoro-Lind, student' }).click();
	await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
	expect(new URL(page.url()).hostname).toBe('localhost');
});

test('what is typed before the page has come to life is kept', async ({ page }) => {
	let open = () => {};
	const gate = new Promise<void>((done) => (open = done));
	await page.route('**/_app/**/*.js', async (route) => {
		await gate;
		await route.continue();
	});
	await page.goto('/sign-in', { waitUntil: 'commit' });
	await page.getByLabel('Sign-in name').fill('ilka');
	await page.getByLabel('Password').fill('waterlily');
	open();
	// The button that shows the password works only once the page lives.
	await expect(async () => {
		await page.getByRole('button', { name: 'Show password' }).click();
		await expect(page.getByLabel('Password')).toHaveAttribute('type', 'text', { timeout: 500 });
	}).toPass();
	await expect(page.getByLabel('Password')).toHaveValue('waterlily');
	await expect(page.getByLabel('Sign-in name')).toHaveValue('ilka');
	await page.getByRole('button', { name: 'Sign in', exact: true }).click();
	await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
});

test('what is pressed or chosen before the page has come to life is done once it has', async ({ page }) => {
	await signInAs(page, 'amara', 'sandbank');
	await openPacket(page, 'Gauging the Lode');
	const address = page.url();
	let open = () => {};
	const gate = new Promise<void>((done) => (open = done));
	await page.route('**/_app/**/*.js', async (route) => {
		await gate;
		await route.continue();
	});
	await page.goto(address, { waitUntil: 'commit' });
	await page.getByLabel('Choose files').setInputFiles(photographs('gauging-the-lode')[0]!);
	await page.getByRole('button', { name: 'Keys' }).click({ clickCount: 2 });
	open();
	await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(stripImages(page)).toHaveCount(1);
});

test('files that cannot be used say why, and the others go on', async ({ page }) => {
	await signIn(page, 'Tobias Okoro-Lind');
	await openPacket(page, 'Gauging the Lode');
	const [good] = photographs('gauging-the-lode');
	const names = { 'empty.jpg': '', 'words.jpg': 'just words', '"><b>x</b> ..∕😀.jpg': 'no picture either' };
	const odd = Object.entries(names).map(([name, text]) => ({
		name,
		mimeType: 'image/jpeg',
		buffer: Buffer.from(text)
	}));
	await page.getByLabel('Choose files').setInputFiles(odd);
	await bringIn(page, [good!]);
	await expect(page.getByText('This file is empty.')).toBeVisible();
	await expect(page.getByText('This is not a picture or PDF')).toHaveCount(2);
	await expect(page.getByText('"><b>x</b> ..∕😀.jpg')).toBeVisible();
	await expect(stripImages(page)).toHaveCount(1);
});

test('two tabs on one packet do not overwrite each other', async ({ context, page }) => {
	await signIn(page, 'Ilka Brandsma');
	await openPacket(page, 'Levelling the Weir');
	await task(page, 'Square');
	const other = await context.newPage();
	await other.goto(page.url());
	await expect(other.getByRole('heading', { name: 'Rule sheet' })).toBeVisible();
	await other.waitForLoadState('networkidle').catch(() => undefined);
	await page.locator('.strip .row [data-page]').nth(0).click();
	await other.locator('.strip .row [data-page]').nth(1).click();
	await expect(page.getByText(/turned \d+°/)).toBeVisible();
	await expect(other.getByText(/turned \d+°/)).toBeVisible();
	await Promise.all([
		page.getByRole('button', { name: 'Turn right' }).click(),
		other.getByRole('button', { name: 'Turn left' }).click()
	]);
	await expect(page.getByText('All saved')).toBeVisible();
	await expect(other.getByText('All saved')).toBeVisible();
	for (const tab of [page, other]) {
		await tab.getByRole('button', { name: 'History' }).click();
		// The first page lay upright, the second upside down: both end at 90 degrees, and both edits stand.
		await expect(tab.getByText('turned to 90°')).toHaveCount(2);
	}
});

test('the phone screens hold together', async ({ page }) => {
	await page.setViewportSize({ width: 390, height: 844 });
	await signIn(page, 'Ilka Brandsma');
	await openPacket(page, 'Levelling the Weir');
	for (const name of ['Gather', 'Square', 'Hand in']) {
		await task(page, name);
		await page.waitForTimeout(500);
		const overflow = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
		expect(overflow, name).toBeLessThanOrEqual(0);
		await expectAccessible(page, `${name} on a phone`);
	}
});
