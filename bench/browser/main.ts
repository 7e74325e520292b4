import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { chromium, type Browser } from '@playwright/test';
import sharp from 'sharp';
import { EveryCore } from '../../cli/everyCore';
import { Random } from '../../demo/generator/random';
import type { PlacedLabel } from '../../demo/generator/writtenPage';
import type { Question } from '../../src/lib/core/assignment/question';
import { cornersOf, foundTurn, SURE_TURN, turnOf } from '../../src/lib/core/page/effective';
import { readNumber } from '../../src/lib/core/reading/pageNumber';
import { nameOnPage } from '../../src/lib/core/reading/personName';
import { wholePicture, type Quadrilateral } from '../../src/lib/core/sheet/geometry';
import { homography, project } from '../../src/lib/core/sheet/homography';
import type { Turn } from '../../src/lib/core/sheet/turn';
import type { WholePage } from '../../src/lib/server/work/wholePicture';
import { CHROMIUM } from '../../tests/browser/chromium';
import { digitsOf } from '../../training/digits';
import type { Part } from '../../training/hands';
import { overlapWithin } from '../overlapWithin';
import { personOf } from '../packets';
import { Figures } from '../readingFigures';
import { compareLabels } from '../shortWriting';
import { Tally } from '../tally';
import { someAnswers, someQuestions } from './answers';
import { CSS_DOTS, desksOf, drawPhotograph, drawSheet, FINE } from './draw';
import { photographMarkup, someCamera } from './photographMarkup';
import { LAST_LINE, numberOn, ontoSheets, sheetMarkup } from './sheetMarkup';
import { handAt, writerOf } from './writerOf';

const NAMES = [
	'Brin Castell',
	'Corin Abbey',
	'Dessa Fairholm',
	'Fenna Holt',
	'Hedda Quill',
	'Ivo Lark',
	'Jessamy Thorne',
	'Kit Barrow',
	'Merrin Vale',
	'Orla Finch',
	'Perrin Oake',
	'Sunniva Kell'
];
const TITLES = ['Physics 2', 'Worksheet 4', 'Lab report', '14 March'];
/** Dots an inch of scans. */
const SCANS = [150, 200, 300];
const RIGHT = 0.95;

/** A page's picture and what is true of it. */
interface TruePage {
	readonly path: string;
	readonly hand: string;
	readonly questions: readonly Question[];
	/** On fractions of the sheet. */
	readonly labels: readonly PlacedLabel[];
	readonly number: string | null;
	readonly name: string | null;
	/** Null: it is a scan, and fills the picture. */
	readonly corners: Quadrilateral | null;
	readonly turn: Turn;
}

/**
 * Pages that were made by other means than all that was fitted on: laid out, written and photographed by a browser, on
 * desks that it draws or on pictures of a folder. What `inspect` says of each by itself, with a rule sheet and without.
 *
 * @param desks a folder of pictures for sheets to lie on; null: drawn ones
 */
export async function benchBrowser(
	part: Part,
	packets: number,
	firstSeed: number,
	desks: string | null,
	print: (line: string) => void
): Promise<void> {
	const folder = await mkdtemp(join(tmpdir(), 'membrana-browser-'));
	const under = await desksOf(desks);
	const cores = new EveryCore();
	try {
		const browser = await chromium.launch(CHROMIUM);
		const pages: TruePage[] = [];
		for (let i = 0; i < packets; i++)
			pages.push(...(await packetOf(browser, part, i, firstSeed, under, folder)));
		await browser.close();
		for (const withSheet of [false, true]) {
			const tally = new BrowserTally();
			const read = pages.map(async (page) => ({ page, found: await inspected(cores, page, withSheet) }));
			for (const { page, found } of await Promise.all(read)) tally.count(page, found);
			print(
				`${withSheet ? 'With' : 'Without'} a rule sheet, ${part} hands, ${packets} packets from ${firstSeed}`
			);
			tally.print(print);
		}
	} finally {
		await cores.close();
		await rm(folder, { recursive: true, force: true });
	}
}

async function inspected(cores: EveryCore, page: TruePage, withSheet: boolean): Promise<WholePage[]> {
	const { pages } = await cores.pagesOfFile(page.path, (index) => ({
		picture: { id: page.path, source: page.path, sourcePage: index },
		tone: { name: 'greyscale', evenLight: true, inkWeight: 0 },
		questions: withSheet ? page.questions : null,
		paper: 'A4',
		reading: true,
		images: false
	}));
	return pages;
}

