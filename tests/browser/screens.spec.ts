import { expect, test, type Page } from '@playwright/test';
import { axe, signIn } from './steps';

// Every main screen, narrow to wide, by day and by night: nothing that axe finds, nothing cut off, nothing sideways.

const SIZES = [
	{ width: 320, height: 640 },
	{ width: 390, height: 844 },
	{ width: 1280, height: 800 },
	{ width: 1440, height: 900 },
	{ width: 1920, height: 1080 }
] as const;
/** Of these, what axe looks at: the others lie between, and it takes long. */
const LOOKED_AT: readonly number[] = [320, 1280, 1920];
const BY_NIGHT = SIZES.filter(({ width }) => width === 1280);

/** Texts that are cut where they stand, with how they are found. */
function cutTexts(page: Page): Promise<string[]> {
	return page.evaluate(() => {
		const cut: string[] = [];
		for (const element of document.querySelectorAll<HTMLElement>('body *')) {
			const own = [...element.childNodes].some((n) => n.nodeType === 3 && n.textContent!.trim() !== '');
			if (
				!own ||
				element.closest(
					'.out-of-sight, .bx--visually-hidden, .bx--search > .bx--label, #svelte-announcer, [aria-hidden="true"], svg, select'
				)
			)
				continue;
			const style = getComputedStyle(element);
			if (style.visibility === 'hidden' || element.offsetParent === null) continue;
			// What is cut of itself, or reaches out of what hides it.
			for (let box: HTMLElement | null = element; box && box !== document.body; box = box.parentElement) {
				const { overflowX, display } = getComputedStyle(box);
				if (display === 'inline' || (overflowX !== 'hidden' && overflowX !== 'clip')) continue;
				const [a, b] = [element.getBoundingClientRect(), box.getBoundingClientRect()];
				const isCut = box === element ? box.scrollWidth > box.clientWidth + 1 : a.right > b.right + 1;
				if (isCut)
					cut.push(
						`${element.tagName.toLowerCase()}.${element.className}: ${element.textContent!.trim().slice(0, 60)}`
					);
				break;
			}
		}
		return cut;
	});
}

/** What is written or pressed in the bar at the top and lies over something else there. */
function overlaps(page: Page): Promise<string[]> {
	return page.evaluate(() => {
		const shown = [...document.querySelectorAll<HTMLElement>('header :is(a, button, [role="timer"])')]
			.map((element) => ({ text: element.textContent!.trim(), box: element.getBoundingClientRect() }))
			.filter(({ box }) => box.width > 0 && box.height > 0);
		return shown.flatMap((a, i) =>
			shown
				.slice(i + 1)
				.filter(
					(b) =>
						Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left) > 1 &&
						Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top) > 1
				)
				.map((b) => `“${a.text}” lies over “${b.text}”`)
		);
	});
}

/** Makes every text half as long again, as another language may, but for what people wrote themselves. */
function lengthen(page: Page): Promise<void> {
	return page.evaluate(() => {
		const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
		const texts: Text[] = [];
		while (walker.nextNode()) texts.push(walker.currentNode as Text);
		for (const text of texts) {
			const words = text.data.trim();
			if (words.length < 3 || text.parentElement!.closest('.title, script, style, svg, option')) continue;
			text.data = `${text.data.trimEnd()} ${words.slice(0, Math.ceil(words.length / 2) - 1)}${text.data.match(/\s*$/)![0]}`;
		}
	});
}

/** Waits until what moves or fades at a new size or by night is at its end: a slow machine is not at it for long. */
function atRest(page: Page): Promise<void> {
	return page.evaluate(async () => {
		const frame = () => new Promise((done) => requestAnimationFrame(done));
		await frame();
		await frame();
		const moving = document.getAnimations().filter((one) => one instanceof CSSTransition);
		await Promise.allSettled(moving.map((one) => one.finished));
	});
}

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

/** What axe finds; by night only colours are others. */
async function violationsAt(page: Page, width: number, night: boolean) {
	if (!LOOKED_AT.includes(width)) return [];
	const looking = night ? axe(page).withRules(['color-contrast']) : axe(page).withTags(TAGS);
	return (await looking.analyze()).violations;
}

async function look(page: Page, name: string): Promise<string[]> {
	const found: string[] = [];
	for (const night of [false, true]) {
		await page.evaluate((on) => document.documentElement.setAttribute('theme', on ? 'g100' : 'g10'), night);
		for (const size of night ? BY_NIGHT : SIZES) {
			await page.setViewportSize(size);
			await atRest(page);
			const at = `${name} ${size.width}${night ? ' by night' : ''}`;
			for (const v of await violationsAt(page, size.width, night))
				found.push(
					`${at}: ${v.id}: ${v.nodes
						.map((n) => `${n.target.join(' ')} ${n.any.map((a) => a.message).join()}`)
						.slice(0, 4)
						.join(' | ')}`
				);
			const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
			if (wide > 0) found.push(`${at}: ${wide} pixels too wide`);
			for (const text of await cutTexts(page)) found.push(`${at}: cut: ${text}`);
			for (const pair of await overlaps(page)) found.push(`${at}: ${pair}`);
		}
	}
	await page.evaluate(() => document.documentElement.setAttribute('theme', 'g10'));
	await page.setViewportSize({ width: 1280, height: 800 });
	await lengthen(page);
	for (const text of await cutTexts(page)) {
		// The assignment's own title gives way to what is needed, and shows on hover.
		if (!text.startsWith('h1')) found.push(`${name}, half as long again: cut: ${text}`);
	}
	return found;
}

