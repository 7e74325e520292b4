import { describe, expect, it } from 'vitest';
import type { Finding } from '../rules/finding';
import { nextStep, type Progress } from './nextStep';

const finding = (rule: Finding['rule'], level: Finding['level'], label?: string): Finding => ({
	rule,
	level,
	message: '',
	pages: [],
	...(label ? { fix: { label, task: 'map' as const } } : {})
});
const at = (more: Partial<Progress> = {}): Progress => ({ pages: 3, unread: 0, stands: null, ...more });
const labelOf = (...findings: Finding[]) => nextStep(findings, at()).fix?.label;

describe('the next step', () => {
	it('is to bring in pages, whatever the rules say of none', () => {
		expect(nextStep([finding('pageCount', 'blocks', 'Other')], at({ pages: 0 })).fix!.task).toBe('gather');
	});

	it('is what blocks before what is to be looked at, the first that can be mended', () => {
		const two = [
			finding('legibility', 'look', 'Show'),
			finding('due', 'blocks'),
			finding('allAnswered', 'blocks', 'Place')
		];
		expect(nextStep(two, at())).toMatchObject({
			text: '2 things block. Begin with “All questions answered”.'
		});
		expect(labelOf(...two)).toBe('Place');
		expect(labelOf(finding('legibility', 'look', 'Show'), finding('tone', 'clear'))).toBe('Show');
	});

	it('is to wait where nothing is wrong and not all is known, and to hand in when all is clear', () => {
		expect(nextStep([finding('duplicates', 'open')], at())).toEqual({
			text: 'Nothing blocks so far. 1 rule not known yet.',
			fix: null
		});
		expect(labelOf(finding('tone', 'clear'))).toBe('Go to hand in');
	});

	it('is to wait for what is being read, but not with what has to be mended by hand', () => {
		const unplaced = finding('allAnswered', 'blocks', 'Place question 1');
		expect(nextStep([unplaced], at({ unread: 2 }))).toEqual({
			text: '1 of 3 pages read so far. Then it is shown where each answer begins.',
			fix: null
		});
		expect(nextStep([unplaced], at()).fix!.label).toBe('Place question 1');
		const named = finding('fileName', 'blocks', 'Use the asked name');
		expect(nextStep([named, unplaced], at({ unread: 2 })).fix!.label).toBe('Use the asked name');
	});

	it('is none once it is handed in, unless it was given back', () => {
		expect(nextStep([], at({ stands: 'handed-in' })).text).toContain('handed in');
		expect(nextStep([], at({ stands: 'given-back' })).text).toContain('given back');
	});
});
