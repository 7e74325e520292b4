import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { createCanvas, GlobalFonts, type SKRSContext2D } from '@napi-rs/canvas';
import { fromCanvas } from '../demo/generator/fromCanvas';
import { addNoise, blur } from '../demo/generator/light';
import { Random } from '../demo/generator/random';
import type { PlacedLabel } from '../demo/generator/writtenPage';
import type { Picture } from '../src/lib/core/raster/picture';
import { handsOf, trainingPackages, type Part } from '../training/hands';

/** A script that no reader here knows. */
export interface Script {
	/** First and last of its letters, by code point, or letters by themselves. */
	readonly letters: readonly [number, number] | string;
	readonly leftwards?: true;
}

/** A script, and a font that has its letters. */
interface ScriptInFont extends Script {
	readonly font: string;
	/** Which file of the font; all but one kind of old print have a file for each script. */
	readonly subset: string;
}

const LATIN = 'abcdefghijklmnopqrstuvwxyz';
/** Scripts that something is fitted on, and others for measuring; old print of one and the same alphabet is in both. */
export const SCRIPTS: Readonly<Record<'tuning' | 'test', readonly ScriptInFont[]>> = {
	tuning: [
		{ font: 'playpen-sans-arabic', subset: 'arabic', letters: [0x627, 0x64a], leftwards: true },
		{ font: 'playpen-sans-deva', subset: 'devanagari', letters: [0x915, 0x939] },
		{ font: 'noto-sans-bengali', subset: 'bengali', letters: [0x995, 0x9a8] },
		{ font: 'noto-sans-georgian', subset: 'georgian', letters: [0x10d0, 0x10f0] },
		{ font: 'bad-script', subset: 'cyrillic', letters: [0x430, 0x44f] },
		{ font: 'unifrakturmaguntia', subset: 'latin', letters: LATIN }
	],
	test: [
		{ font: 'amiri', subset: 'arabic', letters: [0x627, 0x64a], leftwards: true },
		{ font: 'playpen-sans-hebrew', subset: 'hebrew', letters: [0x5d0, 0x5ea], leftwards: true },
		{ font: 'noto-sans-hebrew', subset: 'hebrew', letters: [0x5d0, 0x5ea], leftwards: true },
		{ font: 'playpen-sans-thai', subset: 'thai', letters: [0xe01, 0xe2e] },
		{ font: 'noto-sans-tamil', subset: 'tamil', letters: 'கஙசஞடணதநபமயரலவழளறன' },
		{ font: 'noto-sans-armenian', subset: 'armenian', letters: [0x561, 0x586] },
		{ font: 'marck-script', subset: 'cyrillic', letters: [0x430, 0x44f] },
		{ font: 'unifrakturcook', subset: 'latin', letters: LATIN }
	]
};

/** How people name an answer in the margin of a page in their own script. */
const LABELS: readonly ((question: number, part: string) => readonly [text: string, question: string])[] = [
	(q) => [`${q})`, `${q}`],
	(q) => [`${q}.`, `${q}`],
	(q) => [`Q${q}`, `${q}`],
	(q, p) => [`${q}${p})`, `${q}${p}`],
	(q, p) => [`${q}. ${p})`, `${q}${p}`]
];

/** A page in another script; with labels and a number in the writer's Latin hand, or without. */
export interface ScriptPage {
	readonly picture: Picture;
	readonly labels: readonly PlacedLabel[];
	readonly pageNumber?: string;
}

const SIZE = [1654, 2339] as const;
const MILLIMETRE = SIZE[0] / 210;

/** The nth scanned page in a script that the reader does not know, in fonts and hands of one part. */
export function scriptPage(part: Part, nth: number, seed: number, answers: boolean): ScriptPage {
	const random = new Random(seed);
	const scripts = SCRIPTS[part === 'test' ? 'test' : 'tuning'];
	const script = scripts[nth % scripts.length]!;
	return drawScriptPage(script, loaded(script), () => random.pick(handsOf(part)).family, random, answers);
}

/**
 * A scanned page in some script.
 *
 * @param family a registered font that has its letters
 * @param handFamily the font that labels and numbers are written in, asked for when it is needed
 */
