import type { CheckInput, Finding } from './finding';
import { allAnswered } from './rule/allAnswered';
import { due } from './rule/due';
import { duplicates } from './rule/duplicates';
import { fileName } from './rule/fileName';
import { fileSize } from './rule/fileSize';
import { legibility } from './rule/legibility';
import { newPage } from './rule/newPage';
import { pageCount } from './rule/pageCount';
import { ownPages } from './rule/ownPages';
import { pageNumbers } from './rule/pageNumbers';
import { pageSize } from './rule/pageSize';
import { questionOrder } from './rule/questionOrder';
import { tone } from './rule/tone';
import { upright } from './rule/upright';
import { wholeSheet } from './rule/wholeSheet';
import type { RuleName } from './ruleSheet';

const CHECKS: Readonly<Record<RuleName, (input: CheckInput) => Finding | null>> = {
	pageCount,
	allAnswered,
	questionOrder,
	newPage,
	legibility,
	wholeSheet,
	upright,
	pageSize,
	duplicates,
	pageNumbers,
	ownPages,
	tone,
	fileName,
	fileSize,
	due
};

const WORST_FIRST = { blocks: 0, look: 1, clear: 2 } as const;

/** What every rule says of a packet, worst first. Rules that ask nothing say nothing. */
export function check(input: CheckInput): Finding[] {
	return Object.values(CHECKS)
		.flatMap((rule) => rule(input) ?? [])
		.sort((a, b) => WORST_FIRST[a.level] - WORST_FIRST[b.level]);
}

/** What each rule is called on the rule sheet. */
export const RULE_TITLES: Readonly<Record<RuleName, string>> = {
	pageCount: 'Page count',
	allAnswered: 'All questions answered',
	questionOrder: 'Question order',
	newPage: 'New page',
	legibility: 'Legibility',
	wholeSheet: 'Whole sheet',
	upright: 'Upright',
	pageSize: 'Page size',
	duplicates: 'Same page twice',
	pageNumbers: 'Page numbers',
	ownPages: 'Your own pages',
	tone: 'Tone',
	fileName: 'File name',
	fileSize: 'File size',
	due: 'Due time'
};
