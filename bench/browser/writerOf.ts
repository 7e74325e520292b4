import { readFile } from 'node:fs/promises';
import type { Random } from '../../demo/generator/random';
import { fontFile, handsOf, type Part } from '../../training/hands';
import { LABEL_STYLES } from './answers';
import { someWriter, type BrowserWriter } from './sheetMarkup';

/** One of the hands of a part, each in turn. */
export function handAt(part: Part, nth: number): string {
	const hands = handsOf(part);
	return hands[nth % hands.length]!.family;
}

/** Somebody who writes in a hand. */
export async function writerOf(
	random: Random,
	hand: string,
	digits: BrowserWriter['digits']
): Promise<BrowserWriter> {
	const font = `data:font/woff2;base64,${await readFile(fontFile(hand)!, 'base64')}`;
	return someWriter(random, font, digits, random.pick(LABEL_STYLES));
}
