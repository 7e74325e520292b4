import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { hands, handsSetApart, type Hand } from '../demo/generator/hands';
import { photograph } from '../demo/generator/photograph';
import { Random } from '../demo/generator/random';
import { writtenPage } from '../demo/generator/writtenPage';
import type { Verdict } from '../src/lib/core/legibility/legibility';
import { fuseRecognition } from '../src/lib/core/legibility/fuseRecognition';
import { blankOf } from '../src/lib/core/page/blank';
import { preparePage } from '../src/lib/core/page/preparePage';
import type { Picture } from '../src/lib/core/raster/picture';
import { wholePicture, type Quadrilateral } from '../src/lib/core/sheet/geometry';
import { labelForms } from '../src/lib/core/reading/labelForms';
import { greyOf } from '../src/lib/core/tone/finish';
import type { ToneName } from '../src/lib/core/tone/tone';
import { encodePage } from '../src/lib/server/codec/encode';
import { decodePicture } from '../src/lib/server/codec/picture';
import { wholeReading } from '../src/lib/server/reader/wholeReading';
import { degrade, LADDERS, type Ladder } from './degradations';
import { errorRate } from './errorRate';
import { flatPage, FLAT_LADDERS, type FlatLadder } from './flatLadders';
import { situationSpec, specimenPage } from './situations';
import { rankCorrelation } from './rankCorrelation';

const WORDS =
	'the lode runs slower near reeds so we took three verticals and read meter for sixty seconds at each depth then averaged both readings to get mean velocity before area error 0.42 1.75 12 m3'.split(
		' '
	);
const NO_LABELS = labelForms([]);
const RULINGS = ['plain', 'ruled', 'squared'] as const;

interface Row {
	readonly ladder: Ladder | FlatLadder | 'none';
	readonly errors: number;
	/** As measured on the page alone, … */
	readonly measured: number;
	/** … and with what the reader made of it. */
	readonly score: number;
	readonly verdict: Verdict;
	/** It would be set aside. */
	readonly blank: boolean;
}

/**
 * Legibility against the reader's errors, on pages made worse step by step; then the reader's errors and the bytes of
 * black-and-white pages against colour.
 */
export async function benchLegibility(
	count: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	const all: Row[] = [];
	for (const [i, hand] of hands().slice(0, count).entries()) {
		const rows = await ladderOf(hand, i, firstSeed + i);
		all.push(...rows);
		report(hand, rows, Object.keys(LADDERS), print);
	}
	verdicts(all, print);
	print('Hands set apart, flat pages made worse by other means:');
	const apart: Row[] = [];
	for (const [i, hand] of handsSetApart().entries()) {
		const rows = await flatLadderOf(hand, firstSeed + 100 + i);
		apart.push(...rows);
		report(hand, rows, Object.keys(FLAT_LADDERS), print);
	}
	verdicts(apart, print);
}

function report(
	hand: Hand,
	rows: readonly Row[],
	ladders: readonly string[],
	print: (line: string) => void
): void {
	const rho = (score: (row: Row) => number) => {
		const scores = rows.map((r) => -score(r));
		const errors = rows.map((r) => r.errors);
		return rankCorrelation(scores, errors).toFixed(3);
	};
	print(
		`${hand.family.padEnd(22)} rank correlation of score and errors ${rho((r) => r.score)}, before reading ${rho((r) => r.measured)}`
	);
	for (const ladder of ladders) {
		const steps = rows.filter((r) => r.ladder === ladder);
		print(
			`  ${ladder.padEnd(12)} errors/score ${steps.map((r) => `${r.errors.toFixed(2)}/${r.score.toFixed(2)}`).join('  ')}`
		);
	}
}

function verdicts(all: readonly Row[], print: (line: string) => void): void {
	const wrong = (verdict: Verdict, when: (errors: number) => boolean) =>
		all.filter((r) => r.verdict === verdict && when(r.errors)).length;
	print(`called unreadable with under 15 % errors: ${wrong('unreadable', (e) => e < 0.15)} of ${all.length}`);
	print(`called clear with over 60 % errors: ${wrong('clear', (e) => e > 0.6)} of ${all.length}`);
	print(`taken for blank: ${all.filter((r) => r.blank).length} of ${all.length}`);
}

async function flatLadderOf(hand: Hand, seed: number): Promise<Row[]> {
	const random = new Random(seed);
	const line = () => Array.from({ length: random.whole(5, 7) }, () => random.pick(WORDS)).join(' ');
	const lines = Array.from({ length: 9 }, line);
	const ladders = Object.keys(FLAT_LADDERS) as FlatLadder[];
	const steps = ladders.flatMap((name) => FLAT_LADDERS[name].map((a): [FlatLadder, number] => [name, a]));
	const rows: Row[] = [];
	for (const [ladder, amount] of [['none', 0] as const, ...steps]) {
		const picture = await flatPage(hand, lines, ladder, amount, seed);
		const corners = wholePicture(picture.width, picture.height);
		const { facts, reading, measured, errors } = await readAs(picture, corners, 'greyscale', lines);
		const { score, verdict } = facts.legibility;
		rows.push({ ladder, errors, measured, score, verdict, blank: blankOf(facts, reading) === 'yes' });
	}
	return rows;
}

