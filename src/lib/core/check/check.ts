import type { CheckInput, Finding, PagesInput } from '../rules/finding';
import { allAnswered } from '../rules/rule/allAnswered';
import { blankPages } from '../rules/rule/blankPages';
import { due } from '../rules/rule/due';
import { duplicates } from '../rules/rule/duplicates';
import { fileName } from '../rules/rule/fileName';
import { fileType } from '../rules/rule/fileType';
import { fileSize } from '../rules/rule/fileSize';
import { legibility } from '../rules/rule/legibility';
import { newPage } from '../rules/rule/newPage';
import { pageCount } from '../rules/rule/pageCount';
import { ownPages } from '../rules/rule/ownPages';
import { pageNumbers } from '../rules/rule/pageNumbers';
import { pageSize } from '../rules/rule/pageSize';
import { questionOrder } from '../rules/rule/questionOrder';
import { tone } from '../rules/rule/tone';
import { upright } from '../rules/rule/upright';
import { wholeSheet } from '../rules/rule/wholeSheet';
import type { RuleName } from '../rules/ruleSheet';

/** All but the due time. */
const CHECKS: Readonly<Record<Exclude<RuleName, 'due'>, (input: PagesInput) => Finding | null>> = {
	pageCount,
	allAnswered,
	questionOrder,
	newPage,
	legibility,
	wholeSheet,
	upright,
	pageSize,
	duplicates,
	blankPages,
	pageNumbers,
	ownPages,
	tone,
	fileName,
	fileType,
	fileSize
};

const WORST_FIRST = { blocks: 0, look: 1, clear: 2 } as const;

/** What every rule says of a packet, worst first. Rules that ask nothing say nothing. */
export function check(input: CheckInput): Finding[] {
	return worstFirst([...checkPages(input), ...checkTime(input)]);
}

/** What the rules say that do not look at the clock, in no order: worked out again only when the packet changes. */
export function checkPages(input: PagesInput): Finding[] {
	return Object.values(CHECKS).flatMap((rule) => rule(input) ?? []);
}

/** What the rules say that look at the clock. */
export function checkTime(input: Pick<CheckInput, 'sheet' | 'now'>): Finding[] {
	const finding = due(input);
	return finding ? [finding] : [];
}

export function worstFirst(findings: readonly Finding[]): Finding[] {
	return [...findings].sort((a, b) => WORST_FIRST[a.level] - WORST_FIRST[b.level]);
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
	blankPages: 'Blank pages',
	pageNumbers: 'Page numbers',
	ownPages: 'Your own pages',
	tone: 'Tone',
	fileName: 'File name',
	fileType: 'File type',
	fileSize: 'File size',
	due: 'Due time'
};
