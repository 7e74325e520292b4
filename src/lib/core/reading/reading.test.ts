import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hands } from '../../../../demo/generator/hands';
import { writtenPage, type WrittenLabel } from '../../../../demo/generator/writtenPage';
import { mixed, posterior, readLine, textLines } from '../../../../tests/support/reading';
import { components } from '../raster/components';
import { luma } from '../raster/luma';
import { blackAndWhite } from '../tone/blackAndWhite';
import { ALIKE_FEATURES, weighedByOthers } from './alikeLabels';
import { ALIKE_WEIGHTS } from './alikeWeights';
import { describeLabels, FEATURES } from './describeLabels';
import { findText } from './findText';
import { findFrames } from './frames';
import { labelCandidates } from './labelCandidates';
import { labelForms } from './labelForms';
import { WEIGHTS } from './labelWeights';
import { NAME_WEIGHTS } from './nameWeights';
import { NUMBER_WEIGHTS } from './numberWeights';
import { NAME_FEATURES } from './rosterNames';
import { CLASSES, classOf, NOTHING, type LinePosterior } from './linePosterior';
import { packPosterior } from './packedPosterior';
import { shortText } from './shortAlphabet';
import { namedLabels } from './namedLabels';
import { NUMBER_FEATURES, pageNumberOptions, readNumber } from './pageNumber';
import { nameOnPage, otherThan } from './personName';
import { scoreStrings } from './scoreStrings';
import { similarity } from './similarity';
import { addTo, emptyTrie } from './trie';

const SIZE = [1400, 2000] as const;
const QUESTIONS = [
	{ label: '1' },
	{ label: '2', parts: [{ label: 'a' }, { label: 'b' }] },
	{ label: '3', parts: [{ label: 'a' }, { label: 'b' }, { label: 'c' }] },
	{ label: '4' },
	{ label: '5' }
];
const FORMS = labelForms(QUESTIONS);
const BODY = textLines(400, [
	'the lode runs slower near the reeds',
	'so we took three verticals here',
	'and read the meter for a minute'
]);

/** What a page whose first line is labelled in the margin is taken for. */
function labelOn(text: string, kind: 'line' | 'framed' = 'line', forms = FORMS): string | null {
	const written = readLine(text, [60, 400, 60 + 26 * text.length, 450], kind);
	const [found] = labelCandidates([written, ...BODY], SIZE, forms);
	const best = found?.options[0];
	return best && best.probability > 0.5 ? `${best.question ?? ''}${best.part ?? ''}` : null;
}

describe('scoreStrings', () => {
	it('gives the probability of a whole line, summed over every way to write it', () => {
		// Four steps, three classes: brute force over all 81 paths.
		const letters = [NOTHING, classOf('1'), classOf('x')];
		const rows = fc.array(
			fc.tuple(
				fc.integer({ min: 1, max: 9 }),
				fc.integer({ min: 1, max: 9 }),
				fc.integer({ min: 1, max: 9 })
			),
			{
				minLength: 4,
				maxLength: 4
			}
		);
		fc.assert(
			fc.property(rows, (weights) => {
				const line: LinePosterior = { steps: 4, data: new Float32Array(4 * CLASSES) };
				weights.forEach((row, t) => {
					const sum = row[0] + row[1] + row[2];
					row.forEach((w, k) => (line.data[t * CLASSES + letters[k]!] = w / sum));
				});
				const trie = emptyTrie<string>();
				for (const text of ['x', 'xx']) addTo(trie, text, text, 1);
				const scored = new Map(scoreStrings(line, trie).map((s) => [s.value, s.whole]));
				const exact = (text: string) => {
					let sum = 0;
					for (let path = 0; path < 81; path++) {
						const steps = [0, 1, 2, 3].map((t) => Math.floor(path / 3 ** t) % 3);
						const written = steps
							.filter((k, t) => k !== 0 && (t === 0 || steps[t - 1] !== k))
							.map((k) => ['', '1', 'x'][k]!)
							.join('');
						if (written !== text) continue;
						sum += steps.reduce((p, k, t) => p * line.data[t * CLASSES + letters[k]!]!, 1);
					}
					return sum;
				};
				for (const text of ['x', 'xx']) expect(scored.get(text)).toBeCloseTo(exact(text), 5);
			})
		);
	});

	it('tells a whole line from one that goes on, after a space or at once', () => {
		const trie = emptyTrie<string>();
		addTo(trie, '3', '3', 1);
		const [alone] = scoreStrings(posterior('3', 1), trie);
		const [apart] = scoreStrings(posterior('3 to', 1), trie);
		const [joined] = scoreStrings(posterior('30', 1), trie);
		expect(alone).toMatchObject({ whole: 1, parted: 0, joined: 0 });
		expect(apart).toMatchObject({ whole: 0, parted: 1, joined: 0 });
		expect(joined).toMatchObject({ whole: 0, parted: 0, joined: 1 });
	});
});

