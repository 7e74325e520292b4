import { describe, expect, it } from 'vitest';
import { ALIKE_FEATURES, describeAlike, weighedByOthers } from './alikeLabels';
import type { LabelCandidate, LabelOption } from './labelCandidates';

interface Look {
	readonly probability?: number;
	readonly form?: LabelOption['form'];
	readonly fromBody?: number;
	readonly framed?: boolean;
}

/** A place that may be a label: "3" or "3b" or "b", signed and in the margin where nothing else is said. */
function place(name: string, look: Look = {}): LabelCandidate {
	const { probability = 0.95, form = 'signed', fromBody = -3, framed = false } = look;
	const [, question, part] = /^(\d*)([a-z]?)$/.exec(name)!;
	return {
		x: 0.04,
		y: 0.3,
		fromBody,
		framed,
		text: name,
		options: [{ question: question || null, part: part || null, form, probability }]
	};
}
const SURE = ['1', '2', '3', '4'].map((name) => place(name));
/** How likely a doubtful place is a label, beside sure ones on other pages. */
function beside(doubtful: LabelCandidate, others: readonly LabelCandidate[] = SURE): number {
	const [[one]] = weighedByOthers([[doubtful], ...others.map((o) => [o])]) as [[LabelCandidate]];
	return one.options[0]?.probability ?? 0;
}
const feature = (name: (typeof ALIKE_FEATURES)[number]) => ALIKE_FEATURES.indexOf(name);

describe('a place that hangs in the balance', () => {
	const doubtful = (look: Look = {}) => place('5', { probability: 0.5, ...look });

	it('is a label where it is written as the sure ones are', () => {
		expect(beside(doubtful())).toBeGreaterThan(0.6);
		expect(beside(doubtful())).toBeGreaterThan(beside(doubtful(), []) + 0.1);
	});

	it('is less likely one in another form or in another column', () => {
		const alike = beside(doubtful());
		expect(beside(doubtful({ form: 'bare' }))).toBeLessThan(alike);
		expect(beside(doubtful({ fromBody: 3 }))).toBeLessThan(alike);
	});

	it('is weighed by others and not by itself', () => {
		const alone = describeAlike([[doubtful()]])[0]![0]![0]!;
		expect(alone[feature('same form')]).toBe(0);
		expect(alone[feature('same column')]).toBe(0);
	});
});
