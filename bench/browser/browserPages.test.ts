import { describe, expect, it } from 'vitest';
import { Random } from '../../demo/generator/random';
import { isConvex } from '../../src/lib/core/sheet/geometry';
import { turnCorners } from '../../src/lib/core/sheet/turn';
import { LABEL_STYLES, someAnswers, someQuestions } from './answers';
import { photographMarkup, someCamera } from './photographMarkup';
import { ontoSheets, sheetMarkup, someWriter } from './sheetMarkup';

const SEEDS = [1, 2, 3, 4, 5, 6, 7, 8];

describe('answers for a browser', () => {
	it.each(LABEL_STYLES.map((style) => [style.ofPart('2', 'b'), style] as const))(
		'answer every part once and in order, and lose none on the way to their sheets: %s',
		(_, style) => {
			for (const seed of SEEDS) {
				const random = new Random(seed);
				const questions = someQuestions(random);
				const answers = someAnswers(random, questions, style);
				const asked = questions.flatMap(({ label, parts = [] }) =>
					parts.length > 0 ? parts.map((part) => label + part.label) : [label]
				);
				expect(answers.map((a) => a.question).filter((q) => asked.includes(q))).toEqual(asked);
				const writer = someWriter(random, '', null, style);
				const sheets = ontoSheets(answers, writer);
				expect(sheets.flat()).toEqual(answers);
				const shown = sheets.map((onIt) =>
					sheetMarkup(random, writer, { answers: onIt, name: null, title: null, number: '1' })
				);
				const labels = shown.flatMap((markup) => [...markup.matchAll(/data-question="(\w+)"/g)]);
				expect(labels.map(([, question]) => question)).toEqual(answers.map((a) => a.question));
			}
		}
	);
});

describe('photographs by a browser', () => {
	it('say where the sheet lies, and how it is turned to be upright', () => {
		const turns = new Set<number>();
		for (const seed of SEEDS) {
			const random = new Random(seed);
			const { size, corners, turn } = photographMarkup(random, someCamera(random, []), 'sheet.png');
			turns.add(turn);
			expect(isConvex(corners)).toBe(true);
			expect(size[0] > size[1]).toBe(turn === 90 || turn === 270);
			// Clockwise from the corner nearest to the picture's top left: turned, they begin with the sheet's own first.
			const nearest = corners.reduce((a, b) => (a[0] + a[1] < b[0] + b[1] ? a : b));
			const from = corners.indexOf(nearest);
			const asFound = corners.map((_, i) => corners[(from + i) % 4]!) as unknown as typeof corners;
			expect(turnCorners(asFound, turn)[0]).toEqual(corners[0]);
		}
		expect(turns.size).toBeGreaterThan(2);
	});
});
