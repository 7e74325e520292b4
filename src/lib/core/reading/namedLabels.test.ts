import { describe, expect, it } from 'vitest';
import { label, option } from '../../../../tests/support/reading';
import type { LabelCandidate } from './labelCandidates';
import { namedLabels } from './namedLabels';

const unsure = (y: number, ...names: [string, number][]): LabelCandidate => ({
	x: 0.04,
	fromBody: -3,
	framed: false,
	y,
	text: names[0]![0],
	options: names.map(([name, probability]) => option(name, probability))
});
const names = (candidates: readonly LabelCandidate[]) => namedLabels(candidates).map((l) => l.question);

describe('labels of one page by itself', () => {
	it('take their question from the label before', () => {
		expect(names([label(0.1, '3a'), label(0.4, 'b'), label(0.7, '4')])).toEqual(['3a', '3b', '4']);
		expect(names([label(0.1, 'b'), label(0.4, '4')])).toEqual(['b', '4']);
	});

	it('are settled by what stands before and behind them', () => {
		const seven = unsure(0.4, ['7', 0.45], ['1', 0.4]);
		expect(names([label(0.1, '6'), seven, label(0.7, '8')])).toEqual(['6', '7', '8']);
		const one = unsure(0.1, ['7', 0.45], ['1', 0.4]);
		expect(names([one, label(0.4, '2'), label(0.7, '3')])).toEqual(['1', '2', '3']);
	});

	it('stand against the order where they are sure', () => {
		expect(names([label(0.1, '3'), label(0.4, '2', 0.995)])).toEqual(['3', '2']);
	});

	it('are left out where nothing speaks for them', () => {
		expect(names([label(0.1, '3'), unsure(0.4, ['9', 0.2])])).toEqual(['3']);
		expect(namedLabels([])).toEqual([]);
	});

	it('are as sure as the writing and its order together', () => {
		const alone = namedLabels([unsure(0.4, ['4', 0.7])])[0]!.confidence;
		const inOrder = namedLabels([label(0.1, '3'), unsure(0.4, ['4', 0.7])])[1]!.confidence;
		const against = namedLabels([label(0.1, '5'), unsure(0.4, ['4', 0.7])]);
		expect(inOrder).toBeGreaterThan(alone);
		expect(against).toHaveLength(1);
	});
});
