import { createCanvas } from '@napi-rs/canvas';
import { fromCanvas } from '../demo/generator/fromCanvas';
import { fullPage, TAKES } from '../demo/generator/fullPage';
import { addNoise, blur } from '../demo/generator/light';
import { printedPage, printFonts, type PrintedKind } from '../demo/generator/printedPage';
import { Random } from '../demo/generator/random';
import { noPage, SCENES } from '../demo/generator/scene';
import type { Picture } from '../src/lib/core/raster/picture';
import type { Part } from '../training/hands';
import { scriptPage, type ScriptPage } from './otherScripts';

/** What people bring in that is no answer in the reader's own letters. */
export const STRANGE = [
	'other script',
	'answers in another script',
	'print',
	'pattern',
	'no page',
	'numbered print'
] as const;
export type StrangeKind = (typeof STRANGE)[number];

const LETTERS = 'aabcdeeefghiiklmnnoooprrssttuuvw';
/** Printed pages without anything that could be taken for a label. */
const PRINT: readonly PrintedKind[] = [
	'text',
	'columns',
	'framed',
	'chart',
	'staves',
	'plate',
	'map',
	'squares'
];

/** The nth page of a kind; labels and numbers that are on it are known, and all else is none. */
export function strangePage(kind: StrangeKind, part: Part, nth: number, firstSeed: number): ScriptPage {
	const seed = firstSeed + 17 * nth + 1009 * STRANGE.indexOf(kind);
	const bare = (picture: Picture): ScriptPage => ({ picture, labels: [] });
	switch (kind) {
		case 'other script':
			return scriptPage(part, nth, seed, false);
		case 'answers in another script':
			return scriptPage(part, nth, seed, true);
		case 'print': {
			const random = new Random(seed);
			const page = printedPage({
				seed,
				kind: PRINT[nth % PRINT.length]!,
				size: [1240, 1754],
				lines: random.whole(22, 60)
			});
			return bare(fullPage(page, random.pick(TAKES), seed).picture);
		}
		case 'numbered print':
			return bare(numberedPrint(nth, seed));
		case 'pattern':
			return bare(pattern(nth, seed));
		case 'no page':
			return bare(noPage(seed, SCENES[nth % SCENES.length]!, nth % 2 ? [1200, 900] : [900, 1200]));
	}
}

function emptyPage(paper: string, ink: string) {
	const [width, height] = [1240, 1754];
	const c = createCanvas(width, height).getContext('2d');
	c.fillStyle = paper;
	c.fillRect(0, 0, width, height);
	c.fillStyle = ink;
	return { c, width, height };
}

const NUMBERED = ['(#)', '[#]', '#.', '#', '#)'] as const;
const PATTERNS = ['squares', 'dots', 'codes', 'strokes'] as const;

/** A list of sources or of clauses, each with a number that is no question's, and words in place of sentences. */
function numberedPrint(nth: number, seed: number): Picture {
	const random = new Random(seed);
	const { c, width, height } = emptyPage('#f6f6f3', '#1b1b1b');
	const pitch = random.between(26, 46);
	const [left, behind] = [random.between(0.06, 0.16) * width, random.between(2.2, 3.4) * pitch];
	c.font = `${0.62 * pitch}px ${random.pick(printFonts())}`;
	const form = NUMBERED[nth % NUMBERED.length]!;
	const word = () => Array.from({ length: random.whole(2, 9) }, () => random.pick([...LETTERS])).join('');
	let number = random.whole(21, 60);
	for (let y = 0.07 * height; y < 0.93 * height; y += random.between(1, 2) * pitch) {
		c.fillText(form.replace('#', String(number)), left, y);
		number += random.whole(1, 4);
		for (let more = random.whole(1, 4); more > 0; more--, y += pitch) {
			c.fillText(Array.from({ length: random.whole(3, 9) }, word).join(' '), left + behind, y);
		}
	}
	const picture = fromCanvas(c, width, height);
	blur(picture, random.between(0.4, 1.1));
	addNoise(picture.data, random.between(1, 4), random);
	return picture;
}

/** Squares, dots or marks of a code in rows: like letters, and none. */
function pattern(nth: number, seed: number): Picture {
	const random = new Random(seed);
	const { c, width, height } = emptyPage('#f4f4f2', '#1a1a1a');
	const step = random.between(30, 150);
	const form = PATTERNS[nth % PATTERNS.length]!;
	const [x0, y0] = [random.between(0.05, 0.3) * width, random.between(0.05, 0.4) * height];
	for (let row = 0; y0 + row * step < 0.92 * height; row++) {
		for (let column = 0; x0 + column * step < 0.92 * width; column++) {
			const [x, y] = [x0 + column * step, y0 + row * step];
			if (form === 'squares' && (row + column) % 2 === 0) c.fillRect(x, y, step, step);
			if (form === 'codes' && random.chance(0.5)) c.fillRect(x, y, step, step);
			if (form === 'strokes' && random.chance(0.7)) {
				c.fillRect(x, y, random.between(0.06, 0.2) * step, random.between(0.3, 0.8) * step);
			}
			if (form === 'dots') {
				c.beginPath();
				c.arc(x + (row % 2 ? step / 2 : 0), y, 0.28 * step, 0, 2 * Math.PI);
				c.fill();
			}
		}
	}
	const picture = fromCanvas(c, width, height);
	blur(picture, random.between(0.4, 1.5));
	addNoise(picture.data, random.between(1, 5), random);
	return picture;
}
