import sharp, { type Sharp } from 'sharp';
import type { Hand } from '../demo/generator/hands';
import { someManner, type DigitShape } from '../demo/generator/penman';
import { photograph, type Photograph } from '../demo/generator/photograph';
import type { Random } from '../demo/generator/random';
import {
	writtenPage,
	type Block,
	type Layout,
	type PageSpec,
	type WrittenLabel,
	type WrittenRun
} from '../demo/generator/writtenPage';
import { preparePage } from '../src/lib/core/page/preparePage';
import type { Picture, Plane } from '../src/lib/core/raster/picture';
import type { Box } from '../src/lib/core/reading/pieces';
import type { Place } from '../src/lib/core/reading/places';
import { shortText } from '../src/lib/core/reading/shortAlphabet';
import { MOST_WIDTH, SHORT_HEIGHT } from '../src/lib/core/reading/shortCrop';
import { wholePicture } from '../src/lib/core/sheet/geometry';
import { PAPER_SIZES } from '../src/lib/core/sheet/paperSize';
import { DEFAULT_TONE } from '../src/lib/core/tone/tone';
import { greyOf } from '../src/lib/core/tone/finish';
import { lookAtPage, placeCrops } from '../src/lib/server/reader/lookAtPage';
import { inventHand } from './inventedHand';
import { HANDS_MIXED, type Sample } from './sample';
import { nameLine, noLabel, someLabel, somePageNumber, words } from './strings';

/** Chance that digits are some that real people wrote, and that every letter of a page is of another hand. */
const REAL_DIGITS = 0.5;
const MIXED = 0.25;
/** Lines that are no label, number or name are seen so often: they are most of a page. */
const LINES_SEEN = 0.35;
/** Pixels a millimetre that pages are drawn with. */
const SCALE = 6.5;
const DESKS = ['wood', 'dark', 'white', 'stone'] as const;
const INKS = [
	[28, 34, 82],
	[20, 20, 24],
	[66, 66, 72],
	[96, 96, 100]
] as const;
/** Of pages, so many are scanned; the others are photographed. */
const SCANNED = 0.5;
type Photographed = Pick<Photograph, 'picture' | 'corners'>;
const TONE = { ...DEFAULT_TONE, name: 'greyscale' } as const;

/**
 * What the recogniser is shown of a whole page: written, photographed, prepared, and cut up where labels, numbers and
 * names are looked for. So it learns what comes of strokes on the way, and beside what they stand.
 *
 * @param invented chance that a page is in a hand that nobody has
 */
export async function samplesOfPage(
	random: Random,
	hands: readonly Hand[],
	digits: readonly (readonly DigitShape[])[],
	invented: number
): Promise<Sample[]> {
	const written = writtenPage(somePage(random, hands, digits, invented));
	const page = await asPrepared(written.picture, random);
	const looked = await lookAtPage(page.plane, page.dotsPerInch);
	const runs = written.runs.map((run) =>
		onPage(run, page.plane.width / written.picture.width, page.plane.height / written.picture.height)
	);
	const samples: Sample[] = [];
	for (const place of looked.places) {
		for (const crop of cropsSeen(place, random)) {
			const text = writtenIn(crop.box, runs);
			if (!text || (!text.short && !random.chance(LINES_SEEN))) continue;
			samples.push({ crop: placeCrops(page.plane, looked, [crop])[0]!, text: text.text });
		}
	}
	return samples;
}

/** Of a framed label both that without the frame and that with it; of others one, as they show nearly the same. */
function cropsSeen({ kind, crops }: Place, random: Random): Place['crops'] {
	return kind === 'framed' || crops.length === 0 ? crops : [random.pick(crops)];
}