export function drawScriptPage(
	script: Script,
	family: string,
	handFamily: () => string,
	random: Random,
	answers: boolean
): ScriptPage {
	const canvas = createCanvas(...SIZE);
	const c = canvas.getContext('2d');
	c.fillStyle = '#f7f5ef';
	c.fillRect(0, 0, ...SIZE);
	const pitch = random.between(7, 11) * MILLIMETRE;
	const [left, right] = [random.between(14, 32) * MILLIMETRE, SIZE[0] - random.between(12, 25) * MILLIMETRE];
	const ink = random.pick(['#16161c', '#1c2a5c', '#3a3a3e']);
	if (random.chance(0.5)) rules(c, pitch);
	const labels: PlacedLabel[] = [];
	const hand = handFamily();
	let question = 1;
	let gap = 0;
	for (let line = 2; (line + 2) * pitch < SIZE[1]; line++, gap--) {
		const y = line * pitch;
		if (gap > 0 && random.chance(0.08)) continue;
		if (gap <= 0) {
			gap = random.whole(4, 11);
			if (answers && question < 6) {
				const [text, asked] = random.pick(LABELS)(question++, random.pick(['a', 'b']));
				c.font = `${0.62 * pitch}px ${hand}`;
				c.fillStyle = ink;
				c.textAlign = 'left';
				const x = script.leftwards
					? right + 1.5 * MILLIMETRE
					: left - c.measureText(text).width - 0.3 * pitch;
				c.fillText(text, x, y);
				labels.push({ text, x: x / SIZE[0], y: (y - 0.5 * pitch) / SIZE[1], question: asked });
			}
		}
		writeLine(c, script, family, random, [left, right, y], 0.6 * pitch, ink);
	}
	let pageNumber: string | undefined;
	if (answers && random.chance(0.5)) {
		pageNumber = random.pick(['p. #/4', '#', '#/4']).replace('#', String(random.whole(1, 4)));
		c.font = `${0.6 * pitch}px ${hand}`;
		c.textAlign = 'left';
		c.fillText(pageNumber, SIZE[0] - 28 * MILLIMETRE, 12 * MILLIMETRE);
	}
	const picture = fromCanvas(c, ...SIZE);
	blur(picture, random.between(0.5, 1.2));
	addNoise(picture.data, random.between(1, 4), random);
	return { picture, labels, pageNumber };
}

function writeLine(
	c: SKRSContext2D,
	script: Script,
	family: string,
	random: Random,
	[left, right, y]: readonly [number, number, number],
	size: number,
	ink: string
): void {
	c.font = `${size}px ${family}`;
	c.fillStyle = ink;
	c.textAlign = script.leftwards ? 'right' : 'left';
	let text = '';
	const end = random.chance(0.8) ? right : left + random.between(0.2, 0.8) * (right - left);
	for (;;) {
		const longer = `${text}${word(script, random)} `;
		if (c.measureText(longer).width > end - left) break;
		text = longer;
	}
	c.fillText(text.trimEnd(), script.leftwards ? right : left, y);
}

function word({ letters }: Script, random: Random): string {
	return Array.from({ length: random.whole(2, 8) }, () =>
		typeof letters === 'string'
			? random.pick([...letters])
			: String.fromCodePoint(random.whole(letters[0], letters[1]))
	).join('');
}

function rules(c: SKRSContext2D, pitch: number): void {
	c.strokeStyle = '#b9c4d8';
	c.lineWidth = 2;
	for (let y = 2 * pitch + 4; y < SIZE[1]; y += pitch) {
		c.beginPath();
		c.moveTo(0, y);
		c.lineTo(SIZE[0], y);
		c.stroke();
	}
}

const families = new Set<string>();

function loaded({ font, subset }: ScriptInFont): string {
	const family = `script-${font}`;
	if (families.has(family)) return family;
	const folder = join(trainingPackages(), '@fontsource', font, 'files');
	const files = readdirSync(folder).filter((f) => f.startsWith(`${font}-${subset}-`) && f.endsWith('.woff2'));
	const file = files.find((f) => f.includes('-400-normal')) ?? files.find((f) => f.includes('-normal'));
	if (!file || !GlobalFonts.registerFromPath(join(folder, file), family)) {
		throw new Error(`The font ${font} could not be loaded.`);
	}
	families.add(family);
	return family;
}
