import type { Packet, Seam } from '../packet/packet';
import { weighedByOthers } from '../reading/alikeLabels';
import type { LabelCandidate } from '../reading/labelCandidates';
import type { PageReading } from '../reading/pageReading';

/** A person's seam this near to a label, as a fraction of the page, says what it says. */
const SAME_PLACE = 0.03;

/** What of a page's record matters here. */
interface Read {
	readonly reading: PageReading | null;
	readonly otherPerson: string | null;
}

/**
 * Weighs what may be labels on each page by how this writer writes labels: as the sure ones on all pages of the strip
 * are, and as those that a person placed a seam at. Pages set aside and pages of others tell nothing of it, and are
 * weighed each by itself.
 */
export function withLabelsSettled<Known extends Read>(
	records: Readonly<Record<string, Known>>,
	{ strip, seams, pages }: Pick<Packet, 'strip' | 'seams'> & Partial<Pick<Packet, 'pages'>>
): Record<string, Known> {
	const isOwn = (id: string) => records[id]!.otherPerson === null || pages?.[id]?.own === true;
	const own = strip.filter((id) => records[id]?.reading && isOwn(id));
	const told = own.map((id) =>
		records[id]!.reading!.labels.map((label) =>
			asPlaced(
				label,
				seams.filter((s) => s.page === id)
			)
		)
	);
	const settled = new Map(weighedByOthers(told).map((labels, i) => [own[i]!, labels]));
	return Object.fromEntries(
		Object.entries(records).map(([id, record]) => {
			const { reading } = record;
			if (!reading) return [id, record];
			const labels = settled.get(id) ?? weighedByOthers([reading.labels])[0]!;
			return [id, { ...record, reading: { ...reading, labels } }];
		})
	);
}

/** A label with a person's seam at it says for certain what the seam says, and in the form that it was read in. */
function asPlaced(label: LabelCandidate, seams: readonly Seam[]): LabelCandidate {
	const seam = seams.find((s) => Math.abs(s.y - label.y) < SAME_PLACE);
	const said = label.options.find(({ question, part }) =>
		seam?.questions.some((q) => (question === null ? q.endsWith(part!) : q === question + (part ?? '')))
	);
	return said ? { ...label, options: [{ ...said, probability: SURE }] } : label;
}

/** As sure as anything that is read. */
const SURE = 0.997;