/** One person's answers, as pictures in the folder; pages whose lines run into the foot are left out. */
async function packetOf(
	browser: Browser,
	part: Part,
	nth: number,
	firstSeed: number,
	desks: readonly string[],
	folder: string
): Promise<TruePage[]> {
	const random = new Random(firstSeed + nth);
	const hand = handAt(part, nth);
	const writer = await writerOf(random, hand, nth % 2 ? digitsOf(part) : null);
	const questions = someQuestions(random);
	const name = random.pick(NAMES);
	const camera = someCamera(random, desks);
	const sheets = ontoSheets(someAnswers(random, questions, writer.style), writer);
	const pages: TruePage[] = [];
	for (const [i, answers] of sheets.entries()) {
		const named = i === 0 || random.chance(0.35) ? name : null;
		const title = i === 0 && random.chance(0.4) ? random.pick(TITLES) : null;
		const number = numberOn(writer, i, sheets.length);
		const markup = sheetMarkup(random, writer, { answers, name: named, title, number });
		const scanned = random.chance(0.25);
		const dots = random.pick(SCANS);
		const { png, labels, bottom } = await drawSheet(browser, markup, scanned ? dots / CSS_DOTS : FINE);
		if (bottom > LAST_LINE) continue;
		const path = join(folder, `${nth}-${i}.${scanned ? 'png' : 'jpg'}`);
		const truth = { path, hand, questions, labels, number, name: named };
		if (scanned) {
			const grey = sharp(png).greyscale();
			await writeFile(path, await (random.chance(0.4) ? grey.threshold(160) : grey).png().toBuffer());
			pages.push({ ...truth, corners: null, turn: 0 });
			continue;
		}
		const sheet = join(folder, 'sheet.png');
		await writeFile(sheet, png);
		const {
			markup: photograph,
			size,
			corners,
			turn
		} = photographMarkup(random, camera, pathToFileURL(sheet).href);
		await writeFile(path, await drawPhotograph(browser, photograph, size, camera.quality, folder));
		pages.push({ ...truth, corners, turn });
	}
	return pages;
}

class BrowserTally {
	readonly #all = new Figures();
	readonly #byHand = new Map<string, Figures>();
	/** Of photographs whose sheet was said to be found, how many right; the others. */
	readonly #outlines = new Tally();
	#notFound = 0;
	readonly #perhaps = new Tally();
	/** Of pages of which it is said to be known. */
	readonly #turns = new Tally();
	#cut = 0;

	count(truth: TruePage, found: readonly WholePage[]): void {
		const [one] = found;
		if (!one || found.length > 1) {
			this.#cut++;
			return;
		}
		const { page, picture, reading } = one;
		const size = [picture.width, picture.height] as const;
		const { outline } = picture;
		if (truth.corners) {
			const fits = (corners: Quadrilateral) => overlapWithin(size, corners, truth.corners!) >= RIGHT;
			if (outline.confidence >= 0.5) this.#outlines.count(fits(cornersOf(page, picture)));
			else {
				this.#notFound++;
				if (outline.perhaps) this.#perhaps.count(fits(outline.perhaps));
			}
		}
		const turn = turnOf(page, picture);
		if (foundTurn(picture).confidence >= SURE_TURN) this.#turns.count(turn === truth.turn);
		const isWhole = truth.corners !== null && outline.kind === 'whole';
		const labels = isWhole ? inPicture(truth, size) : truth.labels;
		if (!this.#byHand.has(truth.hand)) this.#byHand.set(truth.hand, new Figures());
		for (const figures of [this.#all, this.#byHand.get(truth.hand)!]) {
			figures.countLabels(compareLabels(reading!, labels));
			figures.countNumber(readNumber(reading!.numbers), truth.number ?? undefined);
			figures.countName(nameOnPage(reading!, NAMES.map(personOf)), truth.name);
		}
	}

	print(print: (line: string) => void): void {
		print(
			`  sheets said to be found, right ${this.#outlines}; not found ${this.#notFound}, of those proposed right ${this.#perhaps}; cut in two ${this.#cut}`
		);
		print(`  turns said to be known, right ${this.#turns}`);
		print(`  all: ${this.#all}`);
		for (const [hand, figures] of this.#byHand) print(`  ${hand.replace('writer-', '')}: ${figures}`);
		print(`  right by tenths of confidence: ${this.#all.tenths.map(String).join(', ')}`);
	}
}

/** The labels of a sheet on fractions of the whole upright picture. */
function inPicture(
	{ labels, corners, turn }: TruePage,
	[width, height]: readonly [number, number]
): PlacedLabel[] {
	const toPicture = homography(wholePicture(1, 1), corners!);
	return labels.map((label) => {
		const at = project(toPicture, [label.x, label.y]);
		const [u, v] = [at[0] / width, at[1] / height];
		const upright = { 0: [u, v], 90: [1 - v, u], 180: [1 - u, 1 - v], 270: [v, 1 - u] } as const;
		return { ...label, x: upright[turn][0], y: upright[turn][1] };
	});
}
