import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Browser } from '@playwright/test';
import sharp from 'sharp';
import { Random } from '../../demo/generator/random';
import { digitsOf } from '../../training/digits';
import type { Part } from '../../training/hands';
import { shuffled } from '../packets';
import { pileUp, type PiledPage } from '../stacks/pileUp';
import type { ClassStack, Pupil } from '../stacks/sampleStack';
import { someAnswers, someQuestions } from './answers';
import { CSS_DOTS, drawPhotograph, drawSheet, FINE, type DrawnSheet } from './draw';
import { photographMarkup, someCamera, type Camera } from './photographMarkup';
import { LAST_LINE, numberOn, ontoSheets, sheetMarkup } from './sheetMarkup';
import { handAt, writerOf } from './writerOf';

/** A side of paper that a browser drew. */
export interface DrawnPage extends PiledPage {
	readonly markup: string;
	/** Path of the sheet's picture. */
	readonly sheet: string;
	readonly nameAt: DrawnSheet['name'];
}

export interface BrowserStack extends ClassStack<DrawnPage> {
	/** What it was photographed with; null: it came through a feeder. */
	readonly camera: Camera | null;
}

/** Names of all kinds: of two words, with particles, hyphens and accents, brothers and sisters, two of one given name. */
const CLASS = [
	['Brin', 'Castell'],
	['Corin', 'Abbey'],
	['Dessa', 'Fairholm'],
	['Fenna', 'Holt'],
	['Hedda', 'Quill'],
	['Ivo', 'Lark'],
	['Jessamy', 'Thorne'],
	['Kit', 'Barrow'],
	['Merrin', 'Vale'],
	['Orla', 'Finch'],
	['Perrin', 'Oake'],
	['Sunniva', 'Kell'],
	['Anselm', 'de Wit'],
	['Zofia', 'Marchetti'],
	['Leah', 'Osei-Brandt'],
	['José', 'Albarán'],
	['Mei', 'Tan'],
	['Mary Ann', 'Cobb'],
	['Rafael', 'van der Laan'],
	['Tariq', 'Nasser'],
	['Ulrike', 'Böhm'],
	['Pádraig', 'Keane'],
	['Noor', 'Haddad'],
	['Otis', 'Haddad'],
	['Ivo', 'Pellegrin'],
	['Wanda', 'Srebro']
] as const;
const FEWEST = 7;
/** Dots an inch of a feeder. */
const FED_DOTS = 200;

/**
 * A class's answers as one pile, laid out, written and photographed or scanned by a browser.
 *
 * @param desks pictures for sheets to lie on; none: the browser draws them
 * @param folder where the sheets' pictures are put
 */
export async function browserStack(
	browser: Browser,
	seed: number,
	part: Part,
	most: number,
	desks: readonly string[],
	folder: string
): Promise<BrowserStack> {
	const random = new Random(seed);
	const isPhotographed = random.chance(0.35);
	const camera = someCamera(random, desks);
	const roster = shuffled(CLASS, random).map(([givenName, familyName], i): Pupil => {
		return { sourcedId: `p${i + 1}`, givenName, familyName };
	});
	const size = random.whole(FEWEST, most);
	const questions = someQuestions(random);
	const usuallyNamed = random.pick(['all', 'first', 'mixed'] as const);
	const draw = { browser, part, fine: isPhotographed ? FINE : FED_DOTS / CSS_DOTS, folder };
	const firstHand = random.whole(0, 99);
	const packets: DrawnPage[][] = [];
	const blanks = new Map<string | null, DrawnPage>();
	for (const [i, pupil] of roster.slice(0, size).entries()) {
		const habit = usuallyNamed === 'mixed' ? random.pick(['all', 'first'] as const) : usuallyNamed;
		const named = random.chance(0.1) ? 'none' : habit;
		const id = pupil.sourcedId;
		const { pages, blank } = await sheetsOf(draw, random, firstHand + i, questions, {
			id,
			name: putDown(pupil, random),
			named
		});
		if (pages.length === 0) continue;
		packets.push(pages);
		blanks.set(id, blank);
	}
	const elsewhere = await sheetsOf(draw, random, firstHand + size, someQuestions(random), {
		id: null,
		name: '',
		named: 'none'
	});
	blanks.set(null, elsewhere.blank);
	const isDuplex = !isPhotographed && random.chance(0.4);
	const { pages, feeding, about } = pileUp<DrawnPage>(
		{
			packets,
			isDuplex,
			blank: (owner) => blanks.get(owner)!,
			other: () => ({ ...(elsewhere.pages[0] ?? elsewhere.blank), role: 'other' })
		},
		random
	);
	return {
		seed,
		pages,
		feeding,
		roster,
		sheet: {
			title: 'Physics 2',
			questions,
			pages: { min: 1, max: 12, size: 'A4' },
			file: { namePattern: '{family}_{given}' }
		},
		camera: isPhotographed ? camera : null,
		about: [
			`${packets.length} of ${roster.length}`,
			isPhotographed ? 'photographed' : isDuplex ? 'both sides' : 'one side',
			usuallyNamed,
			...about
		].join(', ')
	};
}

