import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { startMail, type RunningMail } from '../../standins/mail/mail';
import { startProvider, type RunningProvider } from '../../standins/provider/provider';
import { startOnEmptyFolder, type RunningApp } from '../support/start';
import { bringIn, expectAccessible, finding, photographs, stripImages, task } from './steps';

test.describe.configure({ mode: 'serial' });

let server: RunningApp;
let mail: RunningMail;
let provider: RunningProvider;
let course = '';
const handedIn = mkdtempSync(join(tmpdir(), 'membrana-handed-in-'));

test.beforeAll(async () => {
	mail = await startMail({ folder: mkdtempSync(join(tmpdir(), 'membrana-mail-')), port: 0, pagePort: 0 });
	provider = await startProvider({
		port: 0,
		client: 'membrana',
		people: [{ sub: 'S1003', name: 'Given2 Amsel-2' }]
	});
	server = await startOnEmptyFolder('serve', { MEMBRANA_READER: 'on' });
});
test.afterAll(async () => {
	await server.kill('SIGTERM');
	await mail.close();
	await provider.close();
});

const alive = (page: Page) => page.waitForLoadState('networkidle').catch(() => undefined);

/** Thirty students with faults among them, in Windows-1252, as an old program saves it. */
function list(): Buffer {
	const rows = Array.from(
		{ length: 30 },
		(_, i) => `S${1001 + i};Amsel-${i};Given${i};s${i}@alderfen.example`
	);
	rows[4] = 'S1005;Vartiäinen;Zoë;zoe@alderfen.example';
	rows[7] = 'S1008;=1+1;Formula;f@alderfen.example';
	rows[11] = 'S1001;Twice;Number;twice@alderfen.example';
	rows[20] = 'S1021;Amsel-20;Given20;not an address';
	return Buffer.from(['Student ID;Surname;First name;E-mail', ...rows].join('\r\n'), 'latin1');
}

test('an empty folder answers nothing but its one-time address, which makes the first administrator', async ({
	page
}) => {
	await page.goto(`${server.address}/packets/x`);
	await expect(page.getByRole('heading', { name: 'Open the address that was printed' })).toBeVisible();
	expect((await page.request.get(`${server.address}/api/packets/x`)).status()).toBe(503);
	const path = /\/first\/[\w-]+/.exec(server.output())![0];

	await page.goto(server.address + path);
	await alive(page);
	await page.getByLabel('Its name').fill('Alder Fen Field School');
	await page.getByLabel('Given name').fill('Wessel');
	await page.getByLabel('Family name').fill('Hartkamp');
	await page.getByLabel('Sign-in name').fill('wessel');
	await page.getByLabel('Password', { exact: true }).fill('wessel2026');
	await page.getByRole('button', { name: 'Set up the school' }).click();
	await expect(page.getByText('among the first that somebody would guess')).toBeVisible();
	await expectAccessible(page, 'first start');
	// SHOT first
	await page.getByLabel('Password', { exact: true }).fill('towpath lantern osier');
	await page.getByRole('button', { name: 'Set up the school' }).click();
	await expect(page.getByRole('heading', { name: 'Alder Fen Field School' })).toBeVisible();

	const again = await page.context().browser()!.newPage();
	expect((await again.goto(server.address + path))!.status()).toBe(404);
	await again.close();
});

