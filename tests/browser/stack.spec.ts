import { expect, test } from '@playwright/test';
import { feed, type FedPage } from '../../bench/stacks/feed';
import { hands } from '../../demo/generator/hands';
import type { Block } from '../../demo/generator/writtenPage';
import { STUDENTS } from '../../demo/school';
import { afterWork, expectAccessible, openPacket, signIn, signInAs } from './steps';

const ASSIGNMENT = 'Worksheet 3: Gauging the Lode';

const LINES = [
	'the lode runs slower near the reeds',
	'so we took three verticals here',
	'and added what each of them gave.',
	'The bed is soft and the rod sinks'
];

/** How somebody's two pages look. */
interface Writer {
	/** Index among the school's students. */
	readonly who: number;
	readonly named: boolean;
	readonly ruling: 'ruled' | 'plain' | 'squared';
	/** Index among the demo's hands. */
	readonly hand: number;
	/** Question labels, a page each. */
	readonly questions: readonly (readonly number[])[];
}

function pagesOf({ who, named, ruling, hand, questions }: Writer, k: number): FedPage[] {
	const { given, family } = STUDENTS[who]!;
	return questions.map((here, i): FedPage => ({
		lies: 0,
		spec: {
			seed: 61 + 10 * k + i,
			hand: hands()[hand]!,
			paper: 'A4',
			ruling,
			ink: k % 2 === 0 ? [28, 34, 82] : [30, 30, 34],
			...(named ? { name: `${given} ${family}` } : {}),
			pageNumber: `${i + 1}/${questions.length}`,
			blocks: here.flatMap((q): Block[] => [
				{ kind: 'label', text: `Q${q}`, at: 'margin' },
				{ kind: 'text', lines: [...LINES, ...LINES, ...LINES] }
			])
		}
	}));
}

const pile = async (writers: readonly Writer[]) => Buffer.from(await feed(writers.flatMap(pagesOf), 9));

test('a teacher cuts the class’s stack by keyboard, and a student finds the packet', async ({ page }) => {
	// Of people who have no packet in another test; the second without a name.
	const questions = [
		[1, 2],
		[3, 4]
	];
	const bytes = await pile([
		{ who: 9, named: true, ruling: 'ruled', hand: 1, questions },
		{ who: 10, named: false, ruling: 'plain', hand: 5, questions }
	]);
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
	await afterWork(page, heading.filter({ hasText: 'packets from' }));
	await expect(heading).toHaveText('2 packets from 4 pages');
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
	await expect(page.locator('.strip .row img')).toHaveCount(2);
});

test('a class’s stack becomes eight packets, and all of them are handed in', async ({ page }) => {
	// All who have no packet of this assignment in another test.
	const present = [1, 4, 5, 6, 7, 8, 9, 10];
	const rulings = ['ruled', 'squared', 'plain'] as const;
	const bytes = await pile(
		present.map((who, i) => ({
			who,
			named: true,
			ruling: rulings[i % 3]!,
			hand: i % hands().length,
			questions: [[1, 2], [3]]
		}))
	);
	await signIn(page, 'Maren Oskamp');
	await page.getByRole('row', { name: 'Levelling the Weir' }).getByRole('link', { name: 'Board' }).click();
	await page.waitForURL('**/class');
	await page.waitForLoadState('networkidle').catch(() => undefined);
	await page.getByRole('button', { name: /class’s stack/ }).click();
	await page.waitForURL('**/stacks/**');
	await page.waitForLoadState('networkidle').catch(() => undefined);
	await page
		.getByLabel('Files of the stack')
		.setInputFiles({ name: 'the pile.pdf', mimeType: 'application/pdf', buffer: bytes });
	const heading = page.getByRole('heading', { level: 1 });
	await afterWork(page, heading.filter({ hasText: 'packets from' }));
	await expect(heading).toHaveText('8 packets from 16 pages');
	await page.getByRole('button', { name: 'Make the 8 that are sure' }).click();
	await expect(page.getByRole('link', { name: 'Open the packet' }).first()).toBeVisible();

	await page.getByRole('link', { name: 'Board' }).click();
	await page.waitForURL('**/class');
	await expect(page.getByText(/\d+\s+packets\s+carry\s+questions/)).toBeVisible();
	const people = present.map((who) => STUDENTS[who]!);
	const rowOf = ({ given, family }: (typeof people)[number]) =>
		page.getByRole('row').filter({ hasText: `${family}, ${given}` });
	for (const person of people) {
		await page.getByRole('checkbox', { name: `Mark ${person.given} ${person.family}` }).check();
	}
	await page.getByRole('button', { name: 'Place what was read (8)' }).click();
	await expect(page.getByText('Placed: 8 of 8.')).toBeVisible();
	await page.getByRole('button', { name: 'Hand in the 8 that are ready' }).click();
	await expect(page.getByText('Handed in: 8 of 8.')).toBeVisible();
	for (const person of people) {
		await expect(rowOf(person)).toHaveAttribute('data-standing', 'handed-in');
	}
});
