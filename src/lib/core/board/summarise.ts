import { answerables } from '../assignment/question';
import { VERDICTS, type Verdict } from '../legibility/legibility';
import { piecesByQuestion, stretchesOf, withoutHeaders } from '../mapping/stretches';
import type { Packet, Seam } from '../packet/packet';
import type { PageRecord } from '../page/pageRecord';
import type { Finding, Task } from '../rules/finding';
import type { RuleName, RuleSheet } from '../rules/ruleSheet';

/**
 * How one question stands in one packet: `open` while its pages are not all known, or while it is only proposed where it
 * stands; `skipped` where the student says that
 * it was not attempted, `absent` where nothing is mapped to it and nobody says why.
 */
export const CELL_STATES = ['blocks', 'look', 'open', 'absent', 'skipped', 'clear'] as const;
export type CellState = (typeof CELL_STATES)[number];

export interface QuestionCell {
	readonly question: string;
	readonly state: CellState;
	/** Positions on the strip, from 1, that it stands on. */
	readonly pages: readonly number[];
	/** The page to go to; the first one that something is wrong with, else the first. */
	readonly page: string | null;
	/** Of the worst of its pages; null while it is not known. */
	readonly verdict: Verdict | null;
}

/** A finding that is not clear, with where it is mended. */
export interface OpenFinding {
	readonly rule: RuleName;
	readonly level: 'look' | 'blocks';
	readonly message: string;
	readonly pages: readonly number[];
	readonly task: Task | null;
	readonly page: string | null;
}

/** What a board shows of a packet, but for the clock. */
export interface PacketSummary {
	/** Everything that can be answered, in the assignment's order. */
	readonly cells: readonly QuestionCell[];
	readonly open: readonly OpenFinding[];
	/** Of each page on the strip; null while it is not prepared. */
	readonly pages: readonly (Verdict | null)[];
}

/**
 * @param findings what the rules say of this packet
 * @param proposed seams that were read off its pages, and that nobody has confirmed
 */
export function summarise(
	sheet: Pick<RuleSheet, 'questions'>,
	packet: Packet,
	records: Readonly<Record<string, PageRecord | undefined>>,
	findings: readonly Finding[],
	proposed: readonly Seam[] = []
): PacketSummary {
	const legibilityOf = (page: string) => records[page]?.prepared?.legibility.verdict ?? null;
	const piecesIn = (seams: readonly Seam[]) =>
		piecesByQuestion(
			withoutHeaders(
				stretchesOf({ strip: packet.strip, seams }),
				(page) => records[page]?.reading?.lines ?? null
			)
		);
	const confirmed = piecesIn(packet.seams);
	const all = piecesIn([...packet.seams, ...proposed]);
	const wrong = findings.filter(isOpen);
	const unread = packet.strip.some((page) => !records[page]?.reading && !records[page]?.problem);
	return {
		cells: answerables(sheet.questions).map(({ id }): QuestionCell => {
			const isConfirmed = confirmed.has(id);
			const own = (isConfirmed ? confirmed : all).get(id) ?? [];
			const positions = [...new Set(own.map((p) => p.position))];
			const first = own[0]?.page ?? null;
			const skipped = !isConfirmed && packet.notAttempted.includes(id);
			if (first === null || skipped) {
				return {
					question: id,
					state: skipped ? 'skipped' : unread ? 'open' : 'absent',
					pages: [],
					page: null,
					verdict: null
				};
			}
			const here = wrong.filter((f) => f.pages.some((p) => positions.includes(p)));
			const level = here.some((f) => f.level === 'blocks') ? 'blocks' : here.length > 0 ? 'look' : null;
			const verdicts = positions.map((p) => legibilityOf(packet.strip[p - 1]!));
			const bad = positions.find((p) => here.some((f) => f.pages.includes(p)));
			return {
				question: id,
				state: !isConfirmed ? 'open' : (level ?? (verdicts.includes(null) ? 'open' : 'clear')),
				pages: positions,
				page: bad ? packet.strip[bad - 1]! : first,
				verdict: worst(verdicts)
			};
		}),
		open: wrong.map(({ rule, level, message, pages, fix }) => ({
			rule,
			level,
			message,
			pages,
			task: fix?.task ?? null,
			page: fix?.page ?? packet.strip[(pages[0] ?? 0) - 1] ?? null
		})),
		pages: packet.strip.map(legibilityOf)
	};
}

type Wrong = Finding & { readonly level: OpenFinding['level'] };

function isOpen(finding: Finding): finding is Wrong {
	return finding.level === 'look' || finding.level === 'blocks';
}

function worst(verdicts: readonly (Verdict | null)[]): Verdict | null {
	const known = verdicts.filter((v) => v !== null);
	return known.sort((a, b) => VERDICTS.indexOf(a) - VERDICTS.indexOf(b))[0] ?? null;
}
