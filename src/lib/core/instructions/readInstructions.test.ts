import { describe, expect, it } from 'vitest';
import { answerables } from '../assignment/question';
import { CASES, type Asked } from './cases';
import type { Proposal } from './proposal';
import { readInstructions } from './readInstructions';

const READER = { now: Date.parse('2026-11-26T10:00:00+01:00'), timeZone: 'Europe/Amsterdam', dayFirst: true };

/** Proposals in the form in which the cases say what is asked, with whether they are sure. */
function said(proposals: readonly Proposal[]): Map<string, { value: string; sure: boolean }> {
	const all = new Map<string, { value: string; sure: boolean }>();
	for (const { kind, value, sure } of proposals) {
		const put = (key: string, text: string) => all.set(key, { value: text, sure });
		if (kind === 'pages') for (const [side, n] of Object.entries(value)) put(side, String(n));
		else if (kind === 'due') put(kind, value.slice(0, 16));
		else if (kind === 'namePattern') put('name', value);
		else if (kind === 'questions')
			put(
				kind,
				answerables(value)
					.map((a) => a.id)
					.join(' ')
			);
		else put(kind, Array.isArray(value) ? value.join(' ') : String(value));
	}
	return all;
}

function measure(cases: readonly (readonly [string, Asked])[]) {
	const count = { asked: 0, found: 0, proposed: 0, right: 0, sure: 0, sureRight: 0 };
	const wrong: string[] = [];
	for (const [text, asked] of cases) {
		const proposed = said(readInstructions(text, READER));
		const truth = new Map(Object.entries(asked).map(([key, value]) => [key, String(value)]));
		count.asked += truth.size;
		for (const [key, { value, sure }] of proposed) {
			const isRight = truth.get(key) === value;
			count.proposed++;
			if (isRight) count.right++;
			else wrong.push(`${sure ? 'SURE ' : ''}${key}: ${value}, asked ${truth.get(key)} | ${text}`);
			if (sure) count.sure++;
			if (sure && isRight) count.sureRight++;
		}
		for (const [key, value] of truth) {
			if (proposed.get(key)?.value === value) count.found++;
			else if (!proposed.has(key)) wrong.push(`missed ${key}: ${value} | ${text}`);
		}
	}
	return { ...count, precision: count.sureRight / count.sure, recall: count.found / count.asked, wrong };
}

describe('rules out of instructions', () => {
	for (const [set, cases] of Object.entries(CASES)) {
		it(`holds on the instructions that are ${set}: what is sure is right, and most is found`, () => {
			const { precision, recall, wrong, ...counts } = measure(cases);
			if (process.env.SHOW === set)
				console.log(JSON.stringify(counts), precision, recall, `\n${wrong.join('\n')}`);
			expect(precision).toBeGreaterThanOrEqual(0.97);
			expect(recall).toBeGreaterThanOrEqual(0.85);
		});
	}
});
