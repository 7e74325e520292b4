import { proposeSeams, type ProposedSeam } from '../mapping/proposeSeams';
import { withLabelsSettled } from '../mapping/settleLabels';
import { cluesOfPages } from '../order/pageClues';
import { proposeOrder, type OrderProposal } from '../order/proposeOrder';
import type { PageRecord } from '../page/pageRecord';
import type { Packet } from '../packet/packet';
import { checkPages } from './check';
import type { Finding } from '../rules/finding';
import type { RuleSheet } from '../rules/ruleSheet';

/** What is judged: a packet as it stands, and what is known of its pages. */
export interface Judged {
	readonly sheet: RuleSheet;
	readonly packet: Packet;
	readonly records: Readonly<Record<string, PageRecord>>;
	readonly person: { readonly given: string; readonly family: string };
	/** False where reading is switched off. */
	readonly reads?: boolean;
}

/** All that a workspace works out of a packet without looking at the clock. */
export interface Judgement {
	readonly findings: readonly Finding[];
	/** The order that is read off the pages; null until all pages of the strip are read. */
	readonly order: OrderProposal | null;
	/** Seams read off the pages, beside those that a person set. */
	readonly seams: readonly ProposedSeam[];
}

/** Works it out. Of ten pages that takes some milliseconds; of hundreds, seconds: the order weighs every page with every other. */
export function judge({ sheet, packet, records, person, reads = true }: Judged): Judgement {
	const evidence = withLabelsSettled(records, packet);
	// Another sequence of the same pages is not another set of clues.
	const clues = cluesOfPages([...packet.strip].sort(), packet, evidence);
	const isRead = packet.strip.every((id) => evidence[id]?.reading || evidence[id]?.problem);
	return {
		findings: checkPages({ sheet, packet, evidence, person, reads }),
		order: clues.length > 0 && isRead ? proposeOrder(clues, sheet.questions) : null,
		seams: proposeSeams(
			sheet.questions,
			packet.strip.map((page) => ({ page, reading: evidence[page]?.reading ?? null })),
			packet.seams,
			packet.declined
		)
	};
}
