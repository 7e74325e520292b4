import type { Question } from '../assignment/question';
import type { PaperName } from '../sheet/paperSize';
import type { ToneName } from '../tone/tone';

/** A stretch of the instruction's text, in UTF-16 units: from the first to after the last. */
export interface Span {
	readonly from: number;
	readonly to: number;
}

/** What an instruction may settle, with the form that its value has. */
export interface Values {
	readonly title: string;
	readonly course: string;
	/** ISO 8601 with an offset. */
	readonly due: string;
	/** Minutes. */
	readonly grace: number;
	readonly pages: { readonly min?: number; readonly max?: number };
	readonly paper: PaperName;
	readonly type: 'pdf' | 'zip';
	readonly maxBytes: number;
	/** With tokens in braces (naming/namePattern.ts); without extension. */
	readonly namePattern: string;
	readonly tone: readonly ToneName[];
	readonly questions: readonly Question[];
	/** Labels of the questions that begin on a new page, or all of them. */
	readonly newPage: readonly string[] | 'every';
}
export type ProposalKind = keyof Values;

/** A rule that an instruction seems to ask for. */
export interface ProposalOf<Kind extends ProposalKind> {
	readonly kind: Kind;
	readonly value: Values[Kind];
	/** The words that it comes from; at least one. */
	readonly spans: readonly Span[];
	/** False where the words can be meant otherwise. */
	readonly sure: boolean;
}
export type Proposal = { [Kind in ProposalKind]: ProposalOf<Kind> }[ProposalKind];

export function proposal<Kind extends ProposalKind>(
	kind: Kind,
	value: Values[Kind],
	spans: readonly Span[],
	sure = true
): ProposalOf<Kind> {
	return { kind, value, spans, sure };
}
