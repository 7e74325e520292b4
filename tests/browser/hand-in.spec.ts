import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { expect, test, type Locator, type Page } from '@playwright/test';
import type { RuleSheet } from '../../src/lib/core/rules/ruleSheet';
import { MAIL_PAGE, PORTAL } from './start';
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

async function faults(set: object): Promise<void> {
	await fetch(`${PORTAL}/standin/faults`, {
		method: 'PUT',
		headers: { 'content-type': 'application/json' },
		body: JSON.stringify(set)
	});
}
test.afterEach(() => faults({}));

const received = (page: Page) => page.getByRole('heading', { name: 'Received' });

/** Presses "Try now" until it comes to `outcome`, unless the application's own next try came to it first. */
async function tryNow(page: Page, outcome: Locator): Promise<void> {
	await expect(async () => {
		if (await outcome.isVisible()) return;
		await page.getByRole('button', { name: 'Try now' }).click({ timeout: 2000 });
		await expect(outcome).toBeVisible({ timeout: 20_000 });
	}).toPass();
}

/** The timer says `before`, the minutes and seconds that are left until a moment, and `after`. */
async function expectLeft(page: Page, until: number, before: string, after: string): Promise<void> {
	await expect(async () => {
		const said = new RegExp(`^${before}0?(\\d{1,2}):(\\d\\d)${after}$`).exec(
			(await page.getByRole('timer').textContent()) ?? ''
		);
		expect(said).not.toBeNull();
		const seconds = 60 * Number(said![1]) + Number(said![2]);
		expect(Math.abs(until - Date.now() - 1000 * seconds)).toBeLessThan(5_000);
	}).toPass();
}

async function proof(page: Page): Promise<void> {
	await page.getByRole('button', { name: 'Make the file and look at it' }).click();
	await expect(page.getByRole('button', { name: /^Hand in (now|instead)$/ })).toBeVisible();
}

/** Somebody's answers to the rain gauge, brought in and placed as they were read. */
async function answerRainGauge(page: Page, login: string): Promise<void> {
	await signInAs(page, login, 'sandbank');
	await openPacket(page, 'Rain Gauge');
	await bringIn(page, photographs('rain-gauge'));
	await expect(stripImages(page)).toHaveCount(2);
	await finding(page, 'allAnswered')
		.getByRole('button', { name: 'Place 2 seams as read off the pages' })
		.click();
	await expect(finding(page, 'allAnswered')).toHaveAttribute('data-level', 'clear');
}