/** A page in the reader's own grey, as it comes out of a photograph or off a scanner's glass. */
async function asPrepared(sheet: Picture, random: Random): Promise<{ plane: Plane; dotsPerInch: number }> {
	const { picture, corners } = random.chance(SCANNED)
		? await scanned(sheet, random)
		: await photographed(sheet, random);
	const settings = { corners, turn: 0, tone: TONE, level: false, expectedPaper: 'A4' } as const;
	const { finished, facts } = preparePage(picture, settings);
	return { plane: greyOf(finished), dotsPerInch: facts.dotsPerInch };
}

async function photographed(sheet: Picture, random: Random): Promise<Photographed> {
	const width = random.chance(0.8) ? random.whole(1450, 1750) : random.whole(1750, 2200);
	const { picture, corners } = photograph(sheet, {
		seed: random.whole(1, 1e6),
		size: [width, Math.round((4 / 3) * width)],
		desk: random.pick(DESKS),
		fill: random.between(0.78, 0.93),
		slant: random.between(-5, 5),
		tilt: random.between(1, 9),
		falloff: random.between(0.1, 0.4),
		warmth: random.between(0.2, 0.8),
		blur: (random.chance(0.8) ? random.between(0.3, 0.9) : random.between(0.9, 1.8)) * (width / 1600),
		shadow: random.chance(0.2) ? random.between(0.2, 0.8) : undefined
	});
	return { picture: await asJpeg(rawOf(picture), random), corners };
}

async function scanned(sheet: Picture, random: Random): Promise<Photographed> {
	const picture = await asJpeg(
		rawOf(sheet).resize(random.whole(1150, 1700)).blur(random.between(0.3, 1)),
		random
	);
	return { picture, corners: wholePicture(picture.width, picture.height) };
}

function rawOf({ data, width, height, channels }: Picture): Sharp {
	return sharp(data, { raw: { width, height, channels } });
}

async function asJpeg(picture: Sharp, random: Random): Promise<Picture> {
	const jpeg = await picture.jpeg({ quality: random.whole(70, 92) }).toBuffer();
	const { data, info } = await sharp(jpeg).raw().toBuffer({ resolveWithObject: true });
	return { width: info.width, height: info.height, channels: 3, data: new Uint8Array(data) };
}

/** A page full of short answers. */
function somePage(
	random: Random,
	hands: readonly Hand[],
	digits: readonly (readonly DigitShape[])[],
	invented: number
): PageSpec {
	const hand = random.pick(hands);
	const steady = someManner(random, random.chance(REAL_DIGITS) ? digits : null);
	const mixed = Array.from({ length: random.chance(MIXED) ? HANDS_MIXED : 0 }, () => random.pick(hands)).map(
		({ family, scale }) => ({ family, scale: scale / hand.scale })
	);
	const drawn = random.chance(invented)
		? Array.from({ length: mixed.length > 0 ? HANDS_MIXED / 2 : 1 }, () => inventHand(random, hand.scale))
		: null;
	const [width, height] = PAPER_SIZES.A4;
	const pitch = random.between(7.2, 11);
	const header = random.between(9, 24);
	const number = random.pick([
		[width * random.between(0.78, 0.88), header],
		[width * random.between(0.44, 0.52), height - random.between(6, 14)],
		[random.between(5, 16), height - random.between(6, 14)],
		[random.between(5, 16), Math.max(7, header - 6)]
	] as const);
	const layout: Layout = {
		left: random.between(12, 44),
		pitch,
		size: (pitch / 8.5) * random.between(0.85, 1.15),
		header,
		gap: random.pick([0, 0, 1]),
		number
	};
	return {
		seed: random.whole(1, 1e9),
		hand,
		paper: 'A4',
		ruling: random.pick(['ruled', 'ruled', 'squared', 'plain'] as const),
		ink: random.pick(INKS),
		pressure: random.chance(0.7) ? 1 : random.between(0.5, 1),
		manner: { ...steady, ...(mixed.length > 0 && { mixed }), ...(drawn && { drawn }) },
		labelFrom: random.chance(0.3) ? random.between(2, 5) : random.between(5, 20),
		labelSize: random.between(0.85, 1.35),
		slope: 0.01 * random.normal(),
		name: nameLine(random),
		nameAt: number[0] > 0.7 * width ? random.pick(['left', 'middle']) : 'right',
		pageNumber: somePageNumber(random),
		...(random.chance(0.4) && { header: [{ text: words(random, 2), at: random.pick([0.15, 0.4, 0.66]) }] }),
		layout,
		scale: SCALE,
		blocks: answers(random, Math.floor((height - 46) / pitch) - 3)
	};
}