test('an administrator sets mail up and tries it, makes a course, and brings in its list with faults in it', async ({
	page
}) => {
	await signIn(page, 'wessel', 'towpath lantern osier');
	await page.getByRole('banner').getByRole('link', { name: 'School' }).click();
	await page.getByRole('link', { name: 'Settings' }).click();
	await alive(page);
	await page.getByLabel('Mail server').fill('smtp://127.0.0.1:1');
	await page.getByLabel('Letters come from').fill('hand-in@alderfen.example');
	await page.getByRole('button', { name: 'Save and try it' }).first().click();
	await expect(page.getByText('You have no mail address of your own')).toBeVisible();
	await page.getByLabel('Mail server').fill(mail.server);
	await page.getByLabel('A folder on this machine').fill(handedIn);
	await page.getByLabel('A packet takes at most (MB)').fill('all of it');
	await page.getByRole('button', { name: 'Save', exact: true }).click();
	await expect(
		page.getByText('What a packet takes: “all of it” is no number of megabytes of at least 20.')
	).toBeVisible();
	await page.getByLabel('A packet takes at most (MB)').fill('300');
	await page.getByLabel('Issuer').fill(provider.issuer);
	await page.getByLabel('What it calls this Membrana').fill('membrana');
	const tryIt = (what: string) =>
		page.getByRole('group', { name: what }).getByRole('button', { name: 'Save and try it' }).click();
	await tryIt('Space');
	await expect(page.getByText('are free beyond the reserve')).toBeVisible();
	await tryIt('Folder');
	await expect(page.getByText('A file was written there, read, and taken away again.')).toBeVisible();
	await tryIt('Identity provider');
	await expect(page.getByText(`The identity provider ${provider.issuer} answers.`)).toBeVisible();
	await page.getByRole('button', { name: 'Save', exact: true }).click();
	await expect(page.getByText('Saved.')).toBeVisible();
	await expectAccessible(page, 'settings of a school');

	await page.getByRole('link', { name: 'Courses' }).click();
	await alive(page);
	await page.getByLabel('Code').fill('HY-2');
	await page.getByLabel('Title').fill('Stream Hydrology');
	await page.getByLabel('Time zone').fill('Europe/Nowhere');
	await page.getByRole('button', { name: 'Make the course' }).click();
	await expect(page.getByText('There is no time zone “Europe/Nowhere”.')).toBeVisible();
	await page.getByLabel('Code').fill('HY-2');
	await page.getByLabel('Title').fill('Stream Hydrology');
	await page.getByLabel('Time zone').fill('Europe/Amsterdam');
	await page.getByLabel('Language', { exact: true }).fill('nl');
	await page.getByRole('button', { name: 'Make the course' }).click();
	await expect(page.getByRole('heading', { name: 'HY-2 Stream Hydrology' })).toBeVisible();
	course = page.url();
	await alive(page);

	const roster = { name: 'list.csv', mimeType: 'text/csv', buffer: list() };
	await page.getByLabel('Roster', { exact: true }).setInputFiles(roster);
	await expect(page.getByText('3 rows cannot be used')).toBeVisible();
	await expect(page.getByText('line 9 “=1+1” is a formula, and no name.')).toBeVisible();
	await expect(page.getByText('line 13 The number S1001 stands in line 2 already.')).toBeVisible();
	await expect(page.getByText('line 22 “not an address” is not a mail address.')).toBeVisible();
	await expect(page.getByText('Zoë Vartiäinen, S1005')).toBeVisible();
	await expectAccessible(page, 'preview of a roster');
	// SHOT preview
	await page.getByRole('button', { name: 'Take it over' }).click();
	await expect(page.getByText('Done: 27 new, 0 changed, 0 left.')).toBeVisible();
	await expect(page.getByRole('heading', { name: '27 students, 27 without a way in yet' })).toBeVisible();
	// SHOT course

	await page.getByLabel('Roster', { exact: true }).setInputFiles(roster);
	await expect(page.getByText('Nothing would change')).toBeVisible();
});

test('a teacher comes in by a letter, a student by a slip, and a packet is brought in and handed in', async ({
	page
}) => {
	await signIn(page, 'wessel', 'towpath lantern osier');
	await page.goto(`${server.address}/school/people`);
	await alive(page);
	await page.getByLabel('Given name').fill('Maren');
	await page.getByLabel('Family name').fill('Oskamp');
	await page.getByLabel('Sign-in name').fill('maren');
	await page.getByLabel('Mail address').fill('maren@alderfen.example');
	await page.getByRole('button', { name: 'Add', exact: true }).click();
	await expect(page.getByText('Maren Oskamp is here now.')).toBeVisible();
	await expectAccessible(page, 'people of a school');
	// SHOT people
	const row = page.getByRole('row', { name: /Oskamp, Maren/ });
	await row.getByRole('button', { name: 'Send a letter' }).click();
	await expect(page.getByText('A letter to maren@alderfen.example is on its way.')).toBeVisible();
	await page.goto(course);
	await alive(page);
	await page.getByLabel('Sign-in name, mail address or number').fill('maren');
	await page.getByLabel('As', { exact: true }).selectOption('teacher');
	await page.getByRole('button', { name: 'Add to the course' }).click();
	await expect(page.getByRole('row', { name: /Oskamp, Maren/ })).toBeVisible();

	const letter = await arrived(() => mail.letters());
	const link = /http\S+\/come-in\/\S+/.exec(letter.text)![0];
	await page.context().clearCookies();
	await page.goto(link);
	await alive(page);
	await page.getByLabel('Password', { exact: true }).fill('reedbed kingfisher oar');
	await page.getByRole('button', { name: 'Come in' }).click();
	await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
	expect((await page.request.get(link)).status()).toBe(404);
	expect((await page.request.get(`${server.address}/school`)).status()).toBe(404);

	await page.goto(`${server.address}/assignments/new`);
	await alive(page);
	await page
		.getByLabel('Your instructions')
		.fill(
			'Worksheet 3: Gauging the Lode\nOne PDF of at most 4 pages, due 14 March 2031 at 16:30.\n1. Section [4 marks]\n2. Discharge [6 marks]'
		);
	await page.getByRole('button', { name: 'Find the rules in it' }).click();
	await page.getByRole('button', { name: 'Put 5 rules into the sheet' }).click();
	await page.getByRole('button', { name: 'Set this assignment' }).click();
	await page.waitForURL(/assignments\/[0-9a-f-]{36}$/);

	await page.goto(course);
	await alive(page);
	await page.getByLabel('Zoë Vartiäinen').check();
	const download = page.waitForEvent('download');
	await page.getByRole('button', { name: 'Print 1 slip' }).click();
	const slips = execFileSync('pdftotext', ['-layout', await (await download).path(), '-'], {
		encoding: 'utf8'
	});
	expect(slips).toContain('Zoë Vartiäinen');
	const code = /[0-9A-Z]{4}-[0-9A-Z]{4}-[0-9A-Z]{4}/.exec(slips)![0];

	await page.context().clearCookies();
	await page.goto(`${server.address}/sign-in`);
	await page.getByRole('link', { name: 'I have a slip' }).click();
	await page.getByLabel('The code on it').fill(code.toLowerCase().replaceAll('-', ' '));
	await page.getByRole('button', { name: 'Go on' }).click();
	await expect(page.getByRole('heading', { name: 'Zoë Vartiäinen' })).toBeVisible();
	await expectAccessible(page, 'coming in');
	await alive(page);
	await page.getByLabel('Password', { exact: true }).fill('waterlily punt sluice');
	await page.getByRole('button', { name: 'Come in' }).click();
	await page.getByRole('button', { name: 'Begin with it' }).click();
	await expect(page.getByRole('heading', { name: 'Bring in your pages' })).toBeVisible();
	await expect(page.getByText('At most 4 pages').or(page.getByText('at most 4 pages')).first()).toBeVisible();

	await bringIn(page, photographs('rain-gauge'));
	await expect(stripImages(page)).toHaveCount(2);
	await finding(page, 'allAnswered')
		.getByRole('button', { name: 'Place 2 seams as read off the pages' })
		.click();
	await expect(finding(page, 'allAnswered')).toHaveAttribute('data-level', 'clear');
	await task(page, 'Hand in');
	await page.getByRole('button', { name: 'Make the file and look at it' }).click();
	await expect(page.getByRole('img', { name: 'Page 2 of the file' })).toBeVisible();
	const sha256 = (await page.locator('.hash code').textContent())!;
	await page.getByRole('button', { name: /^Hand in/ }).click();
	await expect(page.locator('.receipt .large')).toBeVisible();
	const names = readdirSync(handedIn, { recursive: true, encoding: 'utf8' });
	const pdf = join(
		handedIn,
		names.find((name) => name.endsWith('.pdf'))!
	);
	expect(createHash('sha256').update(readFileSync(pdf)).digest('hex')).toBe(sha256);
	// What readers aloud read it in is the course's language.
	expect(readFileSync(pdf, 'latin1')).toContain('/Lang (nl)');
});

