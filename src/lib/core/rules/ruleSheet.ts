import type { PaperName } from '../sheet/paperSize';
import type { ToneName } from '../tone/tone';
import type { Question } from '../assignment/question';

/** Every rule, in the order in which clear findings are listed. */
export const RULES = [
	'pageCount',
	'allAnswered',
	'questionOrder',
	'newPage',
	'legibility',
	'wholeSheet',
	'upright',
	'pageSize',
	'duplicates',
	'blankPages',
	'pageNumbers',
	'ownPages',
	'tone',
	'fileName',
	'fileType',
	'fileSize',
	'due'
] as const;
export type RuleName = (typeof RULES)[number];

/** What a broken rule does: stop the hand-in, or ask a person to look. */
export type Level = 'blocks' | 'look';

/** Everything an assignment asks of what is handed in. */
export interface RuleSheet {
	readonly title: string;
	readonly course?: string;
	/** ISO 8601 with an offset. */
	readonly due?: string;
	/** Minutes after the due time in which a packet is still taken. */
	readonly grace?: number;
	/** Of a timed session: when writing ends. From then until it is due there is time to photograph and hand in. ISO 8601. */
	readonly workUntil?: string;
	readonly questions: readonly Question[];
	readonly pages?: { readonly min?: number; readonly max?: number; readonly size?: PaperName };
	readonly file?: {
		readonly namePattern?: string;
		readonly type?: 'pdf' | 'zip';
		readonly maxBytes?: number;
	};
	/** Tones allowed; all where absent. */
	readonly tone?: readonly ToneName[];
	/** The least verdict that passes. */
	readonly legibility?: 'doubtful' | 'clear';
	readonly levels?: Partial<Record<RuleName, Level>>;
}

/** What a broken rule does where the rule sheet does not say. */
export const DEFAULT_LEVELS: Readonly<Record<RuleName, Level>> = {
	pageCount: 'blocks',
	allAnswered: 'blocks',
	questionOrder: 'look',
	newPage: 'look',
	legibility: 'look',
	wholeSheet: 'look',
	upright: 'look',
	pageSize: 'look',
	duplicates: 'look',
	blankPages: 'look',
	pageNumbers: 'look',
	ownPages: 'look',
	tone: 'blocks',
	fileName: 'blocks',
	fileType: 'blocks',
	fileSize: 'blocks',
	due: 'blocks'
};

export function levelOf(sheet: RuleSheet, rule: RuleName): Level {
	return sheet.levels?.[rule] ?? DEFAULT_LEVELS[rule];
}

export const DEFAULT_NAME_PATTERN = '{family}_{given}_{course}';

/** What a new rule sheet begins with. */
export const NEW_SHEET: RuleSheet = {
	title: '',
	questions: [{ label: '1' }],
	file: { namePattern: DEFAULT_NAME_PATTERN, type: 'pdf' }
};

/** What of a rule sheet holds for a whole course: all but the title, the questions and the times. */
export function lastingRules({
	grace,
	pages,
	file,
	tone,
	legibility,
	levels
}: RuleSheet): Partial<RuleSheet> {
	return JSON.parse(JSON.stringify({ grace, pages, file, tone, legibility, levels })) as Partial<RuleSheet>;
}