it('has a weight for everything that is described', () => {
	expect([WEIGHTS.own.length, WEIGHTS.both.length]).toEqual([FEATURES.length, FEATURES.length]);
	expect(NUMBER_WEIGHTS).toHaveLength(NUMBER_FEATURES.length);
	expect(ALIKE_WEIGHTS).toHaveLength(ALIKE_FEATURES.length);
	expect(NAME_WEIGHTS).toHaveLength(NAME_FEATURES.length);
});

describe('labels', () => {
	it.each([
		['Q4', '4'],
		['4.', '4'],
		['4)', '4'],
		['(4)', '4'],
		['Question 4', '4'],
		['Qu 4', '4'],
		['No. 4', '4'],
		['3 (b)', '3b'],
		['3b)', '3b'],
		['3.b', '3b'],
		['Q3b', '3b'],
		['Question 3 (b)', '3b'],
		['(b)', 'b'],
		['b)', 'b'],
		['(3b)', '3b'],
		['[3b]', '3b'],
		// Usual confusions.
		['QZ', '2'],
		['Ql', '1'],
		['Q5.', '5'],
		['QS', '5'],
		['l)', '1'],
		['3 (6)', '3b']
	])('reads %s in the margin as %s', (written, meant) => {
		expect(labelOn(written)).toBe(meant);
	});

	it.each(['12.10.26', 'mean', 'wide', '1984'])('takes no label from %s', (text) => {
		expect(labelOn(text)).toBeNull();
	});

	it.each(['Q / m3 s-1', 'Q 1 m3 s=1', 'Q 1 m3 s 1', 'Q (m/s)', 'q in cm', 'Q 1 m'])(
		'takes none from %s, which an axis says',
		(text) => expect(labelOn(text)).toBeNull()
	);

	it.each([
		'3.14 was the mean of them',
		'0.5 m apart, as before',
		'4 verticals were enough',
		'a lag of 7 hours'
	])('takes none from a line that begins %s', (text) => {
		const lines = [
			BODY[0]!,
			readLine(text, [210, 460, 620, 510]),
			...textLines(520, ['and so on to the end'])
		];
		expect(labelCandidates(lines, SIZE, FORMS).filter((c) => c.options[0]!.probability > 0.4)).toEqual([]);
	});

	it('takes none from a row of a table', () => {
		const row = ['1', '0.22', '0.18', '0.020'].map((t, i) =>
			readLine(t, [230 + 250 * i, 700, 290 + 250 * i, 745])
		);
		expect(
			labelCandidates([...BODY, ...row], SIZE, FORMS).filter((c) => c.options[0]!.probability > 0.4)
		).toEqual([]);
	});

	it('takes none from a list that stands further in, but from answers of a line each', () => {
		const from = (left: number) => {
			const items = ['1. rod to the bed', '2. count the turns', '3. read the time'].map((text, i) =>
				readLine(text, [left, 580 + 60 * i, left + 18 * text.length, 630 + 60 * i])
			);
			const after = textLines(760, ['so that the mean of them is known', 'for each of the verticals']);
			return labelCandidates([...BODY, ...items, ...after], SIZE, FORMS)
				.filter((c) => c.options[0]!.probability > 0.5)
				.map((c) => c.options[0]!.question);
		};
		expect(from(300)).toEqual([]);
		expect(from(60)).toEqual(['1', '2', '3']);
	});

	it.each([
		['1. C', '2. A', '3. true', '4. B', '5. both'],
		['1) the larger one', '2) because of the reeds', '3) near the bank', '4) bent by the stream', '5) enough']
	])('takes all of a page of answers of a line each: %s, %s …', (...answers) => {
		const lines = answers.map((text, i) =>
			readLine(text, [210, 400 + 60 * i, 210 + 18 * text.length, 450 + 60 * i])
		);
		const named = namedLabels(weighedByOthers([labelCandidates(lines, SIZE, FORMS)])[0]!);
		expect(named.map((label) => label.question)).toEqual(['1', '2', '3', '4', '5']);
	});

	it('takes none from a bullet or a stray stroke', () => {
		for (const text of ['-', '+', '·']) {
			const mark = { ...readLine(text, [60, 400, 86, 450], 'mark'), posteriors: [posterior('1')] };
			expect(labelCandidates([mark, ...BODY], SIZE, FORMS)).toEqual([]);
		}
	});

	it('asks a framed label and the line that begins with it both', () => {
		const framed = { ...readLine('4.', [60, 400, 112, 450], 'framed'), posteriors: [mixed('4.', 'b.', 0.9)] };
		const line = {
			...readLine('b. the mean', [60, 402, 400, 450]),
			posteriors: [mixed('b. the', '4. the', 0.8)]
		};
		const alone = labelCandidates([framed, ...BODY], SIZE, FORMS);
		expect(alone[0]!.options[0]).toMatchObject({ question: '4', part: null });
		const both = labelCandidates([framed, line, ...BODY], SIZE, FORMS);
		expect(both).toHaveLength(1);
		const of = (found: typeof both) => found[0]!.options.find((o) => o.part === 'b')!.probability;
		expect(of(both)).toBeGreaterThan(of(alone));
		expect(both[0]!.options.reduce((sum, o) => sum + o.probability, 0)).toBeLessThanOrEqual(1);
	});

	it('takes "1." and "c)" of "1. c)", each also found by itself, for one', () => {
		const row = readLine('1. c) the mean', [110, 400, 660, 450]);
		const cut = { ...row, posteriors: [posterior('1. c) the mean'), posterior('1.')] };
		const inner = readLine('c) the mean', [150, 402, 660, 452]);
		for (const lines of [
			[row],
			[row, inner],
			[cut],
			[cut, inner],
			[inner, readLine('1.', [110, 402, 136, 450], 'mark')]
		]) {
			// Of lines further down the general reader's confusions may say something, but nothing that is believed.
			const all = labelCandidates([...lines, ...BODY], SIZE, labelForms(null));
			const found = all.filter((c) => c.y < 0.21);
			expect(all.filter((c) => c.y >= 0.21 && c.options[0]!.probability > 0.1)).toEqual([]);
			expect(found).toHaveLength(1);
			expect(found[0]!.options[0]).toMatchObject({ question: '1', part: 'c' });
		}
	});

	it('takes a sign right before digits for the point of a value or a date', () => {
		const general = labelForms(null);
		const said = (text: string) =>
			describeLabels([readLine(text, [210, 400, 210 + 18 * text.length, 450])], SIZE, general)
				.filter(({ meaning }) => meaning.part !== null && meaning.question === '1')
				.map(({ features }) => features[FEATURES.indexOf('log score')]!);
		const [dated] = said('1d.1126');
		const [labelled] = said('1d. the mean');
		expect(dated ?? -5).toBeLessThan(labelled! - 2);
	});

	it('takes no part from the digits of a value: "32.0" is not "3a"', () => {
		const said = describeLabels([readLine('32.0 metre', [210, 400, 390, 450])], SIZE, labelForms(null));
		expect(said.filter(({ meaning }) => meaning.question === '3')).toEqual([]);
	});

	it('goes by the cut in which a sign is seen, wherever that comes', () => {
		const form = (...texts: string[]) => {
			const line = {
				...readLine(texts[0]!, [210, 400, 300, 450]),
				posteriors: texts.map((t) => posterior(t))
			};
			return describeLabels([line, ...BODY], SIZE, labelForms(null)).find(
				(o) => o.line === 0 && o.meaning.question === '8' && o.meaning.part === null
			)!.meaning.form;
		};
		expect([form('8'), form('8)'), form('8', '8)'), form('8)', '8')]).toEqual([
			'bare',
			'signed',
			'signed',
			'signed'
		]);
	});

	it('reads them at the start of a line, run into it', () => {
		const [first, ...rest] = BODY;
		const line = { ...readLine('Q4 the lode runs slower', [210, 400, 640, 450]) };
		expect(first).toBeDefined();
		const [found] = labelCandidates([line, ...rest], SIZE, FORMS);
		expect(found!.options[0]).toMatchObject({ question: '4', part: null });
		expect(found!.y).toBeCloseTo(0.2, 2);
	});

	it('as a word and its number, though a frame seems to stand around the word’s first letter', () => {
		const rest = textLines(500, ['the lode runs slower', 'near the reeds', 'read it again']);
		const frame = readLine('e', [60, 400, 80, 450], 'framed');
		const found = labelCandidates(
			[frame, readLine('Ex. 3', [62, 400, 140, 450]), ...rest],
			SIZE,
			labelForms(null)
		);
		expect(found[0]!.options[0]).toMatchObject({ question: '3', part: null });
		expect(found[0]!.options.some((o) => o.part === 'e' && o.question === null)).toBe(false);
	});

	it('with its sign, where one is read, and knows what else stands in a frame', () => {
		const general = labelForms(null);
		const described = (text: string) =>
			describeLabels([readLine(text, [60, 400, 160, 450], 'framed')], SIZE, general).map(
				({ meaning: { question, part, form }, features }) => ({
					says: (question ?? '') + (part ?? ''),
					form,
					behind: features[FEATURES.indexOf('framed, letters behind')]
				})
			);
		expect(described('8. c)')).toContainEqual({ says: '8c', form: 'signed', behind: 0 });
		expect(described('8. c)')).toContainEqual({ says: '8', form: 'signed', behind: 1 });
		expect(described('3c')).toContainEqual({ says: '3c', form: 'bare', behind: 0 });
	});

	it('without an assignment, by the general grammar', () => {
		const general = labelForms(null);
		expect(labelOn('Q17', 'line', general)).toBe('17');
		expect(labelOn('9 (f)', 'line', general)).toBe('9f');
	});
});