interface Drawing {
	readonly browser: Browser;
	readonly part: Part;
	readonly fine: number;
	readonly folder: string;
}

interface Whose {
	readonly id: string | null;
	readonly name: string;
	readonly named: 'all' | 'first' | 'none';
}

/** One person's answers; pages whose lines run into the foot are left out. */
async function sheetsOf(
	{ browser, part, fine, folder }: Drawing,
	random: Random,
	nth: number,
	questions: BrowserStack['sheet']['questions'],
	{ id, name, named }: Whose
): Promise<{ pages: DrawnPage[]; blank: DrawnPage }> {
	const writer = await writerOf(random, handAt(part, nth), random.chance(0.5) ? digitsOf(part) : null);
	const sheets = ontoSheets(someAnswers(random, questions, writer.style), writer);
	const drawn = async (
		content: Parameters<typeof sheetMarkup>[2],
		role: PiledPage['role'],
		i: number
	): Promise<{ page: DrawnPage; bottom: number }> => {
		const markup = sheetMarkup(random, writer, content);
		const { png, bottom, name: nameAt } = await drawSheet(browser, markup, fine);
		const sheet = join(folder, `${id}-${i}.png`);
		await writeFile(sheet, png);
		return {
			bottom,
			page: { owner: id, named: content.name !== null, role, lies: 0, markup, sheet, nameAt }
		};
	};
	const pages: DrawnPage[] = [];
	for (const [i, answers] of sheets.entries()) {
		const number = numberOn(writer, i, sheets.length);
		const title = i === 0 && random.chance(0.4) ? 'Physics 2' : null;
		const isNamed = named === 'all' || (named === 'first' && i === 0);
		const content = { answers, name: isNamed ? name : null, title, number };
		const { page, bottom } = await drawn(content, 'page', i);
		if (bottom <= LAST_LINE) pages.push(page);
	}
	const empty = { answers: [], name: null, title: null, number: null };
	return { pages, blank: (await drawn(empty, 'blank', sheets.length)).page };
}

/** How somebody puts down their name. */
function putDown({ givenName, familyName }: Pupil, random: Random): string {
	const full = `${givenName} ${familyName}`;
	const chance = random.next();
	if (chance < 0.12) return `${familyName}, ${givenName}`;
	if (chance < 0.2) return `${givenName} ${familyName[0]!.toUpperCase()}.`;
	if (chance < 0.26) return `${givenName[0]!}. ${familyName}`;
	return chance < 0.4 ? `Name: ${full}` : full;
}

/** A page of the stack as it is brought in. */
export async function pictureOf(
	browser: Browser,
	stack: BrowserStack,
	index: number,
	folder: string
): Promise<Buffer> {
	const { sheet, lies } = stack.pages[index]!;
	const random = new Random(stack.seed * 1000 + index);
	if (stack.camera === null) return fed(sheet, lies, random, new Random(stack.seed));
	const { markup, size } = photographMarkup(random, stack.camera, pathToFileURL(sheet).href);
	const jpeg = await drawPhotograph(browser, markup, size, stack.camera.quality, folder);
	return lies === 0 ? jpeg : sharp(jpeg).rotate(lies).jpeg({ quality: 90 }).toBuffer();
}

/**
 * A sheet as a feeder takes it: a little askew and soft, on its white lid.
 *
 * @param feeder chances that are the same for all of a stack
 */
async function fed(sheet: string, lies: 0 | 180, random: Random, feeder: Random): Promise<Buffer> {
	const { width, height } = await sharp(sheet).metadata();
	const askew = await sharp(await readFile(sheet))
		.rotate(lies + random.between(-0.8, 0.8), { background: '#f1f1ee' })
		.toBuffer({ resolveWithObject: true });
	return sharp(askew.data)
		.extract({
			left: (askew.info.width - width) >> 1,
			top: (askew.info.height - height) >> 1,
			width,
			height
		})
		.blur(feeder.between(0.35, 0.8))
		.linear(feeder.between(0.94, 1.03), feeder.between(-6, 8))
		.jpeg({ quality: feeder.pick([60, 75, 85]) })
		.toBuffer();
}
