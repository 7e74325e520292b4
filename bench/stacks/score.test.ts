import { describe, expect, it } from 'vitest';
import type { Feeding } from '../../src/lib/core/stack/feeding';
import type { StackProposal } from '../../src/lib/core/stack/proposeCuts';
import type { PiledPage, TrueStack } from './pileUp';
import { StackFigures } from './score';

const of = (owner: string | null, change: Partial<PiledPage> = {}): PiledPage => ({
	owner,
	named: true,
	role: 'page',
	lies: 0,
	...change
});
const stackOf = (pages: readonly PiledPage[], feeding: Feeding = 'as fed'): TrueStack => ({
	seed: 7,
	pages,
	feeding
});

interface Told {
	readonly pages: readonly number[];
	readonly person?: string;
	readonly confidence?: number;
}

/** A proposal with packets of pages by their places; each but the first begins with a cut. */
function proposed(packets: readonly Told[], confidence = 0.9): StackProposal {
	return {
		feeding: 'as fed',
		packets: packets.map(({ pages, person, confidence = 0.9 }) => ({
			pages: pages.map(String),
			person: person ? { id: person, confidence, because: ['name'] } : null
		})),
		cuts: packets.slice(1).map(({ pages }) => ({ page: String(pages[0]), confidence, because: ['name'] }))
	} as unknown as StackProposal;
}

function figuresOf(stack: TrueStack, proposal: StackProposal): StackFigures {
	const figures = new StackFigures();
	figures.add(stack, proposal, Number);
	return figures;
}
const TWO = [of('a'), of('a'), of('b'), of('b')];

describe('the figures of a stack', () => {
	it('are full where everything is right', () => {
		const figures = figuresOf(
			stackOf(TWO),
			proposed([
				{ pages: [0, 1], person: 'a' },
				{ pages: [2, 3], person: 'b' }
			])
		);
		expect([figures.f1, figures.hit, figures.wrong, figures.lost]).toEqual([1, 1, 0, 0]);
		expect([String(figures.persons), String(figures.whole)]).toEqual([
			'2 of 2 (100.0 %)',
			'2 of 2 (100.0 %)'
		]);
		expect([figures.wrongPersons, figures.guessed, figures.notes]).toEqual([0, 0, []]);
	});

	it('count a cut that is missing, one too many, and whether that was sure of itself', () => {
		const lost = figuresOf(stackOf(TWO), proposed([{ pages: [0, 1, 2, 3], person: 'a' }]));
		expect([lost.hit, lost.wrong, lost.lost, lost.f1]).toEqual([0, 0, 1, 0]);
		const many = [{ pages: [0], person: 'a' }, { pages: [1] }, { pages: [2, 3], person: 'b' }];
		for (const [confidence, sure] of [
			[0.9, 1],
			[0.4, 0]
		] as const) {
			const figures = figuresOf(stackOf(TWO), proposed(many, confidence));
			expect([figures.hit, figures.wrong, figures.lost, figures.wrongAndSure]).toEqual([1, 1, 0, sure]);
			expect(figures.f1).toBeCloseTo(2 / 3);
			expect([figures.whole.right, figures.whole.all]).toEqual([1, 2]);
		}
	});

	it('tell a person who is wrong from one who was guessed without a name, and mind only those who are sure', () => {
		const person = (named: boolean, confidence: number) =>
			figuresOf(
				stackOf(TWO.map((page) => ({ ...page, named }))),
				proposed([
					{ pages: [0, 1], person: 'c', confidence },
					{ pages: [2, 3], person: 'b' }
				])
			);
		const wrong = person(true, 0.8);
		expect([wrong.wrongPersons, wrong.guessed, wrong.persons.right, wrong.persons.all]).toEqual([1, 0, 1, 2]);
		const guessed = person(false, 0.8);
		expect([guessed.wrongPersons, guessed.guessed, guessed.persons.all]).toEqual([0, 1, 0]);
		const unsure = person(true, 0.3);
		expect([unsure.wrongPersons, unsure.guessed, unsure.persons.right]).toEqual([0, 0, 1]);
	});

	it('find a page that lies in another’s packet where it was set aside, or put with its own', () => {
		const stray = [of('a'), of('b', { role: 'stray' }), of('a'), of('b'), of('b')];
		const found = (packets: readonly Told[]) => figuresOf(stackOf(stray), proposed(packets)).strays.right;
		expect(found([{ pages: [0, 2], person: 'a' }, { pages: [3, 4] }])).toBe(1);
		expect(found([{ pages: [0, 2], person: 'a' }, { pages: [3, 1, 4] }])).toBe(1);
		expect(found([{ pages: [0, 1, 2], person: 'a' }, { pages: [3, 4] }])).toBe(0);
	});

	it('want no cut before a page that lies in another’s packet, and mind none around another assignment’s', () => {
		const pages = [of('a'), of('x', { role: 'stray' }), of('a'), of(null, { role: 'other' }), of('b')];
		const figures = figuresOf(stackOf(pages), proposed([{ pages: [0, 2] }, { pages: [3] }, { pages: [4] }]));
		expect([figures.hit, figures.wrong, figures.lost]).toEqual([1, 0, 0]);
		// A packet of nothing else is where it can be found.
		expect([figures.others.right, figures.others.all]).toEqual([1, 1]);
	});

	it('do not mind a blank back that is kept, or a page twice', () => {
		const pages = [of('a'), of('a', { role: 'blank' }), of('a', { role: 'twice' }), of('b')];
		const figures = figuresOf(stackOf(pages), proposed([{ pages: [0, 1, 2] }, { pages: [3] }]));
		expect([figures.whole.right, figures.whole.all, figures.hit]).toEqual([2, 2, 1]);
	});

	it('add up over stacks', () => {
		const figures = new StackFigures();
		const right = proposed([{ pages: [0, 1] }, { pages: [2, 3] }]);
		figures.add(stackOf(TWO), right, Number);
		figures.add(stackOf(TWO), proposed([{ pages: [0, 1, 2, 3] }]), Number);
		expect([figures.hit, figures.lost, figures.feedings.all]).toEqual([1, 1, 2]);
		expect(figures.lines()[0]).toMatch(/^cuts F1 0\.667 \(1 right, 0 wrong, 1 lost, 0 wrong and sure\)/);
	});
});

describe('a stack fed in two goes', () => {
	it('is looked at with fronts and backs together', () => {
		// Fronts a, b; then their backs a, b.
		const stack = stackOf([of('a'), of('b'), of('a'), of('b')], 'fronts, then backs');
		const proposal = {
			...proposed([{ pages: [0, 2] }, { pages: [1, 3] }]),
			feeding: 'fronts, then backs' as const
		};
		const figures = figuresOf(stack, proposal);
		expect([figures.hit, figures.wrong, figures.lost, figures.feedings.right]).toEqual([1, 0, 0, 1]);
		expect(figures.whole.right).toBe(2);
	});
});
