import { expect, test } from '@playwright/test';
import { feed, type FedPage } from '../../bench/stacks/feed';
import { hands } from '../../demo/generator/hands';
import type { Block } from '../../demo/generator/writtenPage';
import { STUDENTS } from '../../demo/school';
import { expectAccessible, openPacket, signIn, signInAs } from './steps';

const ASSIGNMENT = 'Worksheet 3: Gauging the Lode';

const LINES = [
	'the lode runs slower near the reeds',
	'so we took three verticals here',
	'and added what each of them gave.',
	'The bed is soft and the rod sinks'
];

/** Two packets of two pages, the second without a name; of people who have no packet in another test. */
async function pile(): Promise<Buffer> {
	const packets = [9, 10].map((who, i): FedPage[] =>
		[1, 2].map((number): FedPage => {
			const { given, family } = STUDENTS[who]!;
			return {
				lies: 0,
				spec: {
					seed: 60 + 10 * i + number,
					hand: hands()[i === 0 ? 1 : 5]!,
					paper: 'A4',
					ruling: i === 0 ? 'ruled' : 'plain',
					ink: i === 0 ? [28, 34, 82] : [30, 30, 34],
					...(i === 0 ? { name: `${given} ${family}` } : {}),
					pageNumber: `${number}/2`,
					blocks: [1, 2].flatMap((k): Block[] => [
						{ kind: 'label', text: `Q${2 * (number - 1) + k}`, at: 'margin' },
						{ kind: 'text', lines: [...LINES, ...LINES, ...LINES] }
					])
				}
			};
		})
	);
	return Buffer.from(await feed(packets.flat(), 9));
}

test('a teacher cuts the class’s stack by keyboard, and a student finds the packet', async ({ page }) => {
	test.setTimeout(240_000);
	const bytes = await pile();
	await signIn(page, 'Maren Oskamp');
	await page.getByRole('row', { name: ASSIGNMENT }).getByRole('link').first().click();
	await page.waitForURL('**/class');
	await page.getByRole('button', { name: 'Bring in the class’s stack' }).click();
	await page.waitForURL('**/stacks/**');
	await page.waitForLoadState('networkidle').catch(() => undefined);
	await expectAccessible(page, 'an empty stack');
	await page
		.getByLabel('Files of the stack')
		.setInputFiles({ name: 'pile.pdf', mimeType: 'application/pdf', buffer: bytes });
	const heading = page.getByRole('heading', { level: 1 });
	await expect(heading).toHaveText('2 packets from 4 pages', { timeout: 200_000 });
	const named = page.getByRole('region', { name: /Packet 1/ });
	await expect(named).toContainText(`${STUDENTS[9]!.family}, ${STUDENTS[9]!.given}`);
	await expectAccessible(page, 'a stack that was cut');

	// The one without a name, by keyboard alone.
	await page.keyboard.press('n');
	await page.keyboard.press('w');
	await expect(page.getByRole('dialog', { name: 'Whose packet is it?' })).toBeVisible();
	const field = page.getByRole('combobox', { name: 'Type a few letters of the name' });
	await expect(field).toBeFocused();
	await page.keyboard.type(STUDENTS[10]!.family.slice(0, 4));
	await page.keyboard.press('ArrowDown');
	await page.keyboard.press('Enter');
	const second = page.getByRole('region', { name: /Packet 2/ });
	await expect(second).toContainText(`${STUDENTS[10]!.family}, ${STUDENTS[10]!.given}`);
	await page.keyboard.press('Control+z');
	await expect(second).not.toContainText(STUDENTS[10]!.family);
	await page.keyboard.press('Control+Shift+z');
	await expect(second).toContainText(STUDENTS[10]!.family);
	// The chosen one, then the other.
	await page.keyboard.press('Enter');
	await expect(page.getByRole('link', { name: 'Open the packet' })).toHaveCount(1);
	await page.keyboard.press('ArrowUp');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('link', { name: 'Open the packet' })).toHaveCount(2);

	await page
		.getByRole('button', { name: 'Sign out' })
		.or(page.getByRole('link', { name: 'Sign out' }))
		.click();
	await signInAs(page, STUDENTS[9]!.login, STUDENTS[9]!.password);
	await openPacket(page, ASSIGNMENT);
	await expect(page.locator('.strip .row img')).toHaveCount(2, { timeout: 30_000 });
});
