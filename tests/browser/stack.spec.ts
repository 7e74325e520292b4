import { expect, test } from '@playwright/test';
import { samplePacket } from '../../bench/packets';
import { feed, type FedPage } from '../../bench/stacks/feed';
import { STUDENTS } from '../../demo/school';
import { expectAccessible, openPacket, signIn, signInAs } from './steps';

const ASSIGNMENT = 'Worksheet 3: Gauging the Lode';

/** Two people's packets, the second without a name. */
async function pile(): Promise<{ bytes: Buffer; pages: number[] }> {
	const roster = STUDENTS.map((s) => `${s.given} ${s.family}`);
	const packets = [2, 3].map((who, i): FedPage[] => {
		const inClass = {
			person: roster[who]!,
			roster,
			questions: [{ label: '1' }, { label: '2' }, { label: '3' }, { label: '4' }],
			named: i === 0 ? 'all' : 'none',
			length: 0.3
		} as const;
		const packet = samplePacket(7300 + i, { hands: 'demo' }, inClass);
		return packet.pages.map(({ spec }) => ({ spec, lies: 0 }));
	});
	return { bytes: Buffer.from(await feed(packets.flat(), 9)), pages: packets.map((p) => p.length) };
}

test('a teacher cuts the class’s stack by keyboard, and a student finds the packet', async ({ page }) => {
	test.setTimeout(240_000);
	const { bytes, pages } = await pile();
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
	await expect(heading).toHaveText(`2 packets from ${pages[0]! + pages[1]!} pages`, { timeout: 200_000 });
	const named = page.getByRole('region', { name: /Packet 1/ });
	await expect(named).toContainText(`${STUDENTS[2]!.family}, ${STUDENTS[2]!.given}`);
	await expectAccessible(page, 'a stack that was cut');

	// The one without a name, by keyboard alone.
	await page.keyboard.press('n');
	await page.keyboard.press('w');
	await expect(page.getByRole('dialog', { name: 'Whose packet is it?' })).toBeVisible();
	const field = page.getByRole('combobox', { name: 'Type a few letters of the name' });
	await expect(field).toBeFocused();
	await page.keyboard.type(STUDENTS[3]!.family.slice(0, 4));
	await page.keyboard.press('ArrowDown');
	await page.keyboard.press('Enter');
	const second = page.getByRole('region', { name: /Packet 2/ });
	await expect(second).toContainText(`${STUDENTS[3]!.family}, ${STUDENTS[3]!.given}`);
	await page.keyboard.press('Control+z');
	await expect(second).not.toContainText(STUDENTS[3]!.family);
	await page.keyboard.press('Control+Shift+z');
	await expect(second).toContainText(STUDENTS[3]!.family);
	await page.keyboard.press('Shift+Enter');
	await expect(page.getByRole('link', { name: 'Open the packet' })).toHaveCount(2);

	await page
		.getByRole('button', { name: 'Sign out' })
		.or(page.getByRole('link', { name: 'Sign out' }))
		.click();
	await signInAs(page, STUDENTS[2]!.login, STUDENTS[2]!.password);
	await openPacket(page, ASSIGNMENT);
	await expect(page.locator('.strip .row img')).toHaveCount(pages[0]!, { timeout: 30_000 });
});