function answers(random: Random, lines: number): Block[] {
	const at = random.pick(['margin', 'line', 'own'] as const);
	const mark = random.chance(0.35) ? undefined : random.pick(['underlined', 'circled', 'boxed'] as const);
	const blocks: Block[] = [];
	let used = 0;
	while (used < lines) {
		const label: WrittenLabel = {
			text: someLabel(random),
			at,
			indent: random.chance(0.3) ? random.between(3, 14) : 0,
			...(mark && { mark })
		};
		blocks.push({ kind: 'label', ...label });
		const answer = Array.from({ length: random.whole(1, 2) }, () =>
			random.chance(0.3) ? `${noLabel(random)} ${words(random, 3)}` : words(random, random.whole(3, 5))
		);
		blocks.push({ kind: 'text', lines: answer });
		used += answer.length + (at === 'own' ? 1 : 0);
		if (random.chance(0.3)) {
			blocks.push({ kind: 'space', lines: 1 });
			used++;
		}
	}
	return blocks;
}

function onPage(run: WrittenRun, across: number, down: number): WrittenRun {
	const letters = run.letters.map(({ x0, x1, y }) => ({ x0: across * x0, x1: across * x1, y: down * y }));
	return { text: run.text, size: down * run.size, letters };
}

/** A letter that is cut counts when most of it is there, and is none when hardly any is. */
const MOST_OF = 0.7;
const HARDLY = 0.3;
/** Runs of more letters are lines of writing. */
const SHORT = 14;

/**
 * What is written in a box of the page, from left to right.
 *
 * @param runs in pixels of the page
 * @returns null where nothing is, or where that cannot be said: a letter is cut in two, or lines stand above each other
 */
export function writtenIn(
	[x0, y0, x1, y1]: Box,
	runs: readonly WrittenRun[]
): { readonly text: string; readonly short: boolean } | null {
	const end = Math.min(x1, x0 + (MOST_WIDTH / SHORT_HEIGHT) * (y1 - y0));
	const parts: { text: string; from: number; y: number; size: number; all: number }[] = [];
	for (const { text, size, letters } of runs) {
		let [first, last] = [-1, -1];
		for (const [i, l] of letters.entries()) {
			const middle = l.y - 0.25 * size;
			if (middle < y0 || middle > y1) continue;
			const seen = (Math.min(end, l.x1) - Math.max(x0, l.x0)) / (l.x1 - l.x0);
			if (seen <= HARDLY) continue;
			const cut = l.x0 < x0 && seen < MOST_OF;
			if (cut) return null;
			if (seen < MOST_OF) continue;
			if (first < 0) first = i;
			last = i;
		}
		if (first < 0) continue;
		const [from, y] = [letters[first]!.x0, letters[first]!.y];
		parts.push({ text: lettersFrom(text, first, last), from, y, size, all: letters.length });
	}
	if (parts.length === 0) return null;
	const [one] = parts;
	if (parts.some((p) => Math.abs(p.y - one!.y) > 0.5 * one!.size)) return null;
	parts.sort((a, b) => a.from - b.from);
	const text = shortText(parts.map((p) => p.text).join(' ')).trim();
	return text === '' ? null : { text, short: parts.some((p) => p.all < SHORT) };
}

/** The piece of a text from one letter to another, spaces not counted. */
function lettersFrom(text: string, first: number, last: number): string {
	const places = [...text].flatMap((c, i) => (c === ' ' ? [] : [i]));
	return text.slice(places[first]!, places[last]! + 1);
}