describe('page numbers', () => {
	const on = (text: string, box: readonly [number, number, number, number] = [1120, 90, 1250, 140]) =>
		pageNumberOptions([readLine(text, box), ...BODY], SIZE)[0];
	it.each([
		['p. 2/4', 2, 4],
		['2 of 4', 2, 4],
		['Page 2 of 4', 2, 4],
		['page 12', 12, null],
		['-3-', 3, null],
		['- 3 -', 3, null],
		['p7', 7, null],
		['5', 5, null],
		// A crossed seven, a hooked one, and a count that was not read.
		['p. 3/+', 3, 7],
		['p. +/7', 7, 7],
		['Page 4 of ?', 4, 7],
		['p. 5/', 5, null],
		['Page 4 of', 4, null]
	] as const)('reads %s', (text, number, of) => {
		expect(on(text)).toMatchObject({ number, of });
	});
	it('reads them behind a name, and in the foot', () => {
		expect(on('Ilka Brandsma p. 3/4', [500, 90, 1250, 140])).toMatchObject({ number: 3, of: 4 });
		expect(on('6', [690, 1900, 715, 1945])).toMatchObject({ number: 6, of: null });
	});
	it('takes no sign alone for a seven', () => {
		expect(on('+')).toBeUndefined();
		expect(on('?', [690, 1900, 715, 1945])).toBeUndefined();
	});
	it('adds up what counts of pages a number stands beside; one that is not sure is none', () => {
		const options = [
			{ number: 3, of: null, probability: 0.4 },
			{ number: 1, of: 7, probability: 0.3 },
			{ number: 1, of: null, probability: 0.25 }
		];
		expect(readNumber(options)).toEqual({ number: 1, of: 7, probability: 0.55 });
		expect(readNumber(options.slice(0, 2))).toBeNull();
		expect(readNumber([])).toBeNull();
	});
	it("takes no number for the page's that only ends something written apart, but one between dashes", () => {
		const beside = (...lines: ReturnType<typeof readLine>[]) =>
			pageNumberOptions([...lines, ...BODY], SIZE)[0];
		const nine = readLine('9', [1220, 95, 1245, 135]);
		expect(beside(nine)).toMatchObject({ number: 9 });
		expect(beside(readLine('of', [1150, 90, 1195, 140]), nine)).toBeUndefined();
		const dashes = [readLine('', [1170, 112, 1200, 117]), readLine('', [1262, 112, 1290, 117])];
		expect(beside(...dashes, nine)).toMatchObject({ number: 9 });
	});
	it('reads what stands beside each other as one, and a word for a page as no number', () => {
		const top = (...lines: ReturnType<typeof readLine>[]) => pageNumberOptions([...lines, ...BODY], SIZE)[0];
		const word = { ...readLine('pg', [1150, 90, 1195, 140]), posteriors: [mixed('pg', 'p9', 0.8)] };
		expect(top(word)?.probability ?? 0).toBeLessThan(0.5);
		expect(top(word, readLine('12', [1215, 92, 1265, 136]))).toMatchObject({ number: 12, of: null });
		const other = { ...readLine('p9', [1150, 90, 1195, 140]), posteriors: [mixed('p9', 'pg', 0.9)] };
		expect(top(other)).toMatchObject({ number: 9 });
		expect(top(other, readLine('5', [1215, 92, 1245, 136]))?.number).not.toBe(9);
		expect(top(readLine('3', [1130, 92, 1155, 136]), readLine('of 4', [1185, 90, 1260, 140]))).toMatchObject({
			number: 3,
			of: 4
		});
		expect(top(readLine('[6]', [1150, 90, 1230, 140]))).toMatchObject({ number: 6, of: null });
	});
	it('takes no number from the writing, or from a number beside other words in the header', () => {
		expect(on('p. 2/4', [1120, 700, 1250, 750])).toBeUndefined();
		expect(on('Gauge 3', [500, 90, 700, 140])).toBeUndefined();
	});
});

