import { describe, expect, it } from 'vitest';
import { specimenPage } from '../../../../bench/situations';
import { testPhotograph } from '../../../../tests/support/pictures';
import { unknownLetters } from '../../../../tests/support/unknownLetters';
import { TRUST_READING } from '../../core/page/effective';
import { preparePage } from '../../core/page/preparePage';
import { labelForms } from '../../core/reading/labelForms';
import { namedLabels } from '../../core/reading/namedLabels';
import { readNumber } from '../../core/reading/pageNumber';
import { pageReading } from '../../core/reading/pageReading';
import { nameOnPage } from '../../core/reading/personName';
import { wholePicture } from '../../core/sheet/geometry';
import { greyOf } from '../../core/tone/finish';
import type { Picture } from '../../core/raster/picture';
import { detectLines } from './detect';
import { lookAtPage, withSecondOpinion } from './lookAtPage';
import { sessionOf } from './models';
import { readTurn } from './readTurn';
import { recognise } from './recognise';
import { beginReading, finishReading, wholeReading } from './wholeReading';

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
	if (finished.holds !== 'colours') throw new Error('not in colour');
	return finished.picture;
}

describe('models', () => {
	it('say what to do when they are damaged', async () => {
		const half = new Uint8Array(5000).fill(7);
		await expect(sessionOf('recogniser', half)).rejects.toThrow(/damaged.*MEMBRANA_READER=off/);
	});
});

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

	it('is not sure of letters that nobody has', async () => {
		const picture = unknownLetters(4123);
		const { confidence } = await readTurn(picture, wholePicture(picture.width, picture.height));
		expect(confidence).toBeLessThan(TRUST_READING);
	});

	it.each([180, 270] as const)(
		'knows it on dark squares as well, lying turned by %i, where the general reader sees no lines',
		async (lies) => {
			const written = specimenPage(12, 7, { blocks: [{ kind: 'text', lines: LINES }] });
			const { width, height, data } = written.picture;
			const squares = data.slice();
			for (let y = 0; y < height; y++) {
				for (let x = 0; x < width; x++) {
					if (x % 21 > 1 && y % 21 > 1) continue;
					for (let i = 3 * (y * width + x), end = i + 3; i < end; i++) squares[i] = Math.min(squares[i]!, 90);
				}
			}
			const picture = { ...written.picture, data: squares };
			const shot = testPhotograph({ ...written, picture }, { lies, seed: 12, size: [1800, 2400] });
			const found = await readTurn(shot.picture, shot.corners);
			expect(found.turn).toBe(shot.turn);
			expect(found.confidence).toBeGreaterThan(0.35);
		}
	);

	it.each(['circled', undefined] as const)(
		'reads to its end what was begun, labels %s, as in one go',
		async (mark) => {
			const { picture } = specimenPage(8, 8, {
				ruling: 'ruled',
				pageNumber: 'p. 2/4',
				blocks: [
					{ kind: 'label', text: '4b)', mark },
					{ kind: 'text', lines: LINES }
				]
			});
			const { width, height } = picture;
			const tone = { name: 'greyscale', evenLight: true, inkWeight: 0 } as const;
			const { finished, facts } = preparePage(picture, {
				corners: wholePicture(width, height),
				turn: 0,
				tone
			});
			const forms = labelForms([{ label: '4', parts: [{ label: 'a' }, { label: 'b' }] }]);
			const page = [greyOf(finished), facts.dotsPerInch] as const;
			const begun = await beginReading(...page, forms);
			expect(begun).toMatchObject({ reading: { startsOnly: true }, toRead: { framed: mark !== undefined } });
			expect(begun.reading.labels.length).toBeGreaterThan(0);
			const kept = JSON.parse(JSON.stringify(begun)) as typeof begun;
			const whole = await wholeReading(...page, forms);
			expect(whole.lines.map((line) => line.text).join(' ')).toContain('meter');
			expect(await finishReading(...page, kept)).toEqual(whole);
		}
	);

	it('sees labels in the margin, a page number and a name, before it reads any line', async () => {
		const { picture } = specimenPage(8, 8, {
			ruling: 'ruled',
			name: 'Ilka Brandsma',
			pageNumber: 'p. 2/4',
			blocks: [
				{ kind: 'label', text: 'Q3' },
				{ kind: 'text', lines: LINES },
				{ kind: 'label', text: '4b)', mark: 'circled' },
				{ kind: 'text', lines: LINES }
			]
		});
		const { width, height } = picture;
		const tone = { name: 'greyscale', evenLight: true, inkWeight: 0 } as const;
		const { finished, facts } = preparePage(picture, { corners: wholePicture(width, height), turn: 0, tone });
		const plane = greyOf(finished);
		const looked = await lookAtPage(plane, facts.dotsPerInch);
		const forms = labelForms([{ label: '3' }, { label: '4', parts: [{ label: 'a' }, { label: 'b' }] }]);
		const reading = pageReading([], looked.read, [plane.width, plane.height], forms);
		expect(namedLabels(reading.labels).map((l) => l.question)).toEqual(['3', '4b']);
		expect(readNumber(reading.numbers)).toMatchObject({ number: 2, of: 4 });
		const roster = [
			{ given: 'Ilka', family: 'Brandsma' },
			{ given: 'Noor', family: 'Okoro' }
		];
		expect(nameOnPage(reading, roster)!.person).toBe(roster[0]);
		expect(looked.starts).toHaveLength(looked.lines.length);
		// The general reader sees what ours sees, or nothing.
		const label = looked.read.findIndex((r) => r.text.startsWith('q3'));
		const twice = await withSecondOpinion(looked, label);
		expect(twice.posteriors.filter((p) => !p.caseless)).toHaveLength(1);
	});
});
