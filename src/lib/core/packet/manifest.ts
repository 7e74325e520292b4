import { piecesByQuestion, stretchesOf, withoutHeaders } from '../mapping/stretches';
import type { TextLine } from '../reading/pageReading';
import type { Finding } from '../rules/finding';
import type { Turn } from '../sheet/turn';
import type { Legibility } from '../legibility/legibility';
import type { NamesOnPage } from '../bundle/namePlaces';
import type { Packet, TrayReason } from './packet';

/** What a manifest says of one page. */
export interface ManifestPage {
	readonly source: string;
	readonly sourcePage: number;
	readonly half?: 0 | 1;
	readonly turn: Turn;
	readonly legibility: Pick<Legibility, 'score' | 'verdict' | 'reasons'>;
	readonly pageNumber: {
		readonly number: number;
		readonly of: number | null;
		readonly confidence: number;
	} | null;
	/** Where names stand, of a stack's packets. */
	readonly names?: NamesOnPage;
}

/** Everything that is in a file: which page answers which question, and what was checked (docs/formats.md). */
export interface Manifest {
	readonly file: { readonly name: string; readonly bytes: number; readonly sha256: string };
	readonly pages: readonly ({ readonly position: number } & ManifestPage)[];
	readonly setAside: readonly {
		readonly source: string;
		readonly sourcePage: number;
		readonly reason: TrayReason;
		readonly of?: number;
	}[];
	readonly missing: readonly number[];
	readonly map: readonly {
		readonly question: string;
		readonly stretches: readonly {
			readonly position: number;
			readonly top: number;
			readonly bottom: number;
		}[];
		readonly confidence: number;
	}[];
	readonly findings: readonly Pick<Finding, 'rule' | 'level' | 'message' | 'pages'>[];
}

export interface ManifestInput {
	/** With extension. */
	readonly file: Manifest['file'];
	readonly packet: Packet;
	readonly findings: readonly Finding[];
	/** Of every page, also of those set aside. */
	readonly page: (id: string) => ManifestPage & { readonly lines: readonly TextLine[] | null };
	/** Page numbers that nothing carries. */
	readonly missing?: readonly number[];
	/** The page that one set aside repeats. */
	readonly repeats?: (id: string) => string | null;
	/** How sure the seams of a question are; what a person set is. */
	readonly confidence?: (question: string) => number;
}

export function manifestOf(input: ManifestInput): Manifest {
	const { packet, page } = input;
	const stretches = withoutHeaders(stretchesOf(packet), (id) => page(id).lines);
	return {
		file: input.file,
		pages: packet.strip.map((id, i) => {
			const { source, sourcePage, half, turn, legibility, pageNumber, names } = page(id);
			const { score, verdict, reasons } = legibility;
			return {
				position: i + 1,
				source,
				sourcePage,
				...(half === undefined ? {} : { half }),
				turn,
				legibility: { score, verdict, reasons },
				pageNumber,
				...(names ? { names } : {})
			};
		}),
		setAside: packet.tray.map(({ page: id, reason }) => {
			const { source, sourcePage } = page(id);
			const of = packet.strip.indexOf(input.repeats?.(id) ?? '') + 1;
			return { source, sourcePage, reason, ...(of > 0 ? { of } : {}) };
		}),
		missing: input.missing ?? [],
		map: [...piecesByQuestion(stretches)].map(([question, pieces]) => ({
			question,
			stretches: pieces.map(({ position, top, bottom }) => ({ position, top, bottom })),
			confidence: input.confidence?.(question) ?? 1
		})),
		findings: input.findings.map(({ rule, level, message, pages }) => ({ rule, level, message, pages }))
	};
}

/** A row for each part of a page that answers a question, and one for each page that answers none. */
export interface ManifestRow {
	readonly position: number;
	readonly question: string;
	readonly top: string;
	readonly bottom: string;
	readonly source: string;
	readonly sourcePage: number;
	readonly turn: number;
	readonly pageNumber: string;
	readonly legibility: string;
	readonly verdict: string;
}

/** The manifest as a table, page by page (docs/formats.md). */
export function manifestRows({ pages, map }: Manifest): ManifestRow[] {
	return pages.flatMap((page) => {
		const row = (question: string, top: number, bottom: number): ManifestRow => ({
			position: page.position,
			question,
			top: top.toFixed(4),
			bottom: bottom.toFixed(4),
			source: page.source,
			sourcePage: page.sourcePage,
			turn: page.turn,
			pageNumber: page.pageNumber ? String(page.pageNumber.number) : '',
			legibility: page.legibility.score.toFixed(3),
			verdict: page.legibility.verdict
		});
		const rows = map.flatMap(({ question, stretches }) =>
			stretches
				.filter((s) => s.position === page.position)
				.map(({ top, bottom }) => row(question, top, bottom))
		);
		rows.sort((a, b) => Number(a.top) - Number(b.top));
		return rows.length > 0 ? rows : [row('', 0, 1)];
	});
}
