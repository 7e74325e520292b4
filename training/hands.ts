import { existsSync, readdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { createCanvas, GlobalFonts } from '@napi-rs/canvas';
import type { Hand } from '../demo/generator/hands';

/** What a hand or a writer's digits may be used for. No hand is in two parts. */
export type Part = 'training' | 'tuning' | 'test';

/** For choosing between ways and for fitting confidences: nothing is trained on these. */
const TUNING = [
	'architects-daughter',
	'la-belle-aurore',
	'dekko',
	'marck-script',
	'grape-nuts',
	'swanky-and-moo-moo',
	'short-stack',
	'covered-by-your-grace',
	'waiting-for-the-sunrise',
	'yomogi',
	'neucha',
	'rock-salt',
	'give-you-glory',
	'beth-ellen'
];
/** For measuring only. */
const TEST = [
	'shadows-into-light',
	// Drawn by the same person.
	'shadows-into-light-two',
	'reenie-beanie',
	'coming-soon',
	'nothing-you-could-do',
	'gloria-hallelujah',
	'schoolbell',
	'the-girl-next-door',
	'mynerve',
	'over-the-rainbow',
	'crafty-girls',
	'homemade-apple',
	'julee',
	'walter-turncoat',
	'zeyada',
	'sedgwick-ave',
	'pangolin'
];

/** For what is written in other scripts (`bench/otherScripts.ts`): no hands. */
const OTHER_SCRIPTS = [
	'playpen-sans-arabic',
	'playpen-sans-hebrew',
	'playpen-sans-deva',
	'playpen-sans-thai',
	'amiri',
	'noto-sans-hebrew',
	'noto-sans-bengali',
	'noto-sans-tamil',
	'noto-sans-armenian',
	'noto-sans-georgian',
	'unifrakturmaguntia',
	'unifrakturcook'
];

const FOLDER = resolve('training/node_modules');
/** Height of a digit that all hands are set to, as a part of the size they are asked for. */
const DIGIT = 0.62;

let loaded: Record<Part, Hand[]> | null = null;

/** The handwriting fonts of one part; registers them on first use. @throws when `training/` is not installed */
export function handsOf(part: Part): readonly Hand[] {
	loaded ??= load();
	return loaded[part];
}

/** Where the packages of `training/` are. @throws when they are not installed */
export function trainingPackages(): string {
	if (!existsSync(FOLDER)) throw new Error('The hands are not installed: run npm ci in training/.');
	return FOLDER;
}

const PREFIX = 'writer-';

/** The file of a hand's font; null where there is none for our letters. @throws when `training/` is not installed */
export function fontFile(family: string): string | null {
	const folder = join(trainingPackages(), '@fontsource', family.slice(PREFIX.length), 'files');
	const files = readdirSync(folder).filter((f) => /-latin-\d+-normal\.woff2$/.test(f));
	const file = files.find((f) => f.includes('-latin-400-')) ?? files.sort()[0];
	return file ? join(folder, file) : null;
}

function load(): Record<Part, Hand[]> {
	const root = join(trainingPackages(), '@fontsource');
	const parts: Record<Part, Hand[]> = { training: [], tuning: [], test: [] };
	const c = createCanvas(8, 8).getContext('2d');
	for (const name of readdirSync(root).sort()) {
		if (OTHER_SCRIPTS.includes(name)) continue;
		const family = PREFIX + name;
		const file = fontFile(family);
		if (!file || !GlobalFonts.registerFromPath(file, family)) {
			throw new Error(`The handwriting font ${name} could not be loaded.`);
		}
		c.font = `100px ${family}`;
		const digit = c.measureText('5').actualBoundingBoxAscent / 100;
		const part = TEST.includes(name) ? 'test' : TUNING.includes(name) ? 'tuning' : 'training';
		parts[part].push({ family, scale: DIGIT / digit });
	}
	return parts;
}
