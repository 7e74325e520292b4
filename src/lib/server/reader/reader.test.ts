import { describe, expect, it } from 'vitest';
import { specimenPage } from '../../../../bench/situations';
import { testPhotograph } from '../../../../tests/support/pictures';
import { preparePage } from '../../core/page/preparePage';
import type { Picture } from '../../core/raster/picture';
import { detectLines } from './detect';
import { readTurn } from './readTurn';
import { recognise } from './recognise';

const LINES = ['the lode runs slower near the reeds', 'and read the meter for sixty seconds'];
const TABLE = [
	{ kind: 'label', text: '3b)' },
	{
		kind: 'table',
		rows: [
			['t', 'Q', 'h'],
			['12', '0.4', '1.1'],
			['13', '0.9', '1.4']
		]
	}
] as const;

function page(lines: readonly string[]): Picture {
	const { picture } = specimenPage(8, 8, { ruling: 'ruled', blocks: [{ kind: 'text', lines }] });
	const { width, height } = picture;
	const corners = [
		[0, 0],
		[width, 0],
		[width, height],
		[0, height]
	] as const;
	const tone = { name: 'colour', evenLight: true, inkWeight: 0 } as const;
	const { finished } = preparePage(picture, { corners, turn: 0, tone });
	if (finished.tone !== 'colour') throw new Error('not in colour');
	return finished.picture;
}

describe('reader', () => {
	it('finds the lines of a page, top down, and reads most of their letters', async () => {
		const picture = page(LINES);
		const boxes = await detectLines(picture);
		const texts: string[] = [];
		for (const box of boxes) texts.push((await recognise(picture, box)).text);
		const letters = (text: string) => text.toLowerCase().replace(/[^a-z]/g, '');
		const read = letters(texts.join(''));
		for (const line of LINES) {
			const words = line.split(' ').filter((word) => word.length > 2);
			const found = words.filter((word) => read.includes(word));
			expect(found.length / words.length).toBeGreaterThan(0.7);
		}
		expect(read.indexOf('lode')).toBeLessThan(read.indexOf('meter'));
	});

	it('finds nothing on an empty page, and then claims no turn', async () => {
		const { picture, corners } = testPhotograph(
			specimenPage(9, 6, { name: undefined, pageNumber: undefined, blocks: [] })
		);
		expect((await readTurn(picture, corners)).confidence).toBe(0);
	});

	it.each([0, 90, 180, 270] as const)(
		'knows which way is up, lying turned by %i: text and a table',
		async (lies) => {
			for (const blocks of [[{ kind: 'text', lines: LINES } as const], TABLE]) {
				const written = specimenPage(12, 7, { blocks });
				const { picture, corners, turn } = testPhotograph(written, { lies, seed: 12 });
				const found = await readTurn(picture, corners);
				expect(found.turn).toBe(turn);
				expect(found.confidence).toBeGreaterThan(0.35);
			}
		}
	);
});