test('a student’s screens', async ({ page }) => {
	const found: string[] = [];
	await page.goto('/sign-in');
	found.push(...(await look(page, 'sign in')));
	await signIn(page, 'Ilka Brandsma');
	found.push(...(await look(page, 'desk')));
	await page.goto('/');
	await page.getByRole('row', { name: 'Levelling the Weir' }).getByRole('button').click();
	await page.waitForURL('**/gather');
	const packet = page.url().replace(/\/gather$/, '');
	for (const task of ['gather', 'square', 'tone', 'write', 'order', 'map', 'name', 'hand-in']) {
		await page.goto(`${packet}/${task}`);
		await page.waitForLoadState('networkidle').catch(() => undefined);
		found.push(...(await look(page, task)));
	}
	await page.goto('/');
	await page.getByRole('row', { name: 'Rain Gauge' }).getByRole('button').click();
	await page.waitForURL('**/packets/**');
	await page.goto(page.url().replace(/\/[a-z-]+$/, '/hand-in'));
	await expect(page.getByText(/Receipt/).first()).toBeVisible();
	found.push(...(await look(page, 'receipt')));
	await page.goto('/me');
	found.push(...(await look(page, 'me')));
	expect(found.join('\n')).toBe('');
});

test('a teacher’s screens', async ({ page }) => {
	const found: string[] = [];
	await signIn(page, 'Maren Oskamp');
	found.push(...(await look(page, 'desk')));
	await page.goto('/assignments/new');
	found.push(...(await look(page, 'new rule sheet')));
	await page.goto('/');
	await page.getByRole('row', { name: 'Gauging the Lode' }).getByRole('link', { name: 'Board' }).click();
	await page.waitForURL('**/class');
	found.push(...(await look(page, 'board')));
	await page.goto(page.url().replace(/class$/, 'bundles'));
	found.push(...(await look(page, 'bundles')));
	await page.goto('/');
	await page.getByRole('row', { name: 'Levelling the Weir' }).getByRole('link', { name: 'Board' }).click();
	await page.waitForURL('**/class');
	await page.getByRole('button', { name: 'Bring in the class’s stack' }).click();
	await page.waitForURL('**/stacks/**');
	found.push(...(await look(page, 'stack')));
	await page.goto('/');
	await page.getByRole('row', { name: 'Gauging the Lode' }).getByRole('link', { name: 'Rule sheet' }).click();
	await page.waitForURL(/assignments\/[0-9a-f-]{36}$/);
	found.push(...(await look(page, 'rule sheet')));
	expect(found.join('\n')).toBe('');
});

test('an administrator’s screens', async ({ page }) => {
	const found: string[] = [];
	await signIn(page, 'Wessel Hartkamp');
	for (const path of ['/school', '/school/people', '/school/settings', '/school/deeds']) {
		await page.goto(path);
		found.push(...(await look(page, path)));
	}
	await page.goto('/school');
	await page.locator('a[href^="/courses/"]').first().click();
	await page.waitForURL('**/courses/**');
	found.push(...(await look(page, 'course')));
	expect(found.join('\n')).toBe('');
});

test('where the system sets the colours, what is chosen can still be told', async ({ page }) => {
	await page.emulateMedia({ forcedColors: 'active' });
	await signIn(page, 'Ilka Brandsma');
	await page.getByRole('row', { name: 'Levelling the Weir' }).getByRole('button').click();
	await page.waitForURL('**/gather');
	await page.goto(page.url().replace(/gather$/, 'square'));
	const edge = (task: string) =>
		page
			.getByRole('navigation', { name: 'Tasks' })
			.getByRole('link', { name: task, exact: true })
			.evaluate((e) => getComputedStyle(e).borderBottomColor);
	expect(await edge('Square')).not.toBe(await edge('Tone'));
	const outline = (name: string) =>
		page.getByRole('button', { name, exact: true }).evaluate((e) => getComputedStyle(e).outlineStyle);
	await expect(page.getByRole('button', { name: 'Both', exact: true })).toHaveAttribute(
		'aria-pressed',
		'true'
	);
	expect([await outline('Both'), await outline('Page')]).toEqual(['solid', 'none']);
	await page.goto(page.url().replace(/square$/, 'write'));
	// A colour is shown as the colour that it is.
	await expect(page.locator('fieldset .ink')).toHaveCount(4);
	const inks = await page
		.locator('fieldset .ink')
		.evaluateAll((all) => all.map((e) => getComputedStyle(e).backgroundColor));
	expect(new Set(inks).size).toBe(4);
});