test('handed in over a bad line, replaced, noted, by mail, recalled; another assignment needs its confirmation', async ({
	page
}) => {
	await answerRainGauge(page, 'nadia');

	// The portal has trouble, then loses its answer: nothing is claimed until it confirms, and it arrives once.
	await task(page, 'Hand in');
	await proof(page);
	await expect(page.getByRole('img', { name: 'Page 2 of the file' })).toBeVisible();
	await faults({ status: 500 });
	await page.getByLabel('Comment for the teacher').fill('From the gauge at the lock.');
	await page.getByRole('button', { name: 'Hand in now' }).click();
	await expect(page.getByRole('heading', { name: 'Still on its way' })).toBeVisible();
	await expect(page.getByText('The grading portal has trouble (500).').first()).toBeVisible();
	await expect(received(page)).toHaveCount(0);
	await expectAccessible(page, 'on its way');
	await faults({ loseAnswer: true });
	await tryNow(page, page.getByRole('heading', { name: 'Sent; waiting for it to be confirmed' }));
	await expect(received(page)).toHaveCount(0);
	await faults({});
	await tryNow(page, received(page));
	const first = (await page.locator('.receipt .large').textContent())!;

	// The receipt as a page.
	await page.getByRole('link', { name: 'Receipt as a page' }).click();
	await page.waitForURL('**/receipts/**');
	await expect(page.getByText(first, { exact: true })).toBeVisible();
	await expectAccessible(page, 'receipt as a page');
	await page.getByRole('link', { name: 'Back to the packet' }).click();
	await expect(received(page)).toBeVisible();

	// A change, with a note on what it makes a rule say; the new version takes the place of the old one.
	await task(page, 'Order');
	await page.locator('.strip .row [data-page]').first().focus();
	await page.keyboard.press('Alt+ArrowRight');
	await expect(finding(page, 'questionOrder')).toHaveAttribute('data-level', 'look');
	await finding(page, 'questionOrder').getByRole('button', { name: 'Tell the teacher why' }).click();
	await page.getByLabel('Note to the teacher').fill('I answered the second first.');
	await page.getByRole('button', { name: 'Keep the note' }).click();
	await task(page, 'Hand in');
	await proof(page);
	await expect(page.getByText('Notes that go along')).toBeVisible();
	await page.getByRole('button', { name: 'Hand in instead' }).click();
	await expect(page.locator('.receipt .large').first()).not.toHaveText(first);
	await expect(page.getByText('replaced by a later version')).toBeVisible();
	await expect(page.getByText('Since version 1: the order is another one')).toBeVisible();
	await expectAccessible(page, 'receipt and history');

	// By mail as well: the very file.
	await page.getByRole('button', { name: 'Hand it in another way as well' }).click();
	await proof(page);
	const sha256 = (await page.locator('.hash code').textContent())!;
	await page.getByRole('radio', { name: 'Mail' }).check();
	await page.getByRole('button', { name: /^Hand in/ }).click();
	await expect(page.getByRole('heading', { name: 'Passed on by mail' })).toBeVisible();
	await expect(received(page)).toBeVisible();

	// Another assignment is not hit by accident.
	await page.getByRole('button', { name: 'Hand it in another way as well' }).click();
	await proof(page);
	await page.getByLabel('Assignment at the portal').selectOption({ label: 'Worksheet 3b: Gauging the Leat' });
	const alert = page.getByRole('alert').filter({ hasText: 'another assignment' });
	await expect(alert).toContainText('This packet answers Worksheet 1: Reading the Rain Gauge (HY-2).');
	await expect(alert).toContainText('You chose Worksheet 3b: Gauging the Leat (HY-2).');
	await expect(page.getByRole('button', { name: /^Hand in (now|instead)$/ })).toBeDisabled();
	await expectAccessible(page, 'another assignment');
	await alert.getByRole('checkbox').check();
	await expect(page.getByRole('button', { name: /^Hand in (now|instead)$/ })).toBeEnabled();
	await page.getByLabel('Assignment at the portal').selectOption({ index: 0 });
	await expect(alert).toHaveCount(0);

	await page.goto(MAIL_PAGE);
	const letter = page.getByRole('row').filter({ hasText: 'Nadia Ferreyra' });
	await expect(letter).toContainText('maren@alderfen.example');
	await expect(letter).toContainText('I answered the second first.');
	const link = (await letter.getByRole('link').getAttribute('href'))!;
	const sent = Buffer.from(await (await fetch(MAIL_PAGE + link)).arrayBuffer());
	expect(createHash('sha256').update(sent).digest('hex')).toBe(sha256);
	await page.goto(PORTAL);
	await expect(page.getByRole('row').filter({ hasText: 'From the gauge at the lock.' })).toHaveCount(1);
	await expect(page.getByRole('row', { name: first })).toContainText('replaced by');
});

test('a timed session runs out by the second; a grace period is late but taken', async ({
	page,
	browser
}) => {
	const teacher = await (await browser.newContext()).newPage();
	await signIn(teacher, 'Maren Oskamp');
	const href = (await teacher
		.getByRole('row', { name: 'Timed quiz' })
		.getByRole('link', { name: 'Rule sheet' })
		.getAttribute('href'))!;
	const id = /assignments\/([0-9a-f-]{36})/.exec(href)![1]!;
	// The teacher's own view of it: what the students are told, in one line.
	await teacher.goto(href);
	await expect(
		teacher.getByText(/Write until .*, then photograph and hand in by .*, taken for 5 minutes more/)
	).toBeVisible();
	await expectAccessible(teacher, 'rule sheet of a timed session');
	let version = 1;
	/** Times count in seconds from now. */
	const set = async (workUntil: number, due: number, more: Partial<RuleSheet> = {}) => {
		const at = (seconds: number) => `${new Date(Date.now() + seconds * 1000).toISOString().slice(0, 19)}Z`;
		const ruleSheet = {
			title: 'Timed quiz: Reading a Hydrograph',
			questions: [{ label: '1' }],
			workUntil: at(workUntil),
			due: at(due),
			...more
		};
		const answer = await teacher.request.put(`/api/assignments/${id}`, { data: { version, ruleSheet } });
		expect(answer.ok()).toBe(true);
		version++;
	};
	const began = Date.now();
	await set(600, 1500);
	await signInAs(page, 'piet', 'sandbank');
	await openPacket(page, 'Timed quiz');
	await expectLeft(page, began + 600_000, '', ' to write');
	await bringIn(page, [photographs('rain-gauge')[0]!]);
	await expect(stripImages(page)).toHaveCount(1);
	await task(page, 'Map');
	await page
		.locator('[data-sheet]')
		.first()
		.click({ position: { x: 200, y: 60 } });
	await expect(finding(page, 'allAnswered')).toHaveAttribute('data-level', 'clear');
	await task(page, 'Hand in');
	await proof(page);

	await set(3, 600);
	await expect(page.getByRole('timer')).toHaveText(/to hand in$/);
	await set(-5, 4);
	await expect(page.getByRole('timer')).toHaveText(/late$/);
	await expect(finding(page, 'due')).toHaveAttribute('data-level', 'blocks');
	await expect(page.getByRole('button', { name: 'Hand in now' })).toBeDisabled();

	const lateSince = Date.now() - 30_000;
	await set(-900, -30, { grace: 10 });
	await expectLeft(page, lateSince + 600_000, 'late; taken for ', ' more');
	await expect(finding(page, 'due')).toHaveAttribute('data-level', 'look');
	await expectAccessible(page, 'in the grace period');
	await page.getByRole('button', { name: 'Hand in now' }).click();
	await expect(page.getByRole('heading', { name: 'Received, late' })).toBeVisible();
	await teacher.close();
});

