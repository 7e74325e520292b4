import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { posterior } from '../../../../tests/support/reading';
import { packPosterior } from '../reading/packedPosterior';
import type { PageReading, TextLine } from '../reading/pageReading';
import { shortText } from '../reading/shortAlphabet';
import { inOrder, newCode, splitAmong } from './codes';
import { cutOutsOf } from './cutOuts';
import { hideInk, type Samples } from './hideInk';
import { BETWEEN, HEADING, layOut } from './layOut';
import { namesInPacket, namesOnPage, type NamesOnPage } from './namePlaces';
import { trimmed } from './trimmed';

describe('what answers a question', () => {
	const map = [
		{ question: '3a', stretches: [{ position: 1, top: 0.5, bottom: 1 }], confidence: 0.9 },
		{
			question: '3b',
			stretches: [
				{ position: 1, top: 0.5, bottom: 1 },
				{ position: 2, top: 0, bottom: 0.4 }
			],
			confidence: 0.7
		},
		{ question: '31', stretches: [{ position: 2, top: 0.4, bottom: 1 }], confidence: 1 }
	];

	it('is of all its parts, in reading order, once each, and as sure as the least sure', () => {
		expect(cutOutsOf('3', map)).toEqual({
			cutOuts: [
				{ position: 1, top: 0.5, bottom: 1 },
				{ position: 2, top: 0, bottom: 0.4 }
			],
			confidence: 0.7
		});
	});

	it('is of a part alone, and of no other question that begins alike', () => {
		expect(cutOutsOf('3a', map).cutOuts).toEqual([{ position: 1, top: 0.5, bottom: 1 }]);
		expect(cutOutsOf('31', map).cutOuts).toEqual([{ position: 2, top: 0.4, bottom: 1 }]);
		expect(cutOutsOf('4', map).cutOuts).toEqual([]);
	});

	it('joins what touches on a page, and keeps apart what does not', () => {
		const pieces = (...spans: [number, number][]) =>
			cutOutsOf('1', [
				{
					question: '1',
					stretches: spans.map(([top, bottom]) => ({ position: 1, top, bottom })),
					confidence: 1
				}
			]).cutOuts.map((c) => [c.top, c.bottom]);
		expect(pieces([0.4, 0.8], [0.1, 0.4])).toEqual([[0.1, 0.8]]);
		expect(pieces([0.1, 0.3], [0.5, 0.8])).toEqual([
			[0.1, 0.3],
			[0.5, 0.8]
		]);
	});
});

describe('codes', () => {
	it('are never given twice, and hold nothing that is mistaken for another sign', () => {
		const taken = new Set<string>();
		for (let i = 0; i < 2000; i++) taken.add(newCode(taken, Math.random));
		expect(taken.size).toBe(2000);
		for (const code of taken) expect(code).toMatch(/^[^01ILOSAEU5]{4,5}$/);
	});

	it('become longer when all short ones are taken', () => {
		expect(newCode(new Set(['2222']), () => 0)).toBe('22222');
	});
});

describe('the order of answers', () => {
	const answers = Array.from({ length: 30 }, (_, i) => ({ code: `C${i}` }));

	it('is the same again for the same seed, and another for another', () => {
		expect(inOrder(answers, 'random', 'a')).toEqual(inOrder([...answers].reverse(), 'random', 'a'));
		expect(inOrder(answers, 'random', 'a')).not.toEqual(inOrder(answers, 'random', 'b'));
		expect(inOrder(answers, 'random', 'a')).not.toEqual(answers);
		expect(inOrder(answers, 'roster', 'a')).toEqual(answers);
		expect(inOrder(answers, 'code', 'a')[1]).toEqual({ code: 'C1' });
	});

	it('gives each place to each answer about as often, over many seeds', () => {
		let first = 0;
		for (let i = 0; i < 600; i++)
			first += Number(inOrder(answers.slice(0, 6), 'random', String(i))[0]!.code === 'C0');
		expect(first).toBeGreaterThan(60);
		expect(first).toBeLessThan(140);
	});

	it('is split among graders without losing anything, evenly', () => {
		fc.assert(
			fc.property(fc.array(fc.nat(), { maxLength: 60 }), fc.integer({ min: 1, max: 12 }), (all, graders) => {
				const shares = splitAmong(all, graders);
				expect(shares.flat()).toEqual(all);
				const sizes = shares.map((s) => s.length);
				expect(Math.max(...sizes) - Math.min(...sizes)).toBeLessThanOrEqual(1);
				if (all.length > 0) expect(Math.min(...sizes)).toBeGreaterThan(0);
			})
		);
	});
});

