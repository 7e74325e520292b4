import { describe, expect, it } from 'vitest';
import type { Finding } from '../rules/finding';
import { nextStep } from './nextStep';

const finding = (rule: Finding['rule'], level: Finding['level'], label?: string): Finding => ({
	rule,
	level,
	message: '',
	pages: [],
	...(label ? { fix: { label, task: 'map' as const } } : {})
});
const labelOf = (...findings: Finding[]) => nextStep(findings, 3, null).fix?.label;

describe('the next step', () => {
	it('is to bring in pages, whatever the rules say of none', () => {
		expect(nextStep([finding('pageCount', 'blocks', 'Other')], 0, null).fix!.task).toBe('gather');
	});

	it('is what blocks before what is to be looked at, the first that can be mended', () => {
		const two = [
			finding('legibility', 'look', 'Show'),
			finding('due', 'blocks'),
			finding('allAnswered', 'blocks', 'Place')
		];
		expect(nextStep(two, 3, null)).toMatchObject({
			text: '2 things block. Begin with “All questions answered”.'
		});
		expect(labelOf(...two)).toBe('Place');
		expect(labelOf(finding('legibility', 'look', 'Show'), finding('tone', 'clear'))).toBe('Show');
	});

	it('is to wait where nothing is wrong and not all is known, and to hand in when all is clear', () => {
		expect(nextStep([finding('duplicates', 'open')], 3, null)).toEqual({
			text: 'Nothing blocks so far. 1 rule not known yet.',
			fix: null
		});
		expect(labelOf(finding('tone', 'clear'))).toBe('Go to hand in');
	});

	it('is none once it is handed in, unless it was given back', () => {
		expect(nextStep([], 3, 'handed-in').text).toContain('handed in');
		expect(nextStep([], 3, 'given-back').text).toContain('given back');
	});
});
