import { describe, expect, it } from 'vitest';
import { label, option, reading } from '../../../../tests/support/reading';
import type { Seam } from '../packet/packet';
import { describeAlike, ALIKE_FEATURES } from '../reading/alikeLabels';
import type { LabelForm } from '../reading/labelForms';
import { withLabelsSettled } from './settleLabels';

/** A label written in a form, so far right of where lines begin. */
const written = (y: number, name: string, probability: number, form: LabelForm, fromBody = -3) => ({
	...label(y, name),
	fromBody,
	options: [{ ...option(name, probability), form }]
});
const known = (labels: ReturnType<typeof written>[], otherPerson: string | null = null) => ({
	reading: reading({ labels }),
	otherPerson
});
const chance =
	(pages: Record<string, ReturnType<typeof known>>, seams: Seam[] = [], strip = Object.keys(pages)) =>
	(page: string, i: number) =>
		withLabelsSettled(pages, { strip, seams })[page]!.reading.labels[i]?.options[0]?.probability ?? 0;

describe('withLabelsSettled', () => {
	const sure = [written(0.1, '1', 0.95, 'named'), written(0.4, '2', 0.95, 'named')];
	const doubtful = (form: LabelForm, fromBody?: number) => written(0.5, '3', 0.5, form, fromBody);

	it('believes what is written as the sure labels of the packet are, and doubts what is not', () => {
		const of = (one: ReturnType<typeof written>) => chance({ p: known(sure), q: known([one]) })('q', 0);
		const alone = (one: ReturnType<typeof written>) => chance({ q: known([one]) })('q', 0);
		const gain = (form: LabelForm, fromBody?: number) =>
			of(doubtful(form, fromBody)) - alone(doubtful(form, fromBody));
		expect(gain('named')).toBeGreaterThan(0.05);
		// In another form it gains less, in another column less as well, and in both it is doubted.
		expect(gain('bare')).toBeLessThan(gain('named') - 0.05);
		expect(gain('named', 5)).toBeLessThan(gain('named') - 0.05);
		expect(gain('bare', 5)).toBeLessThan(-0.05);
		// Half is where labels begin to be named: the one is, the other is not, whatever the weights of the day.
		expect(of(doubtful('named'))).toBeGreaterThan(0.5);
		expect(of(doubtful('bare', 5))).toBeLessThan(0.5);
	});

	it('learns nothing from pages of others and pages set aside', () => {
		const page = known([doubtful('named')]);
		const alone = chance({ q: page })('q', 0);
		expect(chance({ p: known(sure, 'Piet'), q: page })('q', 0)).toBeCloseTo(alone, 6);
		expect(chance({ p: known(sure), q: page }, [], ['q'])('q', 0)).toBeCloseTo(alone, 6);
	});

	it('learns from where a person placed a seam', () => {
		const unsure = [written(0.1, '1', 0.3, 'bare'), written(0.5, '2', 0.3, 'bare')];
		const pages = { p: known(unsure) };
		const seams: Seam[] = [{ id: 's', page: 'p', y: 0.095, questions: ['1'] }];
		expect(chance(pages, seams)('p', 1)).toBeGreaterThan(chance(pages)('p', 1));
	});

	it('leaves pages that were not read', () => {
		const records = { p: { reading: null, otherPerson: null } };
		expect(withLabelsSettled(records, { strip: ['p'], seams: [] })).toEqual(records);
	});
});

describe('describeAlike', () => {
	it('never counts a place for itself, and describes every option by all numbers', () => {
		const [[[features]]] = describeAlike([[written(0.2, '1', 0.9, 'named')]]) as [[[number[]]]];
		expect(features).toHaveLength(ALIKE_FEATURES.length);
		for (const name of ['same form', 'other form', 'same column', 'other column'] as const) {
			expect(features[ALIKE_FEATURES.indexOf(name)]).toBeCloseTo(0, 9);
		}
	});
});