describe('laying out a bundle', () => {
	const paper = { width: 595, height: 842 };
	const someAnswers = fc.array(fc.array(fc.integer({ min: 20, max: 1100 }), { minLength: 1, maxLength: 5 }), {
		minLength: 1,
		maxLength: 12
	});

	it('shows every cut-out once, in order, whole, under its heading, over nothing else', () => {
		fc.assert(
			fc.property(someAnswers, fc.boolean(), (heights, apart) => {
				const answers = heights.map((all) => all.map((height) => ({ width: 595, height })));
				const pages = layOut(answers, paper, apart);
				const shown = pages.flatMap((p) =>
					p.items.flatMap((i) => (i.kind === 'cut-out' ? [[i.answer, i.cutOut]] : []))
				);
				expect(shown).toEqual(heights.flatMap((all, a) => all.map((_, c) => [a, c])));
				for (const page of pages) {
					let free = 0;
					let heading = -1;
					expect(page.items[0]?.kind).toBe('heading');
					for (const item of page.items) {
						expect(item.y).toBeGreaterThanOrEqual(free);
						if (item.kind === 'heading') {
							heading = item.answer;
							free = item.y + HEADING;
						} else {
							expect(item.answer).toBe(heading);
							free = item.y + heights[item.answer]![item.cutOut]!;
						}
						expect(free).toBeLessThanOrEqual(page.height);
					}
					if (apart) expect(new Set(page.items.map((i) => i.answer)).size).toBe(1);
				}
			})
		);
	});

	it('keeps an answer that fits on one page together', () => {
		const pages = layOut(
			[[{ width: 595, height: 500 }], [300, 200].map((height) => ({ width: 595, height }))],
			paper
		);
		expect(pages.map((p) => p.items.map((i) => i.answer))).toEqual([
			[0, 0],
			[1, 1, 1]
		]);
		expect(pages[1]!.items[2]!.y).toBe(HEADING + 300 + BETWEEN);
	});

	it('makes a page higher rather than a cut-out smaller', () => {
		const [page] = layOut([[{ width: 600, height: 842 }]], paper);
		expect([page!.width, page!.height]).toEqual([600, 842 + HEADING]);
	});
});

const ILKA = { given: 'Ilka', family: 'Brandsma' };
const ROSTER = [ILKA, { given: 'Noor', family: 'Okoro' }, { given: 'Rosa', family: 'Veld' }];
const HIGH: TextLine['box'] = [0.3, 0.03, 0.6, 0.055];

function reading(parts: {
	header?: [string, TextLine['box']?][];
	lines?: [string, TextLine['box']][];
}): PageReading {
	return {
		lines: (parts.lines ?? []).map(([text, box]) => ({ text, box, confidence: 0.9 })),
		labels: [],
		numbers: [],
		header: (parts.header ?? []).map(([text, box = HIGH]) => ({
			box,
			text,
			posterior: packPosterior(posterior(shortText(text), 0.95))
		}))
	};
}

describe('names on a page', () => {
	it('are found in the header, and then nothing is left to look at', () => {
		const names = namesOnPage(
			reading({ header: [['Ilka Brandsma'], ['p. 2', [0.9, 0.03, 0.95, 0.05]]] }),
			ROSTER,
			ILKA
		);
		expect(names.places.map((p) => p.box)).toEqual([HIGH]);
		expect(names.look).toBeNull();
	});

	it('are found in running text, with the words around them left', () => {
		const box: TextLine['box'] = [0.1, 0.5, 0.9, 0.53];
		const { places } = namesOnPage(
			reading({ lines: [['so the mean of the three runs by Ilka Brandsma is less than that', box]] }),
			ROSTER,
			ILKA
		);
		expect(places.length).toBe(1);
		const [x0, , x1] = places[0]!.box;
		expect(x0).toBeGreaterThan(0.3);
		expect(x1).toBeLessThan(0.8);
	});

	it('are none where work is written, in capitals or not', () => {
		const box: TextLine['box'] = [0.1, 0.5, 0.9, 0.53];
		for (const text of [
			'The mean velocity is 0.42 m/s',
			'rosa is a colour of the veld',
			'Therefore Q rises'
		]) {
			expect(namesOnPage(reading({ lines: [[text, box]] }), ROSTER, ILKA)).toEqual({
				places: [],
				doubtful: [],
				look: null
			});
		}
	});

	it('below the header are believed where both readers see them, pointed at where one does, and never a whole line', () => {
		const low: TextLine['box'] = [0.14, 0.1, 0.6, 0.14];
		const asked = (short: string, line: string) =>
			namesOnPage(reading({ header: [[short, low]], lines: [[line, low]] }), ROSTER, ILKA);
		expect(asked('Ilka Brandsma', 'Ilka Brandsna').places.map((p) => p.box)).toEqual([low]);
		expect(asked('Ilka', 'Hlho')).toEqual({ places: [], doubtful: [low], look: 'perhaps-a-name' });
		expect(asked('pwe Ilka Brandsma thse', 'the level then approach for weir')).toEqual({
			places: [],
			doubtful: [],
			look: null
		});
	});

	it('that nobody of the class has are hidden as well, and put before a person', () => {
		const names = namesOnPage(reading({ lines: [['Ilcha Bredsen-Vos', HIGH]] }), ROSTER, ILKA);
		expect(names.places.length).toBe(1);
		expect(names.doubtful).toEqual([HIGH]);
		expect(names.look).toBe('perhaps-a-name');
	});

	it('are pointed at where it is not sure that they are names, and only there', () => {
		const [sure, unsure]: TextLine['box'][] = [HIGH, [0.1, 0.5, 0.4, 0.53]];
		const names = namesOnPage(
			reading({ header: [['Ilka Brandsma', sure]], lines: [['Rose Vald', unsure!]] }),
			ROSTER,
			ILKA
		);
		expect(names.look).toBe('perhaps-a-name');
		expect(names.doubtful.length).toBe(1);
		const [x0, y0, x1] = names.doubtful[0]!;
		expect([x0 >= 0.1, x1 <= 0.4, y0]).toEqual([true, true, 0.5]);
	});

	it('are not taken for titles, courses, dates or page numbers', () => {
		const lines: [string, TextLine['box']][] = [
			['Worksheet 3 Gauging', [0.1, 0.02, 0.4, 0.04]],
			['HY-2, page 2 of 4', [0.6, 0.02, 0.8, 0.04]],
			['14.11.2026', [0.8, 0.02, 0.95, 0.04]]
		];
		expect(namesOnPage(reading({ lines }), ROSTER, ILKA, ['Worksheet 3: Gauging the Lode', 'HY-2'])).toEqual({
			places: [],
			doubtful: [],
			look: null
		});
	});

	it('are never sure where the page was not read', () => {
		expect(namesOnPage(null, ROSTER, ILKA).look).toBe('not-read');
		expect(namesOnPage({ ...reading({}), startsOnly: true }, ROSTER, ILKA).look).toBe('not-read');
	});

	it('are missed on a page whose writer puts them on every other', () => {
		const named: NamesOnPage = { places: [{ box: HIGH, confidence: 0.98 }], doubtful: [], look: null };
		const none: NamesOnPage = { places: [], doubtful: [], look: null };
		expect(namesInPacket([named, named, none]).map((p) => p.look)).toEqual([null, null, 'no-name-found']);
		expect(namesInPacket([named, none, none]).map((p) => p.look)).toEqual([null, null, null]);
	});
});