async function ladderOf(hand: Hand, index: number, seed: number): Promise<Row[]> {
	const { shot, lines } = specimen(hand, index, seed);
	const clean = shot(1);
	const rows: Row[] = [];
	const folder = mkdtempSync(join(tmpdir(), 'membrana-ladder-'));
	const file = join(folder, 'page.jpg');
	try {
		for (const [ladder, amount] of steps()) {
			const { picture, corners } = ladder === 'fading' ? shot(amount) : clean;
			writeFileSync(file, await degrade(picture, ladder === 'none' ? 'fading' : ladder, amount, seed));
			const bad = await decodePicture(file);
			const scale = bad.width / picture.width;
			const scaled = corners.map(([x, y]) => [x * scale, y * scale] as const) as unknown as Quadrilateral;
			const { facts, reading, measured, errors } = await readAs(bad, scaled, 'greyscale', lines);
			const { score, verdict } = facts.legibility;
			rows.push({ ladder, errors, measured, score, verdict, blank: blankOf(facts, reading) === 'yes' });
		}
	} finally {
		rmSync(folder, { recursive: true });
	}
	return rows;
}

function steps(): [Ladder | 'none', number][] {
	const ladders = Object.keys(LADDERS) as Ladder[];
	return [['none', 1], ...ladders.flatMap((name) => LADDERS[name].map((a): [Ladder, number] => [name, a]))];
}

/** A page of words in a hand, and its photographs with ink of any darkness. */
function specimen(hand: Hand, index: number, seed: number) {
	const random = new Random(seed);
	const line = () => Array.from({ length: random.whole(4, 5) }, () => random.pick(WORDS)).join(' ');
	const lines = Array.from({ length: 7 }, line);
	const shot = (pressure: number) => {
		const page = writtenPage({
			seed,
			hand,
			paper: 'A5',
			ruling: RULINGS[index % 3]!,
			ink: index % 2 ? [28, 34, 82] : [40, 40, 44],
			pressure,
			scale: 8,
			blocks: [
				{ kind: 'space', lines: 1 },
				{ kind: 'text', lines }
			]
		});
		return photograph(page.picture, {
			seed,
			size: [1300, 1800],
			desk: 'wood',
			fill: 0.93,
			slant: 1,
			tilt: 3,
			falloff: 0.2,
			warmth: 0.4,
			blur: 0.4,
			noise: 2
		});
	};
	return { shot, lines };
}

async function readAs(picture: Picture, corners: Quadrilateral, name: ToneName, lines: readonly string[]) {
	const tone = { name, evenLight: true, inkWeight: 0 } as const;
	const { finished, facts } = preparePage(picture, { corners, turn: 0, tone });
	const plane = greyOf(finished);
	const reading = await wholeReading(plane, facts.dotsPerInch, NO_LABELS);
	const { score: measured } = facts.legibility;
	const errors = errorRate(lines.join(''), reading.lines.map((l) => l.text).join(''));
	return { finished, facts: fuseRecognition(facts, reading.lines), reading, measured, errors };
}

/** What black and white costs in reading, and what it takes in bytes. */
export async function benchBlackAndWhite(
	count: number,
	firstSeed: number,
	print: (line: string) => void
): Promise<void> {
	let colour = 0;
	let binary = 0;
	for (let i = 0; i < count; i++) {
		const { shot, lines } = specimen(hands()[i % hands().length]!, i, firstSeed + i);
		const { picture, corners } = shot(1);
		colour += (await readAs(picture, corners, 'colour', lines)).errors;
		const made = await readAs(picture, corners, 'black-and-white', lines);
		binary += made.errors;
	}
	const percent = (sum: number) => ((100 * sum) / count).toFixed(2);
	print(`reading errors: ${percent(colour)} % in colour, ${percent(binary)} % in black and white`);
	print(
		`black and white: ${((await fullPageBytes(count, firstSeed)) / 1000).toFixed(1)} KB for a full A4 page, on average`
	);
}

/** Mean bytes of full A4 pages at 200 dots an inch in black and white, on all rulings, every third in a hard shadow. */
async function fullPageBytes(count: number, firstSeed: number): Promise<number> {
	let bytes = 0;
	for (let i = 0; i < count; i++) {
		const seed = firstSeed + i;
		const spec = situationSpec(i % 3 === 2 ? 'hard shadow' : 'plain wood', seed, [2250, 3000]);
		const page = specimenPage(seed, 9).picture;
		const { picture, corners } = photograph(page, { ...spec, lies: 0, fill: 0.92 });
		const tone = { name: 'black-and-white', evenLight: true, inkWeight: 0 } as const;
		const { finished } = preparePage(picture, { corners, turn: 0, tone });
		bytes += (await encodePage(finished)).bytes.length;
	}
	return bytes / count;
}
