import { chromium, expect, test, type Page } from '@playwright/test';
import { mkdirSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { situationSpec, specimenPage } from '../../bench/situations';
import { photograph } from '../../demo/generator/photograph';
import { jpeg } from '../support/pictures';
import {
	bringIn,
	CHROMIUM,
	expectAccessible,
	longTasks,
	openPacket,
	photographs,
	signIn,
	signInAs,
	stripImages,
	watchLongTasks
} from './steps';

const camera = (page: Page) => page.getByRole('dialog', { name: 'Camera' });
/** What stands in large letters; screen readers are told the same a moment later. */
const words = (page: Page) => camera(page).locator('.large');
const shots = (page: Page) => page.getByRole('list', { name: 'Shots of this sitting' }).getByRole('listitem');

async function openStandIn(page: Page): Promise<void> {
	// There is no camera on the machine that runs the tests: that is said, and how to go on.
	await expect(camera(page).getByText('No camera was found on this device.')).toBeVisible();
	await camera(page).getByRole('button', { name: 'Use the stand-in camera' }).click();
}

test('the stand-in camera takes four pages by itself and refuses the blurred one; one is taken again', async ({
	page
}) => {
	await signIn(page, 'Tobias Okoro-Lind');
	await openPacket(page, 'Timed quiz');
	await page.getByRole('button', { name: 'Photograph here' }).click();
	await expectAccessible(page, 'camera, none there');
	await openStandIn(page);
	await expect(words(page)).toContainText('Blurred: hold still');
	await expect(shots(page)).toHaveCount(2);
	await expectAccessible(page, 'camera');
	await expect(shots(page)).toHaveCount(4);
	await expect(shots(page).filter({ hasText: 'safe' })).toHaveCount(4);
	// After the last page there is a bare desk; the space key takes it all the same, in the place of shot 4.
	await shots(page).nth(3).getByRole('button', { name: 'Take again' }).click();
	const before = await shots(page).nth(3).getByRole('img').getAttribute('src');
	await camera(page).getByText('Take by itself when steady').click();
	await camera(page).focus();
	await page.keyboard.press(' ');
	await expect(shots(page).nth(3).getByRole('img')).not.toHaveAttribute('src', before!);
	await expect(shots(page)).toHaveCount(4);
	await expect(shots(page).filter({ hasText: 'safe' })).toHaveCount(4);
	await page.getByRole('button', { name: /^Done, 4 pages/ }).click();
	await expect(stripImages(page)).toHaveCount(4);
	await page.getByRole('button', { name: 'History' }).click();
	await expect(page.getByText('another picture in its place')).toBeVisible();
});

test('a phone opened by the code adds two pages that appear here; both sides see each other', async ({
	page,
	browser
}) => {
	await signInAs(page, 'senna', 'sandbank');
	await openPacket(page, 'Levelling the Weir');
	await page.getByRole('button', { name: 'Photograph with a phone' }).click();
	const dialog = page.getByRole('dialog', { name: 'Photograph with a phone' });
	await expect(dialog.getByRole('img', { name: 'Code that opens this packet on a phone' })).toBeVisible();
	await expectAccessible(page, 'phone link');
	const address = (await dialog.locator('.address code').textContent())!;

	const phone = await (
		await browser.newContext({ viewport: { width: 390, height: 844 }, isMobile: true, hasTouch: true })
	).newPage();
	await phone.goto(address);
	await expect(phone.getByText('Connected to the computer')).toBeVisible();
	await expect(dialog.getByText('A phone is connected.')).toBeVisible();
	await expectAccessible(phone, 'phone');
	const [one, two] = photographs('more');
	await phone.getByLabel('Choose pictures from this phone').setInputFiles([one!, two!]);
	await expect(phone.getByRole('heading', { name: '2 pictures arrived' })).toBeVisible();
	await dialog.getByRole('button', { name: 'Close, the link stays open' }).click();
	await expect(page.locator('.strip .row [data-page]')).toHaveCount(2);
	await expect(stripImages(page)).toHaveCount(2);
	// The same picture again is said to be there.
	await phone.getByLabel('Choose pictures from this phone').setInputFiles([one!]);
	await expect(phone.getByText('The very same file is here already')).toBeVisible();

	// Ended at the computer, the phone is told.
	await page.getByRole('button', { name: 'Phone link is open' }).click();
	await dialog.getByRole('button', { name: 'End the link' }).click();
	await expect(phone.getByRole('heading', { name: 'This link has ended' })).toBeVisible();
	await expect(page.getByText('Phone connected')).toHaveCount(0);
});

test('added offline, kept over a reload, sent when the line is back', async ({ page, context }) => {
	await signIn(page, 'Tobias Okoro-Lind');
	await openPacket(page, 'Rain Gauge');
	await context.setOffline(true);
	await bringIn(page, photographs('rain-gauge'));
	await expect(page.getByRole('heading', { name: 'Only here (2)' })).toBeVisible();
	await expect(page.getByText('Line is down; work is kept here')).toBeVisible();
	await context.setOffline(false);
	await expect(stripImages(page)).toHaveCount(2);
	await expect(page.getByRole('heading', { name: 'Only here' })).toHaveCount(0);

	// The page is left with unsent files; the next visit sends them.
	await page.route('**/api/uploads**', (route) => route.abort());
	await bringIn(page, photographs('gauging-the-lode').slice(0, 1));
	await expect(page.getByRole('heading', { name: 'Only here (1)' })).toBeVisible();
	page.on('dialog', (dialog) => void dialog.accept());
	await page.reload();
	await expect(page.getByRole('heading', { name: 'Only here (1)' })).toBeVisible();
	await page.unroute('**/api/uploads**');
	await expect(stripImages(page)).toHaveCount(3);
	await expect(page.getByRole('heading', { name: 'Only here' })).toHaveCount(0);
});

test('a device camera finds, looks on and takes a page, and says how often it looks', async ({ baseURL }) => {
	// Chromium's own simulated device plays a film that the generator drew: 720p, a page on a desk.
	const film = resolve('test-results/camera.mjpeg');
	mkdirSync('test-results', { recursive: true });
	const spec = { ...situationSpec('plain wood', 99, [1280, 720]), lies: 0, fill: 0.85, blur: 0.4 } as const;
	const frame = await jpeg(photograph(specimenPage(5, 5).picture, spec).picture, 90);
	writeFileSync(film, Buffer.concat([frame, frame, frame]));
	const browser = await chromium.launch({
		...CHROMIUM,
		args: [
			...CHROMIUM.args,
			'--use-fake-ui-for-media-stream',
			'--use-fake-device-for-media-stream',
			`--use-file-for-fake-video-capture=${film}`
		]
	});
	try {
		const context = await browser.newContext({
			baseURL: baseURL!,
			permissions: ['camera'],
			viewport: { width: 1280, height: 800 }
		});
		const page = await context.newPage();
		await signInAs(page, 'senna', 'sandbank');
		await openPacket(page, 'Gauging the Lode');
		await page.getByRole('button', { name: 'Photograph here' }).click();
		await camera(page).getByLabel('Take by itself when steady').uncheck();
		await expect(words(page)).toContainText('Ready: press the space key');
		await watchLongTasks(page);
		await page.waitForTimeout(4000);
		const rate = Number(await camera(page).getAttribute('data-rate'));
		const tasks = await longTasks(page);
		writeFileSync('test-results/camera-rate.json', JSON.stringify({ looksASecond: rate, longTasks: tasks }));
		// What a machine manages is for `bench camera` to print; here it is enough that it looks and is not stuck.
		expect(rate).toBeGreaterThan(0);
		await camera(page).getByLabel('Take by itself when steady').check();
		await expect(shots(page)).toHaveCount(1);
		await expect(words(page)).toContainText('Taken. Lay down the next page');
		await expect(shots(page).filter({ hasText: 'safe' })).toHaveCount(1);
		await camera(page).getByRole('button', { name: 'Done, 1 page' }).click();
		await expect(page.locator('.strip .row [data-page]')).toHaveCount(1);
	} finally {
		await browser.close();
	}
});