/** Paper with strokes of ink at some boxes in pixels. */
function page(channels: 1 | 3, ...strokes: [number, number, number, number][]): Samples {
	const samples: Samples = {
		width: 400,
		height: 600,
		channels,
		data: new Uint8Array(400 * 600 * channels).fill(250)
	};
	for (const [x0, y0, x1, y1] of strokes) {
		for (let y = y0; y < y1; y++) samples.data.fill(30, (y * 400 + x0) * channels, (y * 400 + x1) * channels);
	}
	return samples;
}
const at = ({ width, channels, data }: Samples, x: number, y: number) => data[(y * width + x) * channels]!;

describe.each([1, 3] as const)('hiding ink (%i channels)', (channels) => {
	const place: TextLine['box'] = [0.25, 0.1, 0.5, 0.15];

	it('takes it off for good, also where a stroke swings out of the place', () => {
		// A word, its descender below the place, and a word further down.
		const samples = page(channels, [110, 65, 190, 85], [150, 80, 154, 102], [110, 140, 190, 150]);
		hideInk(samples, [place]);
		expect(at(samples, 140, 75)).toBeGreaterThan(200);
		expect(at(samples, 152, 100)).toBeGreaterThan(200);
		expect(at(samples, 140, 145)).toBe(30);
	});

	it('leaves a line that only crosses the place', () => {
		const samples = page(channels, [0, 75, 400, 77]);
		hideInk(samples, [place]);
		expect(at(samples, 20, 76)).toBe(30);
		expect(at(samples, 380, 76)).toBe(30);
	});

	it('shows that something stood there', () => {
		const samples = page(channels);
		const [[x0, y0]] = hideInk(samples, [place]) as [TextLine['box']];
		expect(at(samples, x0, y0)).toBeLessThan(200);
	});
});

describe('the rows of a cut-out', () => {
	const grey = (samples: Samples) => ({ width: samples.width, height: samples.height, data: samples.data });

	it('are those with ink and some room', () => {
		const [from, to] = trimmed(grey(page(1, [50, 200, 90, 230], [50, 300, 90, 330])), 100, 500, 20);
		expect([from, to]).toEqual([180, 350]);
	});

	it('never leave the part that is cut out', () => {
		expect(trimmed(grey(page(1, [50, 90, 90, 240])), 100, 230, 20)).toEqual([100, 230]);
	});

	it('take in faint pencil, not ruling', () => {
		const samples = page(1);
		for (let y = 0; y < 600; y += 40) samples.data.fill(215, y * 400, y * 400 + 800);
		const blank = trimmed(grey(samples), 100, 500, 20);
		expect(blank).toEqual([100, 140]);
		for (let y = 401; y < 425; y++) samples.data.fill(236, y * 400 + 100, y * 400 + 112);
		const [from, to] = trimmed(grey(samples), 100, 500, 20);
		expect(from).toBeLessThanOrEqual(401);
		expect(to).toBeGreaterThanOrEqual(425);
	});
});
