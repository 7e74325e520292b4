import { randomUUID } from 'node:crypto';
import { readdir, writeFile } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Browser } from '@playwright/test';
import type { PlacedLabel } from '../../demo/generator/writtenPage';
import { SHEET } from './sheetMarkup';

/** Dots an inch of a style sheet's pixels. */
export const CSS_DOTS = 96;
/** Pixels of the picture of a sheet that is photographed for each of a style sheet. */
export const FINE = 2.2;

/** A sheet as a browser drew it. */
export interface DrawnSheet {
	readonly png: Buffer;
	/** On fractions of the sheet. */
	readonly labels: readonly PlacedLabel[];
	/** Where the name stands, as fractions of the sheet; null: nowhere. */
	readonly name: readonly [x0: number, y0: number, x1: number, y1: number] | null;
	/** Where what is answered ends, in pixels of a style sheet. */
	readonly bottom: number;
}

/** @param fine pixels of the picture for each of a style sheet */
export async function drawSheet(browser: Browser, markup: string, fine: number): Promise<DrawnSheet> {
	const [width, height] = SHEET;
	const page = await browser.newPage({ viewport: { width, height }, deviceScaleFactor: fine });
	await page.setContent(markup);
	await page.evaluate(() => document.fonts.ready);
	const bottom = await page.locator('.body').evaluate((body) => body.getBoundingClientRect().bottom);
	const placed = await page.locator('.label').evaluateAll((labels) =>
		labels.map((label) => {
			const { left, top } = label.getBoundingClientRect();
			const { text, question } = (label as HTMLElement).dataset;
			return { text: text!, question: question!, x: left, y: top };
		})
	);
	const [name] = await page.locator('.name').evaluateAll((names) =>
		names.map((name) => {
			const { left, top, right, bottom } = name.getBoundingClientRect();
			return { left, top, right, bottom };
		})
	);
	const png = await page.screenshot();
	await page.close();
	return {
		png,
		bottom,
		labels: placed.map((l) => ({ ...l, x: l.x / width, y: l.y / height })),
		name: name ? [name.left / width, name.top / height, name.right / width, name.bottom / height] : null
	};
}

/** @param folder where the document may be put: pictures are taken from files, which one from nowhere may not */
export async function drawPhotograph(
	browser: Browser,
	markup: string,
	[width, height]: readonly [number, number],
	quality: number,
	folder: string
): Promise<Buffer> {
	const page = await browser.newPage({ viewport: { width, height } });
	// Several are drawn at once.
	const document = join(folder, `${randomUUID()}.html`);
	await writeFile(document, markup);
	await page.goto(pathToFileURL(document).href);
	const jpeg = await page.screenshot({ type: 'jpeg', quality });
	await page.close();
	return jpeg;
}

/** Paths of the pictures of a folder that sheets are to lie on; none where desks are drawn. */
export async function desksOf(folder: string | null): Promise<string[]> {
	return folder === null ? [] : (await readdir(folder)).sort().map((name) => resolve(folder, name));
}
