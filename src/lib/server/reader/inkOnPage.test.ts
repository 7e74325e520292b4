import { describe, expect, it } from 'vitest';
import { specimenPage } from '../../../../bench/situations';
import { hands, type Hand } from '../../../../demo/generator/hands';
import type { Block } from '../../../../demo/generator/writtenPage';
import type { Plane } from '../../core/raster/picture';
import { preparePage } from '../../core/page/preparePage';
import { wholePicture } from '../../core/sheet/geometry';
import { greyOf } from '../../core/tone/finish';
import { inkOnPage } from './inkOnPage';

const TONE = { name: 'greyscale', evenLight: true, inkWeight: 0 } as const;
const TEXT = { kind: 'text', lines: ['the lode runs slower near', 'the reeds in the bend'] } as const;

/** What is found around or under labels of a page, and how much of it is left. */
function framesOn(
	ruling: 'ruled' | 'squared',
	labels: readonly Block[],
	writer: { readonly hand?: Hand } = {}
) {
	const blocks = labels.flatMap((label) => [label, TEXT]);
	const { picture } = specimenPage(21, 8, {
		...writer,
		ruling,
		blocks,
		name: undefined,
		pageNumber: undefined
	});
	const { finished, facts } = preparePage(picture, {
		corners: wholePicture(picture.width, picture.height),
		turn: 0,
		tone: TONE
	});
	// As a decoder gives it: `slice` of a Buffer is no copy.
	const { width, height, data } = greyOf(finished);
	const plane = { width, height, data: Buffer.from(data) };
	const { frames, clean } = inkOnPage(plane, facts.dotsPerInch);
	const rings = frames.filter((f) => f.kind === 'around');
	expect(Buffer.compare(plane.data, data)).toBe(0);
	const dark = ({ data }: Plane, at: readonly number[]) => at.filter((p) => data[p]! < 128).length;
	return rings.map(({ inside, pixels }) => ({
		inside,
		before: dark(plane, pixels),
		after: dark(clean, pixels)
	}));
}

describe.each(['ruled', 'squared'] as const)('what is drawn around labels, on %s paper', (ruling) => {
	it('is found also where it is wide and runs with the rules, and taken away whole', () => {
		const labels = ['Exercise 3', 'Exercise 10'].map((text) => ({
			kind: 'label' as const,
			text,
			mark: 'circled' as const
		}));
		const rings = framesOn(ruling, labels);
		expect(rings).toHaveLength(2);
		for (const { inside, before, after } of rings) {
			expect(inside[2] - inside[0]).toBeGreaterThan(4 * (inside[3] - inside[1]));
			expect(before).toBeGreaterThan(300);
			expect(after).toBe(0);
		}
	});

	it('is none where nothing is drawn', () => {
		const labels = ['Exercise 3', '4 b)'].map((text) => ({ kind: 'label' as const, text }));
		expect(framesOn(ruling, labels)).toEqual([]);
	});
});

it('is no round letter with a tail, in no hand', () => {
	for (const hand of hands()) {
		const labels = ['Q3', 'Q8'].map((text) => ({ kind: 'label' as const, text }));
		expect(framesOn('squared', labels, { hand }), hand.family).toEqual([]);
	}
});

/** Dark pixels of a page's writing that count as its ink, of all of them; rules are lighter. */
function inkKept(seed: number): number {
	const blocks: Block[] = [
		{ kind: 'label', text: '7' },
		{ kind: 'text', lines: ['till it fell, until 17 July 1771', 'little hills tilt to the left'] }
	];
	const hand = {
		ink: [20, 20, 24] as const,
		ruling: 'squared' as const,
		name: undefined,
		pageNumber: undefined
	};
	const { picture } = specimenPage(seed, 8, { ...hand, blocks });
	const { finished, facts } = preparePage(picture, {
		corners: wholePicture(picture.width, picture.height),
		turn: 0,
		tone: TONE
	});
	const plane = greyOf(finished);
	const { labels } = inkOnPage(plane, facts.dotsPerInch);
	let [dark, kept] = [0, 0];
	for (let i = 0; i < labels.length; i++) {
		if (plane.data[i]! >= 70) continue;
		dark++;
		if (labels[i]) kept++;
	}
	return kept / dark;
}

describe('a stroke along a rule', () => {
	it('is ink where the rules are lighter', () => {
		for (const seed of [31, 32, 33]) expect(inkKept(seed)).toBeGreaterThan(0.97);
	});
});