describe('names', () => {
	const ROSTER = [
		{ given: 'Ilka', family: 'Brandsma' },
		{ given: 'Tobias', family: 'Okoro-Lind' },
		{ given: 'Ilse', family: 'Brandt' }
	];
	const at = (text: string, y = 0.05) =>
		nameOnPage(
			{
				lines: [{ box: [0.4, y, 0.6, y + 0.02], text, confidence: 0.9 }],
				header:
					y < 0.13
						? [{ box: [0.1, y, 0.5, y + 0.02], text, posterior: packPosterior(posterior(shortText(text))) }]
						: []
			},
			ROSTER
		);
	it.each([
		'Ilka Brandsma',
		'IIka Brandsma',
		'lka Brandsma p. 2/4',
		'Brandsma, Ilka',
		'I. Brandsma',
		'Name: Ilka Brandsna'
	])('knows %s', (text) => {
		expect(at(text)!.person).toEqual(ROSTER[0]);
		expect(at(text)!.confidence).toBeGreaterThan(0.5);
	});
	it('knows nobody in other words, and looks at the top only', () => {
		expect(at('the lode runs slower')).toBeNull();
		expect(at('Ilka Brandsma', 0.5)).toBeNull();
	});
	it('gives a name that is not on the roster without a person', () => {
		expect(at('Amara Dellacroix')).toMatchObject({ text: 'Amara Dellacroix', person: null });
		expect(at('Amara Dellacroix')!.confidence).toBeGreaterThan(0.5);
		expect(at('Amara Dellacroix p. 2')!.confidence).toBeGreaterThan(0.5);
	});
	it.each(['UNDER THE BRIDGE', 'Older Willows lean over the water'])('is not sure of "%s"', (title) => {
		expect(at(title)!.confidence).toBeLessThan(0.5);
	});
	it('takes a word and a letter for no name', () => {
		expect(at('Repairs A')).toBeNull();
	});
	it('tells whose page it is not', () => {
		expect(otherThan(ROSTER[1]!, at('Ilka Brandsma'))).toBe('Ilka Brandsma');
		expect(otherThan(ROSTER[0]!, at('Ilka Brandsma'))).toBeNull();
	});
	it('measures likeness from nothing alike to the same', () => {
		fc.assert(
			fc.property(fc.string({ maxLength: 12 }), fc.string({ maxLength: 12 }), (a, b) => {
				const s = similarity(a, b);
				expect(s).toBeGreaterThanOrEqual(0);
				expect(s).toBeLessThanOrEqual(1);
				expect(similarity(b, a)).toBeCloseTo(s, 9);
			})
		);
		expect(similarity('lode', 'lode')).toBe(1);
	});
});

