import { stretchesOf } from '../mapping/stretches';
import type { PageRecord } from '../page/pageRecord';
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

/** What has to be known before a rule can be clear. */
type Needs = 'packet' | 'pages' | 'prepared' | 'read' | 'map';
/** What is lacking: it is to come, or, where reading is switched off, will not. */
type Lack = Needs | 'reader';
const NEEDS: Readonly<Record<keyof typeof CHECKS, Needs>> = {
	pageCount: 'packet',
	allAnswered: 'pages',
	questionOrder: 'map',
	newPage: 'map',
	legibility: 'prepared',
	wholeSheet: 'prepared',
	upright: 'prepared',
	pageSize: 'prepared',
	duplicates: 'read',
	blankPages: 'read',
	pageNumbers: 'read',
	ownPages: 'read',
	tone: 'pages',
	fileName: 'packet',
	fileType: 'packet',
	fileSize: 'prepared'
};
const UNKNOWN: Readonly<Record<Lack, string>> = {
	packet: '',
	pages: 'No pages yet',
	prepared: 'Told when every page is prepared',
	read: 'Told when every page has been read',
	reader: 'Look yourself: reading is switched off here',
	map: 'Told when questions are placed'
};

const WORST_FIRST = { blocks: 0, look: 1, open: 2, clear: 3 } as const;

/** What every rule says of a packet, worst first. Rules that ask nothing say nothing. */
export function check(input: CheckInput): Finding[] {
	return worstFirst([...checkPages(input), ...checkTime(input)]);
}

/** What the rules say that do not look at the clock, in no order: worked out again only when the packet changes. */
export function checkPages(input: PagesInput): Finding[] {
	return (Object.keys(CHECKS) as (keyof typeof CHECKS)[]).flatMap((rule): Finding[] => {
		const finding = CHECKS[rule](input);
		if (!finding) return [];
		// Without pages a rule about them is not broken yet: that there are none is said once.
		const isEarly = finding.level === 'clear' || input.packet.strip.length === 0;
		const lacks = isEarly ? lacking(NEEDS[rule], input) : null;
		return [lacks ? { rule, level: 'open', message: UNKNOWN[lacks], pages: [] } : finding];
	});
}

/** What a rule still waits for; null where all is known that it needs. */
function lacking(needs: Needs, { packet, evidence, reads = true }: PagesInput): Lack | null {
	if (needs === 'packet') return null;
	if (packet.strip.length === 0) return 'pages';
	const isKnown = (of: (record: PageRecord) => unknown) =>
		packet.strip.every((page) => {
			const record = evidence[page];
			return record && (record.problem !== null || of(record) !== null);
		});
	switch (needs) {
		case 'pages':
			return null;
		case 'prepared':
			return isKnown((r) => r.prepared) ? null : needs;
		case 'read':
			return isKnown((r) => r.reading) ? null : reads ? needs : 'reader';
		case 'map':
			return stretchesOf(packet).some((s) => s.questions.length > 0) ? null : needs;
	}
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