test('another student comes in through the identity provider', async ({ page }) => {
	await page.goto(`${server.address}/sign-in`);
	await expectAccessible(page, 'sign in with a provider');
	await page.getByRole('link', { name: 'Sign in through Alder Fen Field School' }).click();
	await page.getByRole('link', { name: 'Given2 Amsel-2 (S1003)' }).click();
	await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
	await expect(page.getByRole('row', { name: 'Worksheet 3: Gauging the Lode' })).toBeVisible();
	await expect(page.getByRole('link', { name: 'Given2 Amsel-2' })).toBeVisible();
});

test('a person changes the password and signs out everywhere else', async ({ page, browser }) => {
	const elsewhere = await browser.newPage();
	await signIn(elsewhere, 'wessel', 'towpath lantern osier');
	await signIn(page, 'wessel', 'towpath lantern osier');
	await page.getByRole('link', { name: 'Wessel Hartkamp' }).click();
	await alive(page);
	await page.getByLabel('The one you have now').fill('towpath lantern osier');
	await page.getByLabel('The new one').fill('towpath lantern willow');
	await page.getByRole('button', { name: 'Change the password' }).click();
	await expect(page.getByText('The password is changed.')).toBeVisible();
	await expectAccessible(page, 'a person’s own page');
	await elsewhere.goto(`${server.address}/school`);
	await expect(elsewhere).toHaveURL(/sign-in/);
	await elsewhere.close();
	await page.goto(`${server.address}/school/deeds`);
	await expect(
		page.getByText('Set up Alder Fen Field School and became its first administrator')
	).toBeVisible();
	await expect(page.getByText('Brought in the roster of HY-2: 27 new, 0 changed, 0 left')).toBeVisible();
});

async function signIn(page: Page, login: string, password: string): Promise<void> {
	await page.goto(`${server.address}/sign-in`);
	await alive(page);
	await page.getByLabel('Sign-in name').fill(login);
	await page.getByLabel('Password', { exact: true }).fill(password);
	await page.getByRole('button', { name: 'Sign in', exact: true }).click();
	await page.waitForURL(`${server.address}/`);
	await alive(page);
}

async function arrived<T>(look: () => Promise<readonly T[]>): Promise<T> {
	for (let i = 0; i < 200; i++) {
		const [first] = await look();
		if (first) return first;
		await new Promise((done) => setTimeout(done, 100));
	}
	throw new Error('No letter arrived.');
}