describe('findText', () => {
	const lines = ['The recession is slower', 'because the peat lets go', 'Ångström and the sluice'].map(
		(text, i) => ({
			box: [0.1, 0.1 * i, 0.5, 0.1 * i + 0.03] as const,
			text,
			confidence: 0.9
		})
	);
	const found = (query: string) =>
		findText([{ page: 'p', lines }], query).map(({ line, from, to }) => line.text.slice(from, to));
	it('finds words whatever their case and accents, and where a letter in five is misread', () => {
		expect(found('RECESSION')).toEqual(['recession']);
		expect(found('angstrom')).toEqual(['Ångström']);
		expect(found('recesston')).toEqual(['recession']);
		expect(found('the')).toEqual(['The', 'the', 'the']);
	});
	it('finds nothing for other words, or for less than two letters', () => {
		expect(found('hydrograph')).toEqual([]);
		expect(found('t')).toEqual([]);
		expect(found('   ')).toEqual([]);
	});
});

describe('frames and marks', () => {
	const LETTER = 18;
	const STROKE = 3;
	function inkOf(mark: WrittenLabel['mark'], text = 'Q3') {
		const { picture } = writtenPage({
			seed: 4,
			hand: hands()[2]!,
			paper: 'A5',
			ruling: 'plain',
			ink: [20, 20, 30],
			scale: 7,
			blocks: [
				{ kind: 'label', text, mark },
				{ kind: 'text', lines: ['Over the bed of the Ode', 'we took a Deep reading'] }
			]
		});
		const page = luma(picture);
		const ink = blackAndWhite(page, 178).data.map((v) => (v === 0 ? 1 : 0));
		return { ink, width: page.width, height: page.height };
	}
	it.each(['circled', 'boxed', 'underlined'] as const)('finds what is %s and leaves its letters', (mark) => {
		const { ink, width, height } = inkOf(mark);
		const { list, labels } = components(ink, width, height);
		const frames = findFrames(list, labels, width, LETTER, STROKE);
		expect(frames).toHaveLength(1);
		const plain = inkOf(undefined);
		const letters = components(plain.ink, width, height).list.filter(
			(c) => c.x1 < 0.18 * width && c.area > 8
		);
		const [x0, y0, x1, y1] = frames[0]!.inside;
		for (const letter of letters) {
			expect((letter.x0 + letter.x1) / 2).toBeGreaterThan(x0 - 2);
			expect((letter.x0 + letter.x1) / 2).toBeLessThan(x1 + 2);
			expect((letter.y0 + letter.y1) / 2).toBeGreaterThan(y0 - 2);
			expect((letter.y0 + letter.y1) / 2).toBeLessThan(y1 + 2);
		}
	});
	it('takes no round letter for a ring', () => {
		const { ink, width, height } = inkOf(undefined, 'O');
		const { list, labels } = components(ink, width, height);
		expect(findFrames(list, labels, width, LETTER, STROKE)).toEqual([]);
	});
});