test('a file that is too large is made to fit in one click, and weighs what was foretold', async ({
	page,
	browser
}) => {
	const teacher = await browser.newPage();
	await signIn(teacher, 'Maren Oskamp');
	await teacher.getByRole('link', { name: 'Write a rule sheet' }).click();
	await teacher.waitForLoadState('networkidle').catch(() => undefined);
	await teacher.getByRole('textbox', { name: 'Title' }).fill('Worksheet 5: The Narrow Pipe');
	await teacher
		.getByLabel(/At most, in megabytes|Largest file|MB/)
		.first()
		.fill('0.12');
	await teacher.getByRole('button', { name: 'Set this assignment' }).click();
	await teacher.waitForURL(/assignments\/[0-9a-f-]{36}$/);
	await teacher.close();

	await signInAs(page, 'amara', 'sandbank');
	await openPacket(page, 'The Narrow Pipe');
	await bringIn(page, photographs('gauging-the-lode').slice(0, 2));
	await expect(stripImages(page)).toHaveCount(2);
	await expect(finding(page, 'fileSize')).toContainText('kept less finely');
	await finding(page, 'fileSize').getByRole('button').click();
	await expect(finding(page, 'fileSize')).toHaveAttribute('data-level', 'clear');
	const told = /About (\d+) KB/.exec((await finding(page, 'fileSize').textContent())!)![1]!;
	await task(page, 'Hand in');
	await page.getByRole('button', { name: 'Save as PDF' }).click({ trial: true });
	const download = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Save as PDF' }).click();
	const bytes = readFileSync(await (await download).path()).length;
	expect(bytes).toBeLessThanOrEqual(120_000);
	expect(Math.abs(bytes / 1000 / Number(told) - 1)).toBeLessThan(0.05);
});

test('a letter whose answer is lost is not sent again: a person decides; and the proof of it can be checked', async ({
	page
}) => {
	await answerRainGauge(page, 'piet');
	await task(page, 'Hand in');
	await proof(page);
	expect((await fetch(`${MAIL_PAGE}/lose`, { method: 'POST', redirect: 'manual' })).status).toBe(303);
	await page.getByRole('radio', { name: 'Mail' }).check();
	await page.getByRole('button', { name: /^Hand in/ }).click();
	await expect(page.getByRole('heading', { name: 'Probably sent' })).toBeVisible();
	await expectAccessible(page, 'probably sent');
	const letters = async () => (await (await fetch(MAIL_PAGE)).text()).split('Piet Zwartveen:').length;
	const before = await letters();
	const download = page.waitForEvent('download');
	await page.getByRole('link', { name: 'proof of when it was handed in' }).first().click();
	const path = await (await download).path();
	await page.getByRole('button', { name: 'It arrived' }).click();
	await expect(page.getByRole('heading', { name: 'Passed on by mail' })).toBeVisible();
	expect(await letters()).toBe(before);

	await page.goto('/proof');
	await page.getByLabel(/^The proof/).setInputFiles(path);
	await expect(page.getByText('This server signed it')).toBeVisible();
	await expect(page.getByText('Worksheet 1: Reading the Rain Gauge, HY-2')).toBeVisible();
	await page.getByLabel(/^Compare a file/).setInputFiles(path);
	await expect(page.getByText('This is another file')).toBeVisible();
	await expectAccessible(page, 'a proof that was checked');
	const forged = JSON.parse(readFileSync(path, 'utf8')) as { statement: string };
	const buffer = Buffer.from(
		JSON.stringify({ ...forged, statement: forged.statement.replace('W1', 'W2') + ' ' })
	);
	await page
		.getByLabel(/^The proof/)
		.setInputFiles({ name: 'forged.json', mimeType: 'application/json', buffer });
	await expect(page.getByText('did not sign it')).toBeVisible();
});
